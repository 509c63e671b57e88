import type { Constraint, Guard } from '../form/rules.js';
import type { Json } from './json-schema/schema.js';
import { jsonOf } from './json-schema/schema.js';

/**
 * Whether a value breaks a constraint, as the source would judge it.
 * @returns undefined where only the source's own code can tell
 */
export function isBroken(constraint: Constraint, value: Json): boolean | undefined {
  switch (constraint.kind) {
    case 'required':
      return Array.isArray(value) ? value.length === 0 : !value;
    case 'present':
      return value === null;
    case 'required-true':
      return value !== true;
    case 'not-blank':
      return typeof value === 'string' ? !/\S/.test(value) : undefined;
    case 'integer':
      return !Number.isInteger(value);
    case 'min':
    case 'max':
    case 'above':
    case 'below':
      return limitBroken(constraint, value);
    case 'min-length':
    case 'max-length': {
      const limit = jsonOf(constraint.value);
      if (typeof limit !== 'number' || (typeof value !== 'string' && !Array.isArray(value))) return undefined;
      const { length } = typeof value === 'string' && constraint.trimmed ? value.trim() : value;
      return constraint.kind === 'min-length' ? length < limit : length > limit;
    }
    case 'pattern': {
      const parts = /^\/([\s\S]+)\/([a-z]*)$/.exec(constraint.value);
      if (!parts || constraint.form === 'text') return undefined;
      const matches = new RegExp(parts[1] ?? '', (parts[2] ?? '').replace(/[gy]/g, '')).test(String(value));
      return constraint.not ? matches : !matches;
    }
    case 'one-of':
      return !constraint.values.some((one) => jsonOf(one) === value);
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

function limitBroken(
  constraint: Extract<Constraint, { kind: 'min' | 'max' | 'above' | 'below' }>,
  value: Json,
): boolean | undefined {
  const limit = jsonOf(constraint.value);
  if (typeof limit !== 'number') return undefined;
  const convert = {
    value: Number,
    Number,
    parseFloat: (one: Json) => parseFloat(String(one)),
    parseInt: (one: Json) => parseInt(String(one), 10),
  };
  const number = convert[constraint.of ?? 'value'](value);
  if (Number.isNaN(number)) return constraint.nan === 'fails';
  switch (constraint.kind) {
    case 'min':
      return number < limit;
    case 'max':
      return number > limit;
    case 'above':
      return number <= limit;
    case 'below':
      return number >= limit;
    default: {
      const never: never = constraint.kind;
      return never;
    }
  }
}

/** Whether a guard holds for a value; undefined where only the source's own code can tell. */
export function holds(guard: Guard, value: Json): boolean | undefined {
  switch (guard.is) {
    case 'filled':
      return Array.isArray(value) ? value.length > 0 : Boolean(value);
    case 'empty':
      return Array.isArray(value) ? value.length === 0 : !value;
    case 'not-blank':
      return /\S/.test(String(value));
    case 'blank':
      return !/\S/.test(String(value));
    case 'true':
      return value === true;
    case 'false':
      return value === false;
    case 'equals':
      return jsonOf(guard.literal) === value;
    case 'differs':
      return jsonOf(guard.literal) !== value;
    case 'meets':
    case 'breaks': {
      const broken = isBroken(guard.constraint, value);
      return broken === undefined ? undefined : broken === (guard.is === 'breaks');
    }
    default: {
      const never: never = guard;
      return never;
    }
  }
}
