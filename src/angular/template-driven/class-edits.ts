import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { codeText } from '../../form/code-text.js';
import type { LedgerEntry } from '../../form/ledger.js';
import { isRowField, type Field } from '../../form/model.js';
import { indentAt } from '../../source/style.js';
import type { Member } from '../component.js';
import { behindProperties, commentsIn, memberIndent, memberRemoval, type FileEdit } from '../writing.js';
import { interfaceText, typesAreTold, valuesText } from './values-text.js';
import { calledMethod, watchName } from './handler-names.js';
import { statementRemoval } from './module-edits.js';
import { type TemplateDraft } from './draft.js';

/** A member for rules that no attribute states. */
export function memberOfRules(key: string, async: boolean, draft: TemplateDraft): string {
  const base = (key.split('.').at(-1) || 'form').replace(/\W+(\w)/g, (_, letter: string) => letter.toUpperCase());
  const wished = async ? `${base}LaterRules` : `${base}Rules`;
  return draft.component.members.has(wished) ? `${wished}OfForm` : wished;
}

function membersGoing(draft: TemplateDraft): Member[] {
  const starts = draft.model.declarations.map(({ span }) => span.start);
  return [...draft.component.members.values()].filter(({ node }) => starts.includes(node.start ?? -1));
}

/** Comments of what goes, put with the fields they speak of. */
function fieldsWithComments(draft: TemplateDraft, group: Member): Field[] {
  const { script } = draft.component;
  const { model } = draft;
  const spans = model.declarations.map(({ span }) => span).filter(({ file }) => file === script.file);
  const built = spans.filter(
    (span) =>
      span.start === group.node.start ||
      model.fields.some(({ declared }) => declared.start >= span.start && declared.end <= span.end),
  );
  const all = model.fields.map((field) => ({ ...field, commentsBefore: [...field.commentsBefore] }));
  const fields = all.filter(({ name }) => !isRowField(name));
  for (const span of built) {
    for (const comment of commentsIn(script, span)) {
      const behind = fields
        .filter(
          ({ declared }) =>
            declared.end <= comment.start && !script.text.slice(declared.end, comment.start).includes('\n'),
        )
        .at(-1);
      const next = fields.find(({ declared }) => declared.start >= comment.end) ?? fields[0];
      if (behind && behind.commentBehind === undefined) behind.commentBehind = comment.text;
      else next?.commentsBefore.push(comment.text);
    }
  }
  return all;
}

function accessOf(member: Member): string {
  const { node } = member;
  const accessibility = t.isClassProperty(node) ? node.accessibility : undefined;
  return accessibility && accessibility !== 'private' ? `${accessibility} ` : '';
}

/** The class: values come where the group was; getters of controls go; the form is asked for where the class needs it. */
export function classEdits(draft: TemplateDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { model, context, component } = draft;
  const { script } = component;
  const { style } = context;
  const { file } = script;
  const going = membersGoing(draft);
  const group = going.find(({ name }) => name === model.template?.member) ?? going[0];
  if (!group) return [];
  const indent = indentAt(script.text, group.node.start ?? 0);
  const all = fieldsWithComments(draft, group);
  const fields = all.filter(({ name }) => !isRowField(name));
  const told = typesAreTold(fields);
  const lead = `${accessOf(group)}${draft.values}${told ? '' : `: ${draft.typeName}`} = `;
  const values = (at: string, used: number): string =>
    valuesText(
      fields,
      (field) => (field.initial.code ? codeText(field.initial.code, draft.printer) : field.initial.text),
      context,
      at,
      used,
    );
  const lines = [
    draft.needs.start
      ? `${lead}${isFlat(draft) ? `{ ...${draft.startName} }` : `${draft.startName}()`}${style.semicolon}`
      : `${lead}${values(indent, indent.length + lead.length + 1)}${style.semicolon}`,
  ];
  if (draft.needs.startMember)
    lines.push(`protected readonly ${draft.startName} = ${draft.startName}${style.semicolon}`);
  if (draft.needs.query && model.template?.query === undefined) {
    const isRoot =
      component.template.elements.find(({ start }) => start === model.template?.element?.start)?.view.kind === 'root';
    const quote = (text: string): string => style.quote + text + style.quote;
    lines.push(
      `@ViewChild(${quote(draft.form)}${isRoot ? ', { static: true }' : ''}) private readonly ${draft.form}!: NgForm${style.semicolon}`,
    );
  }
  for (const list of draft.ruleMembers.values())
    for (const { member, codes } of list)
      lines.push(`protected readonly ${member} = [${codes.join(', ')}]${style.semicolon}`);
  const edits: FileEdit[] = [
    { file, start: group.node.start ?? 0, end: group.node.end ?? 0, text: lines.join(style.newline + indent) },
  ];
  for (const member of going) if (member !== group) edits.push({ file, ...memberRemoval(script, member) });
  const statements = model.declarations
    .filter(({ role, span }) => role === 'support' && !going.some(({ node }) => node.start === span.start))
    .map(({ span }) => span);
  for (const use of model.uses) if (use.kind === 'watch') statements.push(use.statement);
  const spare = spareEdits(draft, statements);
  const covered = (span: { start: number; end: number }): boolean =>
    spare.some((edit) => edit.start <= span.start && edit.end >= span.end);
  for (const span of statements) if (!covered(span)) edits.push(statementRemoval(script.text, span));
  const above: string[] = [];
  if (!told) above.push(interfaceText(draft.typeName, all, context));
  if (draft.needs.start) above.push(startDeclaration(draft, told, values));
  if (above.length) {
    const text = above.join(style.newline + style.newline) + style.newline + style.newline;
    edits.push({ file, start: model.before, end: model.before, text });
  }
  edits.push(...spare, ...directiveTypes(draft));
  ledger.push({
    entry: 'carried',
    span: { file, start: group.node.start ?? 0, end: group.node.end ?? 0 },
    what: `member ${group.name}`,
    why: `${draft.values} holds the values; the template makes the controls`,
  });
  for (const member of going)
    if (member !== group)
      ledger.push({
        entry: 'retired',
        span: { file, start: member.node.start ?? 0, end: member.node.end ?? 0 },
        what: `member ${member.name}`,
        why: 'the template knows the control by a name of its own',
      });
  return edits;
}

/** The constant a form starts with and goes back to; a function where parts of it would be shared otherwise. */
function startDeclaration(
  draft: TemplateDraft,
  told: boolean,
  values: (indent: string, used: number) => string,
): string {
  const { semicolon } = draft.context.style;
  if (isFlat(draft)) {
    const lead = `const ${draft.startName}${told ? '' : `: ${draft.typeName}`} = `;
    return `${lead}${values('', lead.length + 1)}${semicolon}`;
  }
  const lead = `const ${draft.startName} = ()${told ? '' : `: ${draft.typeName}`} => (`;
  return `${lead}${values('', lead.length + 2)})${semicolon}`;
}

/** Whether a copy of the values' object shares nothing with it. */
export function isFlat({ model }: TemplateDraft): boolean {
  return model.fields.every(
    ({ name, initial }) => !isRowField(name) && !name.includes('.') && !/^[[{]|^new /.test(initial.text),
  );
}

/** Where a member or a parameter stands for the form's directive, its type is another one now. */
function directiveTypes({ component, model }: TemplateDraft): FileEdit[] {
  const { script, members } = component;
  const query = members.get(model.template?.query ?? '')?.node;
  const spans = [
    ...(query ? [{ start: query.start ?? 0, end: query.end ?? 0 }] : []),
    ...(model.template?.given ?? []).map(({ parameter }) => parameter),
  ];
  return spans.flatMap(({ start, end }) =>
    [...script.text.slice(start, end).matchAll(/\bFormGroupDirective\b/g)].map((match) => ({
      file: script.file,
      start: start + match.index,
      end: start + match.index + match[0].length,
      text: 'NgForm',
    })),
  );
}

/** The constructors and early hooks of which nothing is left when some statements go. */
function emptied(statements: readonly { start: number; end: number }[], draft: TemplateDraft): t.ClassMethod[] {
  return draft.component.path.node.body.body.filter((member): member is t.ClassMethod => {
    if (!t.isClassMethod(member) || !member.body.body.length) return false;
    const early = member.kind === 'constructor' || t.isIdentifier(member.key, { name: 'ngOnInit' });
    const gone = member.body.body.every((one) => statements.some(({ start }) => start === one.start));
    return early && gone && !member.params.length && !(member.body.innerComments?.length ?? 0);
  });
}

/** Builders that nobody asks any more, and a constructor or a hook that only built the group. */
function spareEdits(draft: TemplateDraft, statements: readonly { start: number; end: number }[]): FileEdit[] {
  const { component, model } = draft;
  const { script } = component;
  const { file } = script;
  const edits: FileEdit[] = [];
  const gone = [
    ...model.declarations.map(({ span }) => span),
    ...model.uses.flatMap((use) => (use.kind === 'make-row' ? [use.span] : [])),
    ...model.uses.flatMap((use) =>
      use.kind === 'watch'
        ? [{ ...use.span, end: use.code.start }, use.statement].slice(0, calledMethod(use, draft) ? 2 : 1)
        : [],
    ),
  ];
  const isGone = (node: { start?: number | null }): boolean =>
    gone.some((span) => (node.start ?? 0) >= span.start && (node.start ?? 0) < span.end);
  const constructor = component.path.node.body.body.find(
    (member): member is t.ClassMethod => t.isClassMethod(member) && member.kind === 'constructor',
  );
  const builders = [...component.members.values(), ...plainParameters(draft)].filter(({ node, references }) => {
    const text = script.text.slice(node.start ?? 0, node.end ?? 0);
    const asked =
      /\b(NonNullable|Untyped)?FormBuilder\b/.test(text) || (/=\s*inject\(/.test(text) && references.length > 0);
    return asked && references.every((path) => isGone(path.node));
  });
  const spare = emptied(statements, draft);
  for (const builder of builders) {
    if (builder.kind !== 'parameter') {
      edits.push({ file, ...memberRemoval(script, builder) });
      continue;
    }
    const others = constructor?.params.filter((parameter) => parameter !== builder.node) ?? [];
    const left =
      constructor?.body.body.filter((statement) => !statements.some(({ start }) => start === statement.start)) ?? [];
    if (constructor && !others.length && !left.length) {
      if (!spare.includes(constructor)) spare.push(constructor);
      continue;
    }
    const { start, end } = { start: builder.node.start ?? 0, end: builder.node.end ?? 0 };
    const behind = /^\s*,\s*/.exec(script.text.slice(end));
    const before = /,\s*$/.exec(script.text.slice(0, start));
    edits.push({
      file,
      start: behind ? start : start - (before?.[0].length ?? 0),
      end: behind ? end + behind[0].length : end,
      text: '',
    });
  }
  for (const member of spare) {
    const comments = commentsIn(script, { start: member.start ?? 0, end: member.end ?? 0 }).filter(
      (comment) => !gone.some((span) => comment.start >= span.start && comment.end <= span.end),
    );
    if (comments.length) continue;
    const name = t.isIdentifier(member.key) ? member.key.name : '';
    const removal = memberRemoval(script, { node: member });
    edits.push({ file, ...removal });
    if (name === 'ngOnInit') edits.push(...interfaceRemoval(draft));
  }
  return edits;
}

/** Parameters of the constructor that are no members of the class, with their references. */
function plainParameters({ component }: TemplateDraft): { kind: 'parameter'; node: t.Node; references: NodePath[] }[] {
  const constructor = component.path
    .get('body')
    .get('body')
    .find((member) => member.isClassMethod({ kind: 'constructor' }));
  if (!constructor?.isClassMethod()) return [];
  return constructor.get('params').flatMap((parameter) => {
    if (!parameter.isIdentifier()) return [];
    const references = constructor.scope.getOwnBinding(parameter.node.name)?.referencePaths ?? [];
    return [{ kind: 'parameter' as const, node: parameter.node, references }];
  });
}

/** `implements OnInit` goes with the hook it asks for. */
function interfaceRemoval({ component }: TemplateDraft): FileEdit[] {
  const { script, path } = component;
  const list = path.node.implements ?? [];
  const index = list.findIndex((one) => script.text.slice(one.start ?? 0, one.end ?? 0) === 'OnInit');
  const one = list[index];
  if (!one) return [];
  const text = script.text;
  if (list.length === 1) {
    const start = text.slice(0, one.start ?? 0).search(/\s+implements\s+$/);
    return [{ file: script.file, start, end: one.end ?? 0, text: '' }];
  }
  const next = list[index + 1];
  const previous = list[index - 1];
  return [
    {
      file: script.file,
      start: next ? (one.start ?? 0) : (previous?.end ?? 0),
      end: next ? (next.start ?? 0) : (one.end ?? 0),
      text: '',
    },
  ];
}

/** Code that followed a field becomes a method that the template calls when a person changes it. */
export function watchEdits(draft: TemplateDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { model, context, component } = draft;
  const { style } = context;
  const edits: FileEdit[] = [];
  for (const use of model.uses) {
    if (use.kind !== 'watch' || use.of === undefined) continue;
    const called = calledMethod(use, draft);
    if (called) {
      ledger.push({
        entry: 'carried',
        span: use.span,
        what: `changes of ${use.of} followed`,
        why: `the control calls ${called.name}`,
      });
      continue;
    }
    const name = watchName(use.of, draft);
    const field = model.fields.find((one) => one.name === use.of);
    const code = codeText(use.code, draft.printer);
    const parts = /^(?:\(([^()]*)\)|(\w+))\s*=>\s*([\s\S]*)$/.exec(code.trim());
    const indent = memberIndent(component);
    const old = indentAt(context.text(use.span.file), use.span.start);
    const parameter = (parts?.[1] ?? parts?.[2] ?? '').trim();
    const typed = parameter === '' || parameter.includes(':') ? parameter : `${parameter}: ${field?.type ?? 'unknown'}`;
    const body = parts?.[3] ?? `(${code})(value)`;
    const block = body.startsWith('{')
      ? body
      : `{${style.newline}${old}${style.indent}${body}${style.semicolon}${style.newline}${old}}`;
    const text = `${name}(${typed}): void ${block}`
      .split('\n')
      .map((line, index) => (index > 0 && line.startsWith(old) ? indent + line.slice(old.length) : line))
      .join('\n');
    const place = component.path.node.body.body.at(-1)?.end ?? behindProperties(component);
    edits.push({
      file: component.script.file,
      start: place,
      end: place,
      text: `${style.newline}${style.newline}${indent}${text}`,
    });
    ledger.push({
      entry: 'carried',
      span: use.span,
      what: `changes of ${use.of} followed`,
      why: `the control calls ${name}`,
    });
  }
  return edits;
}
