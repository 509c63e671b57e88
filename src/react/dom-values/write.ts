import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { Control, Field, FormModel } from '../../form/model.js';
import type { Span } from '../../form/code.js';
import type { Use } from '../../form/uses.js';
import { leftByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import { wholeLines } from '../../source/removal.js';
import type { Script } from '../../source/script.js';
import { quoted } from '../../source/style.js';
import { functionOf, type FunctionPath } from '../components.js';
import { reactImportEdits } from '../import-edits.js';
import { attribute, attributesOf, type JsxAttribute } from '../jsx-controls.js';
import { namedReferences } from '../references.js';
import { walk } from '../../source/traverse.js';

interface Draft {
  model: FormModel;
  context: WriteContext;
  script: Script;
  form: NodePath<t.JSXElement>;
  handler: FunctionPath;
  ledger: LedgerEntry[];
  edits: RewritePlan['edits'];
  /** Comments of the state that goes. */
  commentsOfState: string[];
}

/** Writes a form whose values the page keeps and the submit asks for. */
export function writePageValues(model: FormModel, context: WriteContext): RewritePlan {
  const script = context.script(model.file);
  const found = formOf(model, script);
  const byHand: LedgerEntry[] = unclearEntries(model);
  if (!found) {
    byHand.push({
      entry: 'by-hand',
      span: { ...model.span, end: model.span.start },
      what: model.name,
      why: 'no form’s element hands its submit to a function of the component, which could ask the page',
    });
    return leftByHand(byHand);
  }
  const draft: Draft = { model, context, script, ...found, ledger: [], edits: [], commentsOfState: [] };
  byHand.push(...unsayable(draft));
  if (byHand.length) return leftByHand(byHand);
  for (const control of model.controls) controlEdits(control, draft);
  stateEdits(draft);
  submitEdits(draft);
  const kept = draft.ledger.filter(({ entry }) => entry === 'by-hand');
  if (kept.length) return leftByHand(kept);
  const states = model.declarations.filter(({ role }) => role === 'state').length;
  const imports = reactImportEdits(
    script,
    { add: [], drop: ['useState'] },
    (name) => namedReferences(script, name) - states,
  );
  draft.edits.push(...imports.edits.map((edit) => ({ file: model.file, ...edit })));
  for (const rule of model.rules)
    draft.ledger.push({ entry: 'kept', span: rule.span, what: rule.condition, why: 'it reads the same names' });
  return { edits: draft.edits, creates: [], deletes: [], dependencies: [], ledger: draft.ledger };
}

function formOf(model: FormModel, script: Script): { form: NodePath<t.JSXElement>; handler: FunctionPath } | undefined {
  let found: { form: NodePath<t.JSXElement>; handler: FunctionPath } | undefined;
  walk(script.program, {
    JSXElement(path) {
      const { start, end } = path.node;
      const holds = model.controls.some(({ span }) => span.start > (start ?? 0) && span.end < (end ?? 0));
      if (found || !holds || !t.isJSXIdentifier(path.node.openingElement.name, { name: 'form' })) return;
      const submit = attributesOf(path).find(({ name }) => name === 'onSubmit');
      const handler = submit?.value && functionOf(submit.value);
      if (handler) found = { form: path, handler };
    },
  });
  return found;
}

function inside(span: { start: number; end: number }, outer: { start: number; end: number }): boolean {
  return span.start >= outer.start && span.end <= outer.end;
}

function nodeSpan(file: string, node: t.Node): Span {
  return { file, start: node.start ?? 0, end: node.end ?? 0 };
}

/** The element of a control with its attributes. */
function elementOf(
  control: Control,
  draft: Draft,
): { path: NodePath<t.JSXElement>; attributes: JsxAttribute[] } | undefined {
  let found: { path: NodePath<t.JSXElement>; attributes: JsxAttribute[] } | undefined;
  walk(draft.form, {
    JSXElement(path) {
      if (path.node.start === control.span.start) found = { path, attributes: attributesOf(path) };
    },
  });
  return found;
}

/** The attributes through which a control shows its field and reports changes: the page does both by itself. */
function ownAttributes(control: Control, draft: Draft): JsxAttribute[] {
  return (elementOf(control, draft)?.attributes ?? []).filter(
    ({ name }) => name === control.shows || name === control.changes,
  );
}

function isOwn(use: Use, draft: Draft): boolean {
  return draft.model.controls.some((control) =>
    ownAttributes(control, draft).some(({ path }) => inside(use.span, nodeSpan(draft.model.file, path.node))),
  );
}

/** Changes that give every field its first value in statements of one function: the page's own reset does that. */
function resetRuns(draft: Draft): Use[] {
  const { model } = draft;
  const sets = model.uses.filter((use) => use.kind === 'set' && !isOwn(use, draft));
  const back = sets.filter(
    (use) =>
      use.kind === 'set' &&
      use.statement !== undefined &&
      use.assignments.every(({ field, value }) => {
        const known = model.fields.find(({ name }) => name === field);
        if (value.kind === 'initial') return true;
        if (value.kind !== 'value' || value.operator !== undefined) return false;
        return draft.script.text.slice(value.code.start, value.code.end) === known?.initial.text;
      }),
  );
  const fields = new Set(back.flatMap((use) => (use.kind === 'set' ? use.assignments.map(({ field }) => field) : [])));
  const complete = model.fields.every(({ name }) => fields.has(name)) && back.length === model.fields.length;
  return complete && back.every(({ where }) => where === 'submit') ? back : [];
}

/** What the page cannot say: it has no value of a field between two submits. */
function unsayable(draft: Draft): LedgerEntry[] {
  const { model, context, handler } = draft;
  const entries: LedgerEntry[] = [];
  const text = (span: Span): string => context.text(span.file).slice(span.start, span.end).split('\n')[0] ?? '';
  const byHand = (span: Span, what: string, why: string): void => {
    entries.push({ entry: 'by-hand', span, what, why });
  };
  const reset = resetRuns(draft);
  for (const use of model.uses) {
    if (isOwn(use, draft) || reset.includes(use)) continue;
    if (use.kind === 'read' && use.where === 'submit' && inside(use.span, nodeSpan(model.file, handler.node))) continue;
    const why =
      use.kind === 'read'
        ? 'it is needed before the submit, when nobody has asked the page for it'
        : use.kind === 'set'
          ? 'the value is changed here, which only the person does when the page keeps it'
          : 'this needs the values while they are typed';
    byHand(use.span, text(use.span), why);
  }
  for (const control of model.controls) {
    const element = elementOf(control, draft);
    if (!element) {
      byHand(control.span, control.element, 'it stands outside of the form’s element');
      continue;
    }
    if (!/^(input|select|textarea)$/.test(control.element))
      byHand(control.span, control.element, 'a component of the project keeps no value by itself');
    if (attribute(element, 'disabled'))
      byHand(control.span, control.element, 'a disabled control is left out when the page is asked');
    const comes = element.path.findParent(
      (parent) =>
        parent.node === draft.form.node ||
        parent.isConditionalExpression() ||
        parent.isLogicalExpression() ||
        parent.isCallExpression(),
    );
    if (comes?.node !== draft.form.node && control.type !== 'radio')
      byHand(control.span, control.element, 'it is not there at all times');
    const turns = control.type === 'checkbox' && /^!\w+$/.test(control.wayIn ?? '');
    if (control.wayIn !== undefined && !turns)
      byHand(control.span, control.wayIn, 'what is typed is shown in another form at once');
    if (control.element === 'select' && attribute(element, 'multiple'))
      byHand(control.span, control.element, 'several choices are asked of the page in another way');
    for (const { name, value } of ownAttributes(control, draft)) {
      if (name !== control.changes || !value) continue;
      if (!isPlainHandler(value, control, draft))
        byHand(nodeSpan(model.file, value.node), 'what runs when it changes', 'it does more than to take the value');
    }
  }
  for (const field of model.fields) {
    if (!model.controls.some((control) => control.field === field.name))
      byHand(field.declared, field.name, 'no control of the page holds it');
    if (field.initial.when !== 'constant' && /\(/.test(field.initial.text))
      byHand(field.declared, field.name, 'what it begins with is worked out once');
  }
  if (handler.node.async && waitsFirst(handler, model))
    byHand(nodeSpan(model.file, handler.node), 'the submit', 'it waits before it reads the values');
  return entries;
}

function waitsFirst(handler: FunctionPath, model: FormModel): boolean {
  let wait = Number.POSITIVE_INFINITY;
  walk(handler, {
    AwaitExpression(path) {
      wait = Math.min(wait, path.node.start ?? 0);
    },
  });
  // the values are taken at the start, where a later read saw them as they were at the submit as well
  return model.uses.some((use) => use.kind === 'read' && use.span.start > wait && use.where === 'callback');
}

/** Whether a handler is nothing but the change of its field. */
function isPlainHandler(value: NodePath, control: Control, draft: Draft): boolean {
  const own = draft.model.uses.filter((use) => inside(use.span, nodeSpan(draft.model.file, value.node)));
  const fn = functionOf(value);
  if (!fn || !own.some((use) => use.kind === 'set')) return false;
  const body = fn.get('body') as NodePath;
  const [use] = own.filter(({ kind }) => kind === 'set');
  if (!use || use.kind !== 'set' || use.assignments.length !== 1 || use.assignments[0]?.field !== control.field)
    return false;
  if (use.assignments[0].value.kind !== 'value') return false;
  if (body.node.start === use.span.start) return true;
  return body.isBlockStatement() && body.node.body.length === 1;
}

function fieldOf(name: string, model: FormModel): Field | undefined {
  return model.fields.find((field) => field.name === name);
}

/** A control keeps its own value from now on: it is told what it begins with, and its name. */
function controlEdits(control: Control, draft: Draft): void {
  const { model, context, script } = draft;
  const field = fieldOf(control.field, model);
  const element = elementOf(control, draft);
  if (!field || !element) return;
  const parts: string[] = [];
  if (control.name === undefined) parts.push(`name="${field.name}"`);
  const initial = field.initial.text;
  const plain = /^(['"])([^'"{}\\]*)\1$/.exec(initial)?.[2];
  if (control.type === 'checkbox') {
    if (initial === 'true') parts.push('defaultChecked');
    else if (initial !== 'false') parts.push(`defaultChecked={${initial}}`);
  } else if (control.type === 'radio') {
    const own = attribute(element, 'value');
    const value = own?.text ?? '';
    if (plain !== undefined ? plain === value : false) parts.push('defaultChecked');
    else if (plain === undefined) parts.push(`defaultChecked={${initial} === ${quoted(value, context.style)}}`);
  } else if (plain === undefined) parts.push(`defaultValue={${initial}}`);
  else if (plain !== '') parts.push(`defaultValue="${plain}"`);
  const [first, ...others] = ownAttributes(control, draft);
  if (first) {
    const span = nodeSpan(model.file, first.path.node);
    if (parts.length) draft.edits.push({ ...span, text: parts.join(' ') });
    else draft.edits.push(removal(script, span));
  }
  for (const other of others) draft.edits.push(removal(script, nodeSpan(model.file, other.path.node)));
  draft.ledger.push({
    entry: 'carried',
    span: control.span,
    what: `control of ${control.field}`,
    why:
      control.name === undefined
        ? `the page keeps its value; it is called ${field.name}, so that the submit can ask for it`
        : 'the page keeps its value',
  });
}

function removal(script: Script, span: Span): RewritePlan['edits'][number] {
  const lead = /\s+$/.exec(script.text.slice(0, span.start))?.[0].length ?? 0;
  return { file: span.file, start: span.start - lead, end: span.end, text: '' };
}

function stateEdits(draft: Draft): void {
  const { model, script } = draft;
  const comments: string[] = [];
  for (const { role, span, statement, what } of model.declarations) {
    if (role !== 'state') continue;
    if (statement) draft.ledger.push({ entry: 'by-hand', span, what, why: 'it shares its statement with other state' });
    const field = model.fields.find(({ declared }) => declared.start >= span.start && declared.end <= span.end);
    let { start, end } = span;
    for (const comment of [...(field?.commentsBefore ?? [])].reverse()) {
      const at = script.text.lastIndexOf(comment, start);
      if (at >= 0) start = at;
      comments.push(comment);
    }
    if (field?.commentBehind !== undefined) {
      const at = script.text.indexOf(field.commentBehind, end);
      if (at >= 0) end = at + field.commentBehind.length;
      comments.push(field.commentBehind);
    }
    draft.edits.push({ file: span.file, ...wholeLines(script.text, { start, end }), text: '' });
    draft.ledger.push({ entry: 'retired', span, what, why: 'the page keeps the value' });
  }
  draft.commentsOfState = comments;
}

/** The submit asks the page for every value it reads, under the names it knows them by. */
function submitEdits(draft: Draft): void {
  const { model, context, handler, script } = draft;
  const { style } = context;
  const body = handler.get('body') as NodePath;
  const [parameter] = handler.node.params;
  const reset = resetRuns(draft);
  const byHand = (span: Span, what: string, why: string): void => {
    draft.ledger.push({ entry: 'by-hand', span, what, why });
  };
  if (!body.isBlockStatement()) return byHand(nodeSpan(model.file, handler.node), 'the submit', 'it is one expression');
  if (handler.node.params.length > 1 || (parameter && !t.isIdentifier(parameter)))
    return byHand(nodeSpan(model.file, handler.node), 'the submit', 'it takes its event in a way that is not followed');
  const event = t.isIdentifier(parameter) ? parameter.name : 'event';
  if (!parameter)
    return byHand(
      nodeSpan(model.file, handler.node),
      'the submit',
      'it takes no event, through which the page could be asked',
    );
  if (t.isIdentifier(parameter)) typeEdit(parameter, draft);
  const read = new Set(model.uses.flatMap((use) => (use.kind === 'read' && !isOwn(use, draft) ? [use.field] : [])));
  const form = context.freeName('form', 'formElement');
  const data = context.freeName('data', 'formData');
  const end = style.semicolon;
  const lines = [...draft.commentsOfState];
  const source = reset.length ? form : `${event}.currentTarget`;
  if (reset.length) lines.push(`const ${form} = ${event}.currentTarget${end}`);
  if (read.size) lines.push(`const ${data} = new FormData(${source})${end}`);
  for (const field of model.fields) {
    if (!read.has(field.name)) continue;
    const control = model.controls.find((one) => one.field === field.name);
    const name = quoted(control?.name ?? field.name, style);
    lines.push(
      `const ${field.names.value ?? field.name} = ${valueText(control, `${data}.get(${name})`, `${data}.has(${name})`, model)}${end}`,
    );
  }
  // the page’s own submit is held back first, as it was
  const holdsBack = /^\w+\.preventDefault\(\)/.test(script.text.slice(body.node.body[0]?.start ?? 0));
  const first = body.node.body[holdsBack ? 1 : 0];
  const start = first?.leadingComments?.[0]?.start ?? first?.start ?? (body.node.start ?? 0) + 1;
  const indent = /^[ \t]*/.exec(script.text.slice(script.lines.lineStart(first?.start ?? 0)))?.[0] ?? '';
  draft.edits.push({
    file: model.file,
    start,
    end: start,
    text: lines.map((line) => line + style.newline + indent).join(''),
  });
  const [firstReset, ...otherResets] = reset;
  if (firstReset?.kind === 'set' && firstReset.statement)
    draft.edits.push({ ...firstReset.span, text: `${form}.reset()` });
  for (const other of otherResets)
    if (other.kind === 'set' && other.statement)
      draft.edits.push({ file: model.file, ...wholeLines(script.text, other.statement), text: '' });
  for (const use of model.uses) {
    if (use.kind === 'read' && !isOwn(use, draft))
      draft.ledger.push({
        entry: 'kept',
        span: use.span,
        what: `read of ${use.field}`,
        why: 'the submit asks the page for it first',
      });
    if (reset.includes(use))
      draft.ledger.push({
        entry: 'carried',
        span: use.span,
        what: 'back to the start',
        why: 'the page’s own reset does it',
      });
    else if (use.kind === 'set')
      draft.ledger.push({ entry: 'retired', span: use.span, what: 'change', why: 'the page takes what is typed' });
  }
}

function valueText(control: Control | undefined, get: string, has: string, model: FormModel): string {
  if (control?.type === 'checkbox') return has;
  return model.typescript ? `String(${get})` : get;
}

/** `FormEvent` tells nothing of the element; `FormEvent<HTMLFormElement>` does. */
function typeEdit(parameter: t.Identifier, { script, edits, model }: Draft): void {
  const annotation = parameter.typeAnnotation;
  if (!t.isTSTypeAnnotation(annotation)) return;
  const { start, end } = annotation.typeAnnotation;
  const text = script.text.slice(start ?? 0, end ?? 0);
  if (/^(\w+\.)?(Form|Synthetic|Submit)Event$/.test(text))
    edits.push({ file: model.file, start: end ?? 0, end: end ?? 0, text: '<HTMLFormElement>' });
}
