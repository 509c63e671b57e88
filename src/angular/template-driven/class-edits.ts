import { codeText } from '../../form/code-text.js';
import type { LedgerEntry } from '../../form/ledger.js';
import { isRowField } from '../../form/model.js';
import { indentAt } from '../../source/style.js';
import type { WatchUse } from '../../form/uses.js';
import { accessOf, fieldsWithComments, groupMember, heldAnew, isFlat } from '../spare-code.js';
import { behindProperties, memberIndent, type FileEdit } from '../writing.js';
import { interfaceText, startDeclaration, typesAreTold, valuesText } from '../values-text.js';
import { calledMethod, watchName } from './handler-names.js';
import { type TemplateDraft } from './draft.js';
import { streamLines } from './streams.js';

/** A member for rules that no attribute states. */
export function memberOfRules(key: string, async: boolean, draft: TemplateDraft): string {
  const base = (key.split('.').at(-1) || 'form').replace(/\W+(\w)/g, (_, letter: string) => letter.toUpperCase());
  const wished = async ? `${base}LaterRules` : `${base}Rules`;
  return draft.component.members.has(wished) ? `${wished}OfForm` : wished;
}

/** The class: values come where the group was; getters of controls go; the form is asked for where the class needs it. */
export function classEdits(draft: TemplateDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { model, context, component } = draft;
  const { script } = component;
  const { style } = context;
  const group = groupMember(draft);
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
  lines.push(...streamLines(draft));
  for (const list of draft.ruleMembers.values())
    for (const { member, codes } of list)
      lines.push(`protected readonly ${member} = [${codes.join(', ')}]${style.semicolon}`);
  const above: string[] = [];
  if (!told) above.push(interfaceText(draft.typeName, all, context));
  if (draft.needs.start) above.push(startDeclaration({ ...draft, told, flat: isFlat(draft) }, values));
  const anew = {
    lines,
    above,
    statements: model.uses.flatMap((use) => (use.kind === 'watch' ? [use.statement] : [])),
    called: (use: WatchUse) => calledMethod(use, draft) !== undefined,
    held: `${draft.values} holds the values; the template makes the controls`,
    gone: 'the template knows the control by a name of its own',
  };
  return [...heldAnew(draft, group, anew, ledger), ...directiveTypes(draft)];
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
