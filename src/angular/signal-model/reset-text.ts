import { parseExpression } from '@babel/parser';
import * as t from '@babel/types';
import { codeText } from '../../form/code-text.js';
import { broughtByReset, isRowField, type Field } from '../../form/model.js';
import type { ResetUse } from '../../form/uses.js';
import { indentAt } from '../../source/style.js';
import { initialObject } from '../class-reading.js';
import { comesAnew } from '../coming-anew.js';
import { isInTemplate } from '../use-edits.js';
import { valuesText } from '../values-text.js';
import { isConstant, mayBeNull, type SignalDraft } from './draft.js';
import { resetRowsText } from './rows-text.js';

/**
 * The values that a reset brings, every field of the form among them: a form over a signal takes only all of them.
 * @returns undefined where some of them cannot be told, or a control would not take them
 */
export function resetText(use: ResetUse, draft: SignalDraft): string | undefined {
  const { context } = draft;
  const given = use.values ? codeText(use.values, draft.printer).trim() : undefined;
  if (use.of !== undefined)
    return (
      given ??
      resetValue(
        draft.fields.find(({ name }) => name === use.of),
        draft,
      )
    );
  if (given !== undefined && (givesAll(given, draft) || overOwn(given, draft))) return given;
  const parts = given === undefined ? new Map<string, string>() : givenParts(given);
  if (!parts) return undefined;
  const fields = draft.fields.filter(({ name }) => !isRowField(name));
  const known = new Set(fields.map(({ name }) => name));
  if ([...parts.keys()].some((name) => !known.has(name))) return undefined;
  const isList = ({ kind }: Field): boolean => kind === 'list of rows';
  if (given !== undefined && behindNewRows(use, fields, parts, draft)) {
    const own = `${isInTemplate(use.span, draft.component) ? '' : 'this.'}${draft.values}()`;
    return `{ ...${own}, ${given.slice(1).trimStart()}`;
  }
  // an array of controls keeps as many rows as it has, whatever it is given
  if (draft.model.approach === 'model-driven' && fields.some((field) => isList(field) && parts.has(field.name)))
    return undefined;
  const brought = (field: Field): string | undefined =>
    isList(field) ? rowsAfter(field, use, draft) : resetValue(field, draft);
  const values = new Map(fields.map((field) => [field.name, parts.get(field.name) ?? brought(field)]));
  if ([...values.values()].includes(undefined)) return undefined;
  const worked = fields.some((field) => !isList(field) && !parts.has(field.name) && !isConstant(field.initial.text));
  // what was worked out when the form began is not worked out again
  if (worked) return undefined;
  const starts = fields.every((field) => values.get(field.name) === field.initial.text);
  if (starts && fields.every(({ initial }) => isConstant(initial.text))) return draft.startName;
  const text = context.text(use.span.file);
  return valuesText(
    fields.map((field) => ({ ...field, commentsBefore: [], commentBehind: undefined })),
    (field) => values.get(field.name) ?? '',
    context,
    indentAt(text, use.span.start),
    use.span.end - text.lastIndexOf('\n', use.span.start),
  );
}

/** Whether a reset gives every value but the rows, which were exchanged right in front of it. */
function behindNewRows(
  use: ResetUse,
  fields: readonly Field[],
  parts: ReadonlyMap<string, string>,
  { model, context }: SignalDraft,
): boolean {
  const isList = ({ kind }: Field): boolean => kind === 'list of rows';
  const text = context.text(use.span.file);
  return (
    model.approach === 'template-driven' &&
    fields.some(isList) &&
    fields.every((field) =>
      isList(field)
        ? !parts.has(field.name) && comesAnew(field.name, use, model, text, 'in front')
        : parts.has(field.name),
    )
  );
}

/** The rows that a reset leaves which gives none; a template's form would leave each of their fields null. */
function rowsAfter({ name }: Field, { span }: ResetUse, draft: SignalDraft): string | undefined {
  return draft.model.approach === 'model-driven'
    ? resetRowsText(name, isInTemplate(span, draft.component), draft)
    : undefined;
}

/** Whether values are a constant, or a copy of one, that has every field of the form and nothing else. */
function givesAll(given: string, { component, fields }: SignalDraft): boolean {
  const name = /^(?:\{\s*\.\.\.)?(this\.)?(\w+)\s*,?\s*\}?$/.exec(given);
  const made = name ? undefined : madeAnew(given);
  const member = name?.[2] === undefined ? undefined : component.members.get(name[2])?.node;
  const value = made ?? (t.isClassProperty(member) ? member.value : t.identifier(name?.[2] ?? ''));
  if ((!name && !made) || !value || (t.isClassProperty(member) && !member.readonly)) return false;
  const { parts, known } = initialObject(component, value, undefined, () => undefined);
  const keys = new Set(fields.map((field) => field.name).filter((one) => !isRowField(one)));
  return (
    known &&
    [...parts].every(([key, { node }]) => keys.has(key) && node !== undefined) &&
    [...keys].every((key) => parts.has(key))
  );
}

/** Values that a class, a function or a method makes: `new Loss()`, `this.blank()`. */
function madeAnew(given: string): t.Expression | undefined {
  if (!/^(?:new \w+|(?:this\.)?\w+)\(\)$/.test(given)) return undefined;
  return parseExpression(given, { plugins: ['typescript'] });
}

/** Whether values are the form's own, or laid over these: `{ ...this.model(), town }`. */
function overOwn(given: string, { values, fields }: SignalDraft): boolean {
  if (new RegExp(`^(?:this\\.)?${values}\\(\\)$`).test(given)) return true;
  const flat = fields.every(({ name }) => !name.includes('.') && !isRowField(name));
  const inner = new RegExp(`^\\{\\s*\\.\\.\\.(?:this\\.)?${values}\\(\\),([\\s\\S]*)\\}$`).exec(given)?.[1];
  const parts = inner === undefined ? undefined : givenParts(`{${inner}}`);
  return flat && parts !== undefined && [...parts.keys()].every((key) => fields.some(({ name }) => name === key));
}

/** What a reset brings to a field that is given no value; undefined where its control would not take that. */
function resetValue(field: Field | undefined, { model }: SignalDraft): string | undefined {
  const own = model.fields.find(({ name }) => name === field?.name);
  if (!field || !own) return undefined;
  if (broughtByReset(own, model) !== 'null') return field.initial.text;
  return mayBeNull(field) ? 'null' : undefined;
}

/** The values that an object written in place gives, by their whole paths; undefined where it gives others as well. */
function givenParts(text: string): Map<string, string> | undefined {
  const parts = new Map<string, string>();
  const walk = (object: t.ObjectExpression, path: string): boolean =>
    object.properties.every((property) => {
      if (!t.isObjectProperty(property) || property.computed) return false;
      const key = t.isIdentifier(property.key)
        ? property.key.name
        : t.isStringLiteral(property.key)
          ? property.key.value
          : undefined;
      if (key === undefined) return false;
      const own = path === '' ? key : `${path}.${key}`;
      if (t.isObjectExpression(property.value)) return walk(property.value, own);
      parts.set(own, text.slice((property.value.start ?? 0) - 1, (property.value.end ?? 0) - 1));
      return true;
    });
  try {
    const node = parseExpression(`(${text})`, { plugins: ['typescript'] });
    return t.isObjectExpression(node) && walk(node, '') ? parts : undefined;
  } catch {
    return undefined;
  }
}
