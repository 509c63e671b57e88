import { fieldsOf, isRowField, type Control, type Field, type FormModel } from '../../form/model.js';
import { type Rule } from '../../form/rules.js';
import { withMeaning } from '../implied-conditions.js';
import { guardSchema, heldAs, keywordsOf, missingBreaks, type Held } from './constraints.js';
import { dialect, isSchema, jsonOf, type Json, type Schema } from './schema.js';

/** A rule that JSON Schema has no words for, and why. */
export interface Unstated {
  rule: Rule;
  why: string;
}

/** A form's fields and rules as a JSON Schema, and the rules that stand beside it. */
export interface StatedSchema {
  schema: Schema;
  unstated: Unstated[];
  /** The rules that the schema states. */
  stated: Rule[];
}

/** One rule as keywords of its field. */
interface Piece {
  rule: Rule;
  keywords: Schema;
  /** The keywords only count when these hold of the same field. */
  when: Schema[];
  /** The keywords only count when these hold of other fields. */
  whenOthers: { field: string; schema: Schema }[];
}

/** What the schema says beside the rules. */
export interface SchemaOptions {
  /** Comments of the source that belong to a rule, as `$comment`. */
  commentsOf?(rule: Rule): string[];
  /** Comments of the source that belong to a field. */
  fieldComments?(field: Field): string[];
}

/**
 * States a form's fields and rules as JSON Schema 2020-12, messages in `errorMessage`.
 * Rules of one field keep their order: the first one that is broken gives the first message.
 */
export function schemaOf(
  model: Pick<FormModel, 'fields' | 'controls' | 'component' | 'framework'>,
  all: readonly Rule[],
  options: SchemaOptions = {},
): StatedSchema {
  const fields = fieldsOf(model).filter(({ name }) => !isRowField(name));
  const held = new Map(fields.map((field) => [field.name, heldAs(field)]));
  for (const control of model.controls) {
    // a member of a group that is held as one value
    if (held.has(control.field) || !control.field.includes('.') || isRowField(control.field)) continue;
    if (held.get(control.field.split('.')[0] ?? '')?.type === 'object') held.set(control.field, heldByControl(control));
  }
  const kinds = (name: string): string | undefined =>
    held.get(name)?.type === 'array' ? 'many choices' : held.get(name)?.type;
  const rules = all.map((rule) => withMeaning(rule, model.framework, kinds));
  const pieces: Piece[] = [];
  const unstated: Unstated[] = [];
  for (const rule of rules) {
    const piece = pieceOf(rule, held);
    if (typeof piece === 'string') unstated.push({ rule, why: piece });
    else pieces.push(piece);
  }
  const properties: Record<string, Json> = {};
  const conditions: Json[] = [];
  for (const field of fields) {
    const own = pieces.filter(({ rule }) => rule.fields[0] === field.name);
    const crossed = own.some(({ whenOthers }) => whenOthers.length > 0);
    put(properties, field.name, {
      ...fieldSchema(field, model.controls, held.get(field.name), options),
      ...(crossed ? {} : ruleKeywords(own, options)),
    });
    if (crossed) conditions.push(...own.map((piece) => conditionOf(piece, field.name, options)));
  }
  for (const name of held.keys()) {
    if (fields.some((field) => field.name === name)) continue;
    put(
      properties,
      name,
      ruleKeywords(
        pieces.filter(({ rule }) => rule.fields[0] === name),
        options,
      ),
    );
  }
  const asked = askedFields(pieces);
  const schema: Schema = {
    $schema: dialect,
    title: titleOf(model.component.replace(/(?<=.)Component$/, '')),
    type: 'object',
    properties,
    ...(asked.length ? { required: asked.map(([name]) => name) } : {}),
    ...(asked.some(([, message]) => message !== undefined)
      ? {
          errorMessage: {
            required: Object.fromEntries(
              asked.flatMap(([name, message]): [string, Json][] => (message === undefined ? [] : [[name, message]])),
            ),
          },
        }
      : {}),
    ...(conditions.length ? { allOf: conditions } : {}),
  };
  return { schema, unstated, stated: pieces.map(({ rule }) => rule) };
}

/** The fields that have to be there at all, each with the message that says so. */
function askedFields(pieces: readonly Piece[]): [string, string | undefined][] {
  const asked = new Map<string, string | undefined>();
  for (const { rule, when, whenOthers } of pieces) {
    const [field = ''] = rule.fields;
    if (when.length || whenOthers.length || field.includes('.') || asked.has(field)) continue;
    if (asksForField(rule)) asked.set(field, rule.message);
  }
  return [...asked];
}

/** Whether a rule is broken where its field is missing. */
function asksForField({ constraint, stated }: Rule): boolean {
  if (!constraint) return false;
  if (stated !== 'code' && stated !== 'json-schema') return /^(required|required-true|present)$/.test(constraint.kind);
  return missingBreaks(constraint) === true;
}

/** A value as its control holds it, where nothing else tells its type. */
function heldByControl(control: Control): Held {
  return { type: control.type === 'checkbox' ? 'boolean' : 'string', nullable: false };
}

/** Puts a field's schema where its path leads: `address.town` stands in the properties of `address`. */
function put(properties: Record<string, Json>, path: string, schema: Schema): void {
  const [first = '', ...rest] = path.split('.');
  if (!rest.length) {
    properties[first] = schema;
    return;
  }
  const known = properties[first];
  const group: Schema = isSchema(known) ? known : { type: 'object' };
  const inner = isSchema(group['properties']) ? group['properties'] : {};
  put(inner, rest.join('.'), schema);
  properties[first] = { ...group, properties: inner };
}

/** A name in words: `pickedOn` becomes “Picked on”. */
export function titleOf(name: string): string {
  const words = name
    .replace(/([a-z\d])([A-Z])/g, '$1 $2')
    .replace(/[_-]+/g, ' ')
    .toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

function fieldSchema(
  field: Field,
  controls: readonly Control[],
  held: Held | undefined,
  options: SchemaOptions,
): Schema {
  const comments = options.fieldComments?.(field) ?? [];
  const control = controls.find((one) => one.field === field.name);
  const initial = jsonOf(field.initial.text);
  const all = [held?.type, held?.drifts ? 'string' : undefined, held?.nullable ? 'null' : undefined];
  const named = all.filter((type) => type !== undefined);
  const types: Json | undefined = held?.type === undefined ? undefined : named.length > 1 ? named : held.type;
  const choices = [...(field.type ?? '').matchAll(/(['"])([^'"]*)\1/g)].map(([, , value]) => value ?? '');
  const closed = /^\s*\|?\s*((['"])[^'"]*\2\s*\|\s*)+(['"])[^'"]*\3\s*$/.test(field.type ?? '');
  return {
    ...(comments.length ? { $comment: comments.join('\n') } : {}),
    title:
      (control?.type === 'radio' ? undefined : control?.label) ?? titleOf(field.name.split('.').at(-1) ?? field.name),
    ...(types === undefined ? {} : { type: types }),
    ...(held?.type === 'array' && field.kind === 'many choices' ? { items: { type: 'string' } } : {}),
    ...(closed && held?.type === 'string' ? { enum: choices } : {}),
    ...(control?.type === 'email' ? { format: 'email' } : {}),
    ...(control?.type === 'date' && held?.type === 'string' ? { anyOf: [{ maxLength: 0 }, { format: 'date' }] } : {}),
    ...(initial === undefined || field.initial.when !== 'constant' ? {} : { default: initial }),
  };
}

/** The keywords of one rule, or why there are none. */
function pieceOf(rule: Rule, held: ReadonlyMap<string, Held>): Piece | string {
  const [field, ...others] = rule.fields;
  const { constraint } = rule;
  if (field === undefined) return 'it looks at no field that is known';
  if (others.length || constraint?.kind === 'equal') return 'it compares fields with one another';
  if (rule.key !== undefined) return `its message belongs to ${rule.key}`;
  if (rule.message?.includes('${') === true && !rule.computed)
    return 'its message holds the mark of a place to fill in';
  if (rule.computed) return 'its message is computed from values';
  if (!constraint || constraint.kind === 'custom')
    return constraint?.kind === 'custom' && constraint.async ? 'it waits for an answer' : 'it is code of its own';
  if (rule.guard !== undefined) return `it only counts when ${rule.guard}`;
  if (rule.stated === 'code' && missingBreaks(constraint) === undefined)
    return 'what it says of a missing value depends on its pattern';
  const own = held.get(field);
  if (!own || isRowField(field)) return 'its field stands in the rows of a list';
  if (own.drifts)
    return `its field begins as a ${own.type ?? 'value'} and holds something else once a person has typed`;
  // only code compares null with a number
  if (constraint.kind === 'present' && constraint.missing === 'fails' && own.type === 'number')
    return 'it tells a missing value from a number that is none';
  const keywords = keywordsOf(
    constraint,
    rule.stated === 'code' || constraint.kind === 'present' ? own : { ...own, nullable: false },
  );
  if (!keywords) return whyNot(rule, own);
  const when: Schema[] = [];
  const whenOthers: Piece['whenOthers'] = [];
  for (const guard of rule.guards ?? []) {
    const of = held.get(guard.field);
    const schema = of && !of.drifts ? guardSchema(guard, of) : undefined;
    if (!schema) return 'it only counts on a condition that JSON Schema has no words for';
    if (guard.field === field) when.push(schema);
    else whenOthers.push({ field: guard.field, schema });
  }
  return { rule, keywords, when, whenOthers };
}

function whyNot(rule: Rule, held: Held): string {
  const { constraint } = rule;
  if (constraint && 'of' in constraint && held.type === 'string') return 'it counts a text as a number';
  if (constraint?.kind === 'pattern') return 'its pattern needs flags that JSON Schema does not have';
  return 'JSON Schema has no words for it';
}

/** Keywords of a field, one after another where each can stand by itself, in `allOf` otherwise. */
function ruleKeywords(pieces: readonly Piece[], options: SchemaOptions): Schema {
  const names = pieces.flatMap(({ keywords }) => Object.keys(keywords));
  const plain =
    new Set(names).size === names.length &&
    names.length === pieces.length &&
    !names.some((name) => /^(type|enum|anyOf)$/.test(name)) &&
    pieces.every(({ when, rule }) => !when.length && !(options.commentsOf?.(rule).length ?? 0));
  if (!pieces.length) return {};
  if (!plain) return { allOf: pieces.map((piece) => pieceSchema(piece, options)) };
  const messages = pieces.flatMap(({ keywords, rule }): [string, Json][] =>
    rule.message === undefined ? [] : [[Object.keys(keywords)[0] ?? '', rule.message]],
  );
  return {
    ...Object.assign({}, ...pieces.map(({ keywords }) => keywords)),
    ...(messages.length ? { errorMessage: Object.fromEntries(messages) } : {}),
  };
}

/** One rule as a schema of its own. */
function pieceSchema({ rule, keywords, when }: Piece, options: SchemaOptions): Schema {
  const comments = options.commentsOf?.(rule) ?? [];
  const names = Object.keys(keywords);
  const [only] = names;
  const message: Schema =
    rule.message === undefined
      ? {}
      : {
          errorMessage: names.length === 1 && only !== undefined ? { [only]: rule.message } : rule.message,
        };
  const stated: Schema = {
    ...(comments.length ? { $comment: comments.join('\n') } : {}),
    ...keywords,
    ...message,
  };
  const [first, ...more] = when;
  if (!first) return stated;
  return { if: more.length ? { allOf: when } : first, then: stated };
}

/** One rule of a field as a condition on the whole form. */
function conditionOf(piece: Piece, field: string, options: SchemaOptions): Json {
  const { rule } = piece;
  const numeric = /^(min|max|above|below|integer)$/.test(rule.constraint?.kind ?? '');
  const then = {
    ...nested(field, pieceSchema(piece, options)),
    ...(numeric && asksForField(rule) && piece.whenOthers.length && !field.includes('.')
      ? { required: [field], errorMessage: { required: { [field]: rule.message ?? '' } } }
      : {}),
  };
  if (!piece.whenOthers.length) return then;
  const conditions = piece.whenOthers.map((other) => nested(other.field, other.schema, true));
  const [first, ...more] = conditions;
  return { if: more.length || !first ? { allOf: conditions } : first, then };
}

/** A schema of a field as one of the whole form. `asked` where it has to be there. */
function nested(path: string, schema: Schema, asked = false): Schema {
  const [first = '', ...rest] = path.split('.');
  const inner = rest.length ? nested(rest.join('.'), schema, asked) : schema;
  return { properties: { [first]: inner }, ...(asked ? { required: [first] } : {}) };
}
