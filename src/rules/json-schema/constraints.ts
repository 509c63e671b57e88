import type { Constraint, Guard } from '../../form/rules.js';
import type { Field } from '../../form/model.js';
import { schemaPattern, trimmedLength, wholePattern } from './patterns.js';
import { jsonOf, type Json, type Schema } from './schema.js';

/** How a field's value stands in JSON. */
export interface Held {
  type: 'string' | 'number' | 'boolean' | 'array' | 'object' | undefined;
  /** It can also be null. A number that is none counts as missing. */
  nullable: boolean;
  /** A control gives it text, whatever it begins as. */
  drifts?: boolean;
}

function typeOfJson(value: Json | undefined): Held['type'] {
  if (value === undefined || value === null) return undefined;
  if (Array.isArray(value)) return 'array';
  const type = typeof value;
  return type === 'string' || type === 'number' || type === 'boolean' ? type : 'object';
}

/** How a field's values are written as JSON. */
export function heldAs(field: Pick<Field, 'kind' | 'type' | 'initial' | 'drifts'>): Held {
  const held = heldAtFirst(field);
  return field.drifts ? { ...held, drifts: true } : held;
}

/** The kinds of value that a union's parts are, as far as they are plain to see. */
function typesOfUnion(type: string): Set<string> {
  const parts = /[<{(]/.test(type) ? [type] : type.split('|').map((part) => part.trim());
  return new Set(
    parts.filter(Boolean).map((part) => {
      if (/^(['"`]).*\1$/.test(part)) return 'string';
      if (/^-?\d/.test(part)) return 'number';
      return /^(?:true|false)$/.test(part) ? 'boolean' : part;
    }),
  );
}

function heldAtFirst(field: Pick<Field, 'kind' | 'type' | 'initial'>): Held {
  const type = field.type ?? '';
  const bare = type.replace(/\s*\|\s*(null|undefined)\b/g, '').trim();
  const nullable = /\bnull\b/.test(type) || field.initial.text === 'null';
  const is = (name: Held['type']): Held => ({ type: name, nullable });
  const mixed = typesOfUnion(bare);
  if (mixed.size > 1) return is(undefined);
  if (bare === 'string' || /^(['"`]).*\1$/.test(bare)) return is('string');
  if (bare === 'number') return is('number');
  if (bare === 'boolean') return is('boolean');
  if (/\[\]$|^(readonly\s+)?Array</.test(bare)) return is('array');
  // what it begins with tells more than the control that shows a part of it
  const begun = typeOfJson(field.initial.when === 'constant' ? jsonOf(field.initial.text) : undefined);
  if (begun !== undefined) return is(begun);
  switch (field.kind) {
    case 'text':
    case 'choice':
    case 'date':
      return is(bare === 'Date' || (bare !== '' && !/^\w+$/.test(bare)) ? undefined : 'string');
    case 'number':
      return is('number');
    case 'boolean':
      return is('boolean');
    case 'many choices':
    case 'list of rows':
      return is('array');
    case 'group':
      return is('object');
    case 'file':
    case 'other':
      return is(undefined);
    default: {
      const never: never = field.kind;
      return never;
    }
  }
}

type Limit = Extract<Constraint, { kind: 'min' | 'max' | 'above' | 'below' }>;
type LengthLimit = Extract<Constraint, { kind: 'min-length' | 'max-length' }>;

function numberOf(text: string): number | undefined {
  const value = jsonOf(text);
  return typeof value === 'number' ? value : undefined;
}

/**
 * Keywords that hold exactly when a field's value meets a constraint.
 * @returns undefined where JSON Schema has no words for it
 */
export function keywordsOf(constraint: Constraint, held: Held): Schema | undefined {
  switch (constraint.kind) {
    case 'required':
      return filledKeywords(held);
    case 'present':
      if (!held.nullable) return {};
      return { not: { type: 'null' } };
    case 'required-true':
      return { const: true };
    case 'not-blank':
      return held.type === 'string' ? textual({ pattern: '\\S' }, held, false) : undefined;
    case 'email':
      return { format: 'email' };
    case 'integer':
      return held.type === 'number' ? { type: 'integer' } : undefined;
    case 'min':
    case 'max':
    case 'above':
    case 'below':
      return limitKeywords(constraint, held);
    case 'min-length':
    case 'max-length':
      return lengthKeywords(constraint, held);
    case 'pattern':
      return patternKeywords(constraint, held);
    case 'one-of': {
      const values = constraint.values.map(jsonOf);
      const known = values.filter((value) => value !== undefined);
      return known.length === values.length ? { enum: known } : undefined;
    }
    case 'equal':
    case 'custom':
      return undefined;
    default: {
      const never: never = constraint;
      return never;
    }
  }
}

function filledKeywords(held: Held): Schema | undefined {
  switch (held.type) {
    case 'string':
      return held.nullable ? { not: { enum: ['', null] } } : { minLength: 1 };
    case 'number':
      return held.nullable ? { not: { enum: [0, null] } } : { not: { const: 0 } };
    case 'boolean':
      return { const: true };
    case 'array':
      return { minItems: 1 };
    case 'object':
      return {};
    case undefined:
      return { not: { enum: ['', 0, false, null] } };
    default: {
      const never: never = held.type;
      return never;
    }
  }
}

/** Keywords for texts, where null can stand in their place. `takesNull` tells whether null meets them. */
function textual(keywords: Schema, held: Held, takesNull: boolean): Schema {
  return held.nullable && !takesNull ? { type: 'string', ...keywords } : keywords;
}

function limitKeywords(constraint: Limit, held: Held): Schema | undefined {
  const limit = numberOf(constraint.value);
  if (limit === undefined || held.type !== 'number' || (constraint.of ?? 'value') !== 'value') return undefined;
  const name = { min: 'minimum', max: 'maximum', above: 'exclusiveMinimum', below: 'exclusiveMaximum' }[
    constraint.kind
  ];
  const keywords = { [name]: limit };
  // null counts as nought where it is compared
  const met = { min: 0 >= limit, max: 0 <= limit, above: 0 > limit, below: 0 < limit }[constraint.kind];
  return held.nullable && !met ? { type: 'number', ...keywords } : keywords;
}

function lengthKeywords(constraint: LengthLimit, held: Held): Schema | undefined {
  const limit = numberOf(constraint.value);
  if (limit === undefined || !Number.isInteger(limit) || limit < 0) return undefined;
  const least = constraint.kind === 'min-length';
  if (held.type === 'array') return { [least ? 'minItems' : 'maxItems']: limit };
  if (held.type !== 'string') return undefined;
  if (constraint.trimmed) return { pattern: trimmedLength(constraint.kind, limit) };
  return { [least ? 'minLength' : 'maxLength']: limit };
}

/** Whether a text matches a pattern; undefined where the pattern is none. */
function patternTakes(pattern: string, text: string): boolean | undefined {
  try {
    return new RegExp(pattern).test(text);
  } catch {
    return undefined;
  }
}

function patternKeywords(constraint: Extract<Constraint, { kind: 'pattern' }>, held: Held): Schema | undefined {
  if (held.type !== 'string') return undefined;
  const pattern = constraint.form === 'text' ? wholePattern(constraint.value) : schemaPattern(constraint.value);
  if (pattern === undefined) return undefined;
  const takesNull = patternTakes(pattern, 'null');
  if (takesNull === undefined) return undefined;
  const keywords: Schema = constraint.not ? { not: { pattern } } : { pattern };
  return textual(keywords, held, takesNull !== (constraint.not ?? false));
}

/** Whether a value that is missing, or a number that is none, breaks a constraint; undefined where it depends. */
export function missingBreaks(constraint: Constraint): boolean | undefined {
  switch (constraint.kind) {
    case 'required':
    case 'required-true':
    case 'not-blank':
    case 'one-of':
    case 'integer':
      return true;
    case 'pattern': {
      const pattern = schemaPattern(constraint.value);
      if (pattern === undefined) return undefined;
      const [none, empty] = ['undefined', 'null'].map(
        (text) => new RegExp(pattern).test(text) === (constraint.not ?? false),
      );
      return none === empty ? none : undefined;
    }
    case 'min':
    case 'max':
    case 'above':
    case 'below':
      return constraint.nan === 'fails';
    case 'present':
      return constraint.missing === 'fails';
    case 'email':
    case 'min-length':
    case 'max-length':
    case 'equal':
    case 'custom':
      return false;
    default: {
      const never: never = constraint;
      return never;
    }
  }
}

/** A schema that holds exactly when a guard does; undefined where JSON Schema has no words for it. */
export function guardSchema(guard: Guard, held: Held): Schema | undefined {
  switch (guard.is) {
    case 'filled':
      return filledKeywords(held);
    case 'empty': {
      const filled = filledKeywords(held);
      return held.type === 'string' && !held.nullable ? { maxLength: 0 } : filled && { not: filled };
    }
    case 'not-blank':
      return held.type === 'string' ? { type: 'string', pattern: '\\S' } : undefined;
    case 'blank':
      return held.type === 'string' ? { type: 'string', pattern: '^\\s*$' } : undefined;
    case 'true':
      return { const: true };
    case 'false':
      return { const: false };
    case 'equals':
    case 'differs': {
      const value: Json | undefined = jsonOf(guard.literal);
      if (value === undefined) return undefined;
      return guard.is === 'equals' ? { const: value } : { not: { const: value } };
    }
    case 'meets':
      return keywordsOf(guard.constraint, held);
    case 'breaks': {
      const met = keywordsOf(guard.constraint, held);
      return met && { not: met };
    }
    default: {
      const never: never = guard;
      return never;
    }
  }
}
