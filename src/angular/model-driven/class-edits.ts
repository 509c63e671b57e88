import * as t from '@babel/types';
import { codeText } from '../../form/code-text.js';
import type { LedgerEntry } from '../../form/ledger.js';
import { isRowField, type Field, type FormModel } from '../../form/model.js';
import { indentAt } from '../../source/style.js';
import type { Member } from '../component.js';
import { behindProperties, commentsIn, memberIndent, memberRemoval, type FileEdit } from '../writing.js';
import { groupText, type ControlFacts } from './group-text.js';
import type { ConditionalField } from './conditional.js';
import { followingText } from './following.js';
import { initialArrayText, rowDeclarations, rowTypeEdits } from './rows-text.js';
import { type ModelDraft, inGroup, isStandalone, pathText, memberOfStandalone } from './draft.js';

function membersGoing(draft: ModelDraft): Member[] {
  const spans = draft.model.declarations.map(({ span }) => span.start);
  return [...draft.component.members.values()].filter(({ node }) => spans.includes(node.start ?? -1));
}

/** Comments that stand in what goes, by the field they speak of. */
function commentsByField(
  draft: ModelDraft,
  fields: readonly Field[],
): Map<string, { before: string[]; behind: string | undefined }> {
  const found = new Map<string, { before: string[]; behind: string | undefined }>();
  const { script } = draft.component;
  const [first] = fields;
  const own = fields.filter(({ name }) => !isRowField(name));
  for (const member of membersGoing(draft)) {
    for (const comment of commentsIn(script, { start: member.node.start ?? 0, end: member.node.end ?? 0 })) {
      const onLineBefore = own
        .filter(
          ({ declared }) =>
            declared.file === script.file &&
            declared.end <= comment.start &&
            !script.text.slice(declared.end, comment.start).includes('\n'),
        )
        .at(-1);
      const next = own.find(({ declared }) => declared.file === script.file && declared.start >= comment.end);
      const target = onLineBefore ?? next ?? first;
      if (!target) continue;
      const entry = found.get(target.name) ?? { before: [], behind: undefined };
      if (onLineBefore && entry.behind === undefined) entry.behind = comment.text;
      else entry.before.push(comment.text);
      found.set(target.name, entry);
    }
  }
  return found;
}

/** Edits of the class: the model goes, and a member for each value takes its place. */
export function classEdits(
  draft: ModelDraft,
  conditional: readonly ConditionalField[],
  ledger: LedgerEntry[],
): FileEdit[] {
  const { model, context, component } = draft;
  const { script } = component;
  const { style } = context;
  const fields = inGroup(draft);
  const comments = commentsByField(draft, model.fields);
  const staysInTemplate = new Set(
    model.rules.filter(({ constraint }) => !constraint).map(({ condition }) => condition),
  );
  const factsOf = (field: Field): ControlFacts => ({
    keepsType: !draft.nullable.has(field.name),
    initial: initialText(field, draft),
    type: typeText(field, draft),
    disabled: model.controls.some(
      ({ field: name, binding }) => name === field.name && binding?.disabled?.constant === true,
    ),
    comments: comments.get(field.name) ?? { before: [], behind: undefined },
    staysInTemplate,
  });
  const going = membersGoing(draft).filter((member) => !(draft.keepsDirective && isQuery(member, draft)));
  const anchor = going.find((member) => !isQuery(member, draft)) ?? going[0];
  const indent = anchor ? indentAt(script.text, anchor.node.start ?? 0) : memberIndent(component);
  const access = accessOf(anchor);
  const lead = `${access}readonly ${draft.group} = `;
  const lines: string[] = [];
  if (fields.length)
    lines.push(
      `${lead}${groupText(model, fields, factsOf, context, indent, indent.length + lead.length + 1)}${style.semicolon}`,
    );
  for (const field of model.fields.filter(({ name }) => isStandalone(name, draft))) {
    const alone = groupText(
      { ...model, template: undefined } as unknown as FormModel,
      [{ ...field, name: 'only' }],
      () => factsOf(field),
      context,
      indent,
      0,
    );
    const control = /^new FormGroup\(\{\s*only: ([\s\S]*?),?\s*\}\)$/.exec(alone)?.[1] ?? alone;
    lines.push(`${access}readonly ${memberOfStandalone(field.name)} = ${control}${style.semicolon}`);
  }
  for (const [field, alias] of draft.aliases)
    lines.push(`${access}readonly ${alias} = this.${pathText(field, draft)}${style.semicolon}`);
  if (draft.signal) {
    const [form, raw] = [`this.${draft.group}`, `this.${draft.group}.getRawValue()`];
    const parts = [`${form}.valueChanges.pipe(map(() => ${raw}))`, `{ initialValue: ${raw} }`];
    const lead = `private readonly ${draft.signal.name} = toSignal(`;
    const inner = style.newline + indent + style.indent;
    const short = `${lead}${parts.join(', ')})${style.semicolon}`;
    const comma = style.trailingComma ? ',' : '';
    const long = `${lead}${inner}${parts.join(`,${inner}`)}${comma}${style.newline}${indent})${style.semicolon}`;
    lines.push(indent.length + short.length <= style.width ? short : long);
  }
  for (const make of draft.rowMembers) lines.push(`protected readonly ${make} = ${make}${style.semicolon}`);
  const edits: FileEdit[] = [];
  const place = behindProperties(component);
  const text = lines.join(style.newline + indent);
  if (anchor) {
    const start = memberStart(anchor);
    edits.push({ file: script.file, start, end: anchor.node.end ?? start, text });
    for (const member of going)
      if (member !== anchor) edits.push({ file: script.file, ...memberRemoval(script, member) });
  } else edits.push({ file: script.file, start: place, end: place, text: `${style.newline}${indent}${text}` });
  for (const member of going)
    ledger.push({
      entry: isQuery(member, draft) ? 'retired' : 'carried',
      span: { file: script.file, start: member.node.start ?? 0, end: member.node.end ?? 0 },
      what: `member ${member.name}`,
      why: isQuery(member, draft) ? 'the class holds the group itself' : `its values are controls of ${draft.group}`,
    });
  edits.push(...givenEdits(draft), ...rowTypeEdits(draft));
  const above = rowDeclarations(draft, factsOf);
  if (above.length)
    edits.push({
      file: script.file,
      start: model.before,
      end: model.before,
      text: above.map((text) => text + style.newline + style.newline).join(''),
    });
  edits.push(...followingText(conditional, draft, indent));
  return edits;
}

function isQuery(member: Member, draft: ModelDraft): boolean {
  return draft.model.declarations.some(({ role, span }) => role === 'support' && span.start === member.node.start);
}

function memberStart(member: Member): number {
  const start = member.node.start ?? 0;
  const decorators = 'decorators' in member.node ? (member.node.decorators ?? []) : [];
  return Math.min(start, ...decorators.map((decorator) => decorator.start ?? start));
}

function accessOf(member: Member | undefined): string {
  const node = member?.node;
  const accessibility = t.isClassProperty(node) ? node.accessibility : undefined;
  return accessibility && accessibility !== 'private' ? `${accessibility} ` : '';
}

function initialText(field: Field, draft: ModelDraft): string {
  if (field.kind === 'list of rows' && draft.rows.some(({ list }) => list.field === field.name))
    return initialArrayText(field, draft);
  if (field.initial.text !== 'undefined')
    return field.initial.code ? codeText(field.initial.code, draft.printer) : field.initial.text;
  if (field.kind === 'number') return 'null';
  if (field.kind === 'boolean') return 'false';
  const bare = field.type?.replace(/\s*\|\s*(null|undefined)\b/g, '').trim();
  return bare === undefined || bare === 'string' || bare === 'any' ? "''" : 'null';
}

/** A type's text that can stand in the class's file: names that only another file has are reached through the model. */
function typeText(field: Field, draft: ModelDraft): string | undefined {
  const { type } = field;
  if (type === undefined) return undefined;
  const { script, members } = draft.component;
  const names = type.replace(/(['"`])[^'"`]*\1/g, '').match(/\b[A-Z]\w*/g) ?? [];
  const known = (name: string): boolean =>
    /^(Date|File|FileList|Array|Set|Map|Record|Partial|Readonly|Blob)$/.test(name) ||
    new RegExp(`\\b${name}\\b`).test(script.text);
  if (names.every(known)) return type.replace(/\s*\|\s*undefined\b/g, ' | null');
  const [root, ...keys] = field.names.value?.split('.') ?? [];
  const node = members.get(root ?? '')?.node;
  const written =
    t.isClassProperty(node) && t.isTSTypeAnnotation(node.typeAnnotation)
      ? node.typeAnnotation.typeAnnotation
      : undefined;
  if (!written) return undefined;
  return script.text.slice(written.start ?? 0, written.end ?? 0) + keys.map((key) => `['${key}']`).join('');
}

/** Methods that were given the form: they know it by themselves, or are given its directive. */
function givenEdits(draft: ModelDraft): FileEdit[] {
  const { model, context, component } = draft;
  const edits: FileEdit[] = [];
  for (const { method, parameter, argument, of, name } of model.template?.given ?? []) {
    const text = context.text(component.script.file);
    const type = /:\s*(NgForm|NgModel|any)\b/.exec(text.slice(parameter.start, parameter.end));
    if (of !== undefined || draft.keepsDirective) {
      const wanted = of === undefined ? 'FormGroupDirective' : 'AbstractControl';
      if (type && type[1] !== 'any') {
        const start = parameter.start + type.index + type[0].length - (type[1]?.length ?? 0);
        edits.push({ file: component.script.file, start, end: start + (type[1]?.length ?? 0), text: wanted });
      }
      continue;
    }
    const member = component.members.get(method)?.node;
    if (!t.isClassMethod(member) || name === '') continue;
    edits.push({ file: component.script.file, ...listItem(text, parameter) });
    for (const one of argument) edits.push({ file: one.file, ...listItem(context.text(one.file), one) });
  }
  for (const { parameter } of model.template?.asked ?? []) {
    const text = context.text(parameter.file).slice(parameter.start, parameter.end);
    for (const { index } of text.matchAll(/\bNgModel\b/g)) {
      const start = parameter.start + index;
      edits.push({ file: parameter.file, start, end: start + 'NgModel'.length, text: 'AbstractControl' });
    }
  }
  for (const member of membersGoing(draft)) {
    if (!draft.keepsDirective || !isQuery(member, draft)) continue;
    const { start, end } = { start: member.node.start ?? 0, end: member.node.end ?? 0 };
    const text = component.script.text.slice(start, end);
    for (const match of text.matchAll(/\bNgForm\b/g))
      edits.push({
        file: component.script.file,
        start: start + match.index,
        end: start + match.index + 6,
        text: 'FormGroupDirective',
      });
  }
  return edits;
}

/** An item of a list in parentheses, with its comma. */
function listItem(text: string, span: { start: number; end: number }): { start: number; end: number; text: string } {
  const behind = /^\s*,\s*/.exec(text.slice(span.end));
  if (behind) return { start: span.start, end: span.end + behind[0].length, text: '' };
  const before = /,\s*$/.exec(text.slice(0, span.start));
  return { start: span.start - (before?.[0].length ?? 0), end: span.end, text: '' };
}
