import type { Constraint, Guard } from '../form/rules.js';
import type { Held } from './json-schema/constraints.js';
import { quoted, type TextStyle } from '../source/style.js';

/** What code that states a rule is told of a field. */
export interface CodeField {
  /** The expression that reads it: `booking.plot`. */
  read: string;
  held: Held;
}

/** A literal of JSON in the file's quotes. */
export function literalText(literal: string, style: TextStyle): string {
  const value: unknown = JSON.parse(literal);
  return typeof value === 'string' ? quoted(value, style) : literal;
}

/**
 * The condition under which a rule is broken, as source text.
 * @returns undefined where the rule is no condition on one value
 */
export function brokenText(constraint: Constraint, { read, held }: CodeField, style: TextStyle): string | undefined {
  const nullable = held.nullable && held.type !== 'boolean';
  switch (constraint.kind) {
    case 'required':
      return held.type === 'array' ? `!${read}.length` : `!${read}`;
    case 'present':
      return `${read} ${constraint.missing === 'fails' ? '==' : '==='} null`;
    case 'required-true':
      return `!${read}`;
    case 'not-blank':
      return nullable ? `!${read}?.trim()` : `!${read}.trim()`;
    case 'min':
    case 'max':
    case 'above':
    case 'below':
      return limitText(constraint, read, nullable);
    case 'integer':
      return `!Number.isInteger(${read})`;
    case 'min-length':
    case 'max-length': {
      const length = `${read}${constraint.trimmed ? '.trim()' : ''}.length`;
      const broken = `${length} ${constraint.kind === 'min-length' ? '<' : '>'} ${constraint.value}`;
      return nullable ? `${read} !== null && ${broken}` : broken;
    }
    case 'pattern': {
      if (constraint.form === 'text') return undefined;
      const given = nullable ? `String(${read})` : read;
      return `${constraint.not ? '' : '!'}${constraint.value}.test(${given})`;
    }
    case 'one-of':
      return `![${constraint.values.map((value) => literalText(value, style)).join(', ')}].includes(${read})`;
    case 'email':
    case 'equal':
    case 'custom':
      return undefined;
    default: {
      const never: never = constraint;
      return never;
    }
  }
}

function limitText(
  constraint: Extract<Constraint, { kind: 'min' | 'max' | 'above' | 'below' }>,
  read: string,
  nullable: boolean,
): string {
  const broken = { min: '<', max: '>', above: '<=', below: '>=' }[constraint.kind];
  const met = { min: '>=', max: '<=', above: '>', below: '<' }[constraint.kind];
  const limit = Number(constraint.value);
  const text =
    constraint.nan === 'fails' ? `!(${read} ${met} ${constraint.value})` : `${read} ${broken} ${constraint.value}`;
  if (!nullable) return text;
  // null counts as nought where it is compared
  const fails = { min: 0 < limit, max: 0 > limit, above: 0 <= limit, below: 0 >= limit }[constraint.kind];
  return fails ? `${read} === null || ${text}` : `${read} !== null && ${text}`;
}

/** A guard as a condition of the source; undefined where no condition says it. */
export function guardText(guard: Guard, { read, held }: CodeField, style: TextStyle): string | undefined {
  switch (guard.is) {
    case 'filled':
      return held.type === 'array' ? `${read}.length` : read;
    case 'empty':
      return held.type === 'array' ? `!${read}.length` : `!${read}`;
    case 'true':
      return read;
    case 'false':
      return `!${read}`;
    case 'not-blank':
      return `${read}.trim()`;
    case 'blank':
      return `!${read}.trim()`;
    case 'equals':
      return `${read} === ${literalText(guard.literal, style)}`;
    case 'differs':
      return `${read} !== ${literalText(guard.literal, style)}`;
    case 'breaks':
      return bracketed(brokenText(guard.constraint, { read, held }, style));
    case 'meets': {
      const broken = brokenText(guard.constraint, { read, held }, style);
      if (broken === undefined) return undefined;
      return /^![\w.[\]'"(),\s/^$\\+*?{}|-]+$/.test(broken) && !/&&|\|\|/.test(broken) && /^!\S+$/.test(broken)
        ? broken.slice(1)
        : `!(${broken})`;
    }
    default: {
      const never: never = guard;
      return never;
    }
  }
}

function bracketed(text: string | undefined): string | undefined {
  return text !== undefined && text.includes('||') ? `(${text})` : text;
}

/** Conditions that all have to hold. */
export function joined(conditions: readonly string[]): string {
  return conditions
    .map((text) => (conditions.length > 1 && text.includes('||') && !/^\(.*\)$/.test(text) ? `(${text})` : text))
    .join(' && ');
}
