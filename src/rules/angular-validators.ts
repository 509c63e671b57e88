import * as t from '@babel/types';
import type { Constraint } from '../form/rules.js';
import type { Script } from '../source/script.js';
import { quoted, type TextStyle } from '../source/style.js';

/** A validator as it stands in a list, and what it asks for. */
export interface StatedValidator {
  constraint: Constraint;
  start: number;
  end: number;
}

const plain: Record<string, Constraint> = {
  required: { kind: 'required' },
  requiredTrue: { kind: 'required-true' },
  email: { kind: 'email' },
};
const limited: Record<string, 'min' | 'max' | 'min-length' | 'max-length'> = {
  min: 'min',
  max: 'max',
  minLength: 'min-length',
  maxLength: 'max-length',
};

function builtIn(node: t.Node): string | undefined {
  return t.isMemberExpression(node) &&
    t.isIdentifier(node.object, { name: 'Validators' }) &&
    t.isIdentifier(node.property)
    ? node.property.name
    : undefined;
}

/** Reads one validator, or a list of them. Whatever is no built-in one is custom code. */
export function readValidators(node: t.Node | undefined | null, script: Script, async: boolean): StatedValidator[] {
  if (!node || t.isNullLiteral(node) || t.isIdentifier(node, { name: 'undefined' })) return [];
  if (t.isArrayExpression(node)) return node.elements.flatMap((element) => readValidators(element, script, async));
  const place = { start: node.start ?? 0, end: node.end ?? 0 };
  const code = script.text.slice(place.start, place.end);
  const custom: StatedValidator = { ...place, constraint: { kind: 'custom', code, async } };
  const named = builtIn(node);
  if (named !== undefined) {
    if (named === 'nullValidator') return [];
    const constraint = plain[named];
    return [constraint ? { ...place, constraint } : custom];
  }
  if (!t.isCallExpression(node)) return [custom];
  const called = builtIn(node.callee);
  const [argument] = node.arguments;
  if (called === 'compose' || called === 'composeAsync') return readValidators(argument, script, async);
  if (called === undefined || !argument) return [custom];
  const value = script.text.slice(argument.start ?? 0, argument.end ?? 0);
  const kind = limited[called];
  if (kind) return [{ ...place, constraint: { kind, value } }];
  if (called !== 'pattern') return [custom];
  return [
    {
      ...place,
      constraint: t.isStringLiteral(argument)
        ? { kind: 'pattern', form: 'text', value: argument.value }
        : { kind: 'pattern', form: 'expression', value },
    },
  ];
}

/** A constraint as a validator of the class; undefined where no built-in validator asks for it. */
export function validatorText(constraint: Constraint, style: TextStyle): string | undefined {
  switch (constraint.kind) {
    case 'required':
    case 'email':
      return `Validators.${constraint.kind}`;
    case 'required-true':
      return 'Validators.requiredTrue';
    case 'min':
    case 'max':
      return `Validators.${constraint.kind}(${constraint.value})`;
    case 'min-length':
      return `Validators.minLength(${constraint.value})`;
    case 'max-length':
      return `Validators.maxLength(${constraint.value})`;
    case 'pattern':
      return `Validators.pattern(${constraint.form === 'text' ? quoted(constraint.value, style) : constraint.value})`;
    case 'custom':
      return constraint.code;
    case 'above':
    case 'below':
    case 'integer':
    case 'not-blank':
    case 'present':
    case 'one-of':
    case 'equal':
      return undefined;
    default: {
      const never: never = constraint;
      return never;
    }
  }
}
