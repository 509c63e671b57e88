import * as t from '@babel/types';
import type { LedgerEntry } from '../../form/ledger.js';
import { isRowField, rowFieldParts, type FormModel } from '../../form/model.js';
import type { ResetUse } from '../../form/uses.js';
import { placeByHand, type WriteContext } from '../../form/writing.js';
import { writtenType } from '../class-reading.js';
import { comesAnew } from '../coming-anew.js';
import type { AngularComponent } from '../component.js';
import type { FileEdit } from '../writing.js';

/** The keys that a reset's object gives a value; undefined where every field may get one. */
function givenKeys(use: ResetUse, context: WriteContext): Set<string> | undefined {
  if (!use.values) return new Set();
  const text = context.text(use.values.file).slice(use.values.start, use.values.end).trim();
  if (!text.startsWith('{') || text.includes('...')) return undefined;
  const keys = [...text.matchAll(/[{,]\s*['"]?([\w-]+)['"]?\s*(?=[:,}])(?!:\s*null\b)/g)].map(([, key]) => key ?? '');
  return new Set(keys);
}

/** Whether the page's own reset button stands in the form: it gives no field a value. */
export function hasResetButton(model: FormModel, component: AngularComponent): boolean {
  const form = model.template?.element;
  return component.template.elements.some(
    ({ start, end, attributes }) =>
      form !== undefined &&
      start >= form.start &&
      end <= form.end &&
      attributes.some(({ name, value }) => name === 'type' && value === 'reset'),
  );
}

/** Fields that some reset leaves without a value, so that they hold null afterwards. */
export function nullableFields(model: FormModel, context: WriteContext, component: AngularComponent): Set<string> {
  const nullable = new Set<string>();
  const named = model.fields.filter((field) =>
    model.controls.some((control) => control.field === field.name && !control.binding?.standalone),
  );
  if (hasResetButton(model, component)) for (const { name } of named) nullable.add(name);
  for (const use of model.uses) {
    if (use.kind !== 'reset') continue;
    if (use.of !== undefined) {
      if (!use.values) nullable.add(use.of);
      continue;
    }
    const keys = givenKeys(use, context);
    if (!keys) continue;
    for (const { name } of named)
      if (
        !keys.has(name.split(/[.[]/)[0] ?? name) &&
        !(isRowField(name) && comesAnew(rowFieldParts(name).list, use, model, context.text(use.span.file)))
      )
        nullable.add(name);
  }
  return nullable;
}

function holdsNull(type: string | undefined): boolean {
  return type === undefined || type === 'any' || /\b(null|undefined)\b/.test(type);
}

/** The interface of the class's own file that types the model, if there is one. */
function ownInterface(model: FormModel, component: AngularComponent): t.TSInterfaceDeclaration | undefined {
  const root = model.fields.find(({ names }) => names.value?.includes('.'))?.names.value?.split('.')[0];
  const written = root === undefined ? undefined : writtenType(component.members.get(root));
  if (!t.isTSTypeReference(written) || !t.isIdentifier(written.typeName)) return undefined;
  const { name } = written.typeName;
  for (const statement of component.script.ast.program.body) {
    const node = t.isExportNamedDeclaration(statement) ? statement.declaration : statement;
    if (t.isTSInterfaceDeclaration(node) && node.id.name === name) return node;
  }
  return undefined;
}

/** Fields that become null although their type does not say so: the honest type is wider. */
function widened(model: FormModel, nullable: ReadonlySet<string>): string[] {
  return model.fields
    .filter(({ name, type }) => nullable.has(name) && type !== undefined && !holdsNull(type))
    .map(({ name }) => name);
}

/** Whether values are read only to be put back with others: `model = { ...model, town }`. */
function isOwnMerge(span: { file: string; start: number; end: number }, model: FormModel): boolean {
  return model.uses.some(
    (use) =>
      use.kind === 'set-all' && use.span.file === span.file && use.span.start <= span.start && use.span.end >= span.end,
  );
}

/** Whether what stands behind a text takes a value of any type: an untyped event, a request's body, a message. */
function takesAnything(before: string, component: AngularComponent): boolean {
  const emitter = /this\s*\.\s*(\w+)\s*\.\s*emit\([^()]*$/.exec(before)?.[1];
  if (emitter === undefined)
    return /(JSON\.stringify|console\.\w+|alert|\.(post|put|patch)(<\w+>)?)\([^()]*$/.test(before);
  const { node } = component.members.get(emitter) ?? {};
  const text = component.script.text.slice(node?.start ?? 0, node?.end ?? 0);
  return /(EventEmitter|output)\s*(<\s*(any|unknown|object)\s*>)?\(/.test(text);
}

function textBefore(span: { file: string; start: number }, context: WriteContext): string {
  return context.text(span.file).slice(Math.max(0, span.start - 200), span.start);
}

/** Whether the values together reach a place whose type would have to allow null. */
function reachesType(model: FormModel, context: WriteContext, component: AngularComponent): boolean {
  return model.uses.some((use) => {
    if (use.kind !== 'read-all' || isOwnMerge(use.span, model)) return false;
    if (inTemplate(use.span, component) || use.span.file !== component.script.file) return false;
    return !takesAnything(textBefore(use.span, context), component);
  });
}

/** Places where a value that may be null is used as if it never were. */
export function typeTrouble(
  model: FormModel,
  nullable: ReadonlySet<string>,
  context: WriteContext,
  component: AngularComponent,
): LedgerEntry[] {
  const names = widened(model, nullable);
  if (!names.length) return [];
  const declared = ownInterface(model, component);
  const reset = model.uses.find((use) => use.kind === 'reset');
  const used = usedAsIs(model, names, context, component);
  if (!reachesType(model, context, component)) return used;
  const told = model.fields.filter(({ name }) => names.includes(name)).every(({ typeWritten }) => typeWritten);
  if (!declared || !told) {
    return [
      {
        entry: 'by-hand',
        span: reset?.span ?? model.span,
        what: `${names.join(', ')} after a reset without values`,
        why: 'the reset leaves null there, which the type written for the model does not allow; give the reset its values, or let the type hold null',
      },
    ];
  }
  return used;
}

/** Places where a field that may be null is used as if it never were. */
function usedAsIs(
  model: FormModel,
  names: readonly string[],
  context: WriteContext,
  component: AngularComponent,
): LedgerEntry[] {
  return model.uses
    .filter((use) => use.kind === 'read' && names.includes(use.field) && use.span.file === component.script.file)
    .filter(({ span }) => !inTemplate(span, component) && expectsValue(span, context, component))
    .map(({ span }) =>
      placeByHand(
        span,
        context,
        'a reset without values leaves null there, which this place does not expect; give the reset its values',
      ),
    );
}

/** Whether a value is asked for something, kept, or handed on as it is. */
function expectsValue(
  span: { file: string; start: number; end: number },
  context: WriteContext,
  component: AngularComponent,
): boolean {
  const before = textBefore(span, context);
  if (/^\s*\?\?/.test(context.text(span.file).slice(span.end))) return false;
  if (/^\s*[.[]/.test(context.text(span.file).slice(span.end))) return true;
  if (/(^|[^=!<>])=\s*$/.test(before)) return true;
  return /[(,:]\s*$/.test(before) && !/\b(if|while)\s*\(\s*$/.test(before) && !takesAnything(before, component);
}

function inTemplate(span: { start: number; end: number }, component: AngularComponent): boolean {
  const { place } = component.template;
  return place.inline && span.start >= place.base && span.end <= place.base + place.text.length;
}

/** Lets the model's own interface say that a reset leaves null. */
export function wideningEdits(
  model: FormModel,
  nullable: ReadonlySet<string>,
  context: WriteContext,
  component: AngularComponent,
): FileEdit[] {
  const names = widened(model, nullable);
  const declared = names.length && reachesType(model, context, component) ? ownInterface(model, component) : undefined;
  return (declared?.body.body ?? []).flatMap((member) => {
    if (!t.isTSPropertySignature(member) || !t.isIdentifier(member.key) || !names.includes(member.key.name)) return [];
    const end = member.typeAnnotation?.end ?? 0;
    return [{ file: component.script.file, start: end, end, text: ' | null' }];
  });
}
