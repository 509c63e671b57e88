import type { Constraint, Rule } from '../form/rules.js';

/** A constraint attribute of a control. `value` is its text, or an expression's text where it is bound. */
export interface ConstraintAttribute {
  name: string;
  value: string | undefined;
  bound: boolean;
}

/** Attributes that state a rule. */
export const constraintNames = ['required', 'minlength', 'maxlength', 'min', 'max', 'pattern', 'email'];

function literalOf(expression: string): string | undefined {
  const text = expression.trim();
  if (/^-?\d+(\.\d+)?$/.test(text) || /^(true|false)$/.test(text)) return text;
  return /^(['"`])((?:(?!\1)[^\\$])*)\1$/.exec(text)?.[2];
}

/**
 * What a constraint attribute asks for.
 * @param control what kind of control bears it: a tick box is required to be ticked, limits count for numbers only
 * @returns the constraint; undefined where the attribute states none; `conditional` where it depends on an expression
 */
export function constraintOfAttribute(
  attribute: ConstraintAttribute,
  control: { element: string; type: string | undefined },
): Constraint | 'conditional' | undefined {
  const literal = attribute.bound ? literalOf(attribute.value ?? '') : (attribute.value ?? '');
  if (literal === undefined) return 'conditional';
  switch (attribute.name) {
    case 'required':
      if (literal === 'false') return undefined;
      return { kind: control.type === 'checkbox' ? 'required-true' : 'required' };
    case 'email':
      return literal === 'false' ? undefined : { kind: 'email' };
    case 'min':
    case 'max':
      return control.type === 'number' && literal !== '' ? { kind: attribute.name, value: literal } : undefined;
    case 'minlength':
      return { kind: 'min-length', value: literal };
    case 'maxlength':
      return { kind: 'max-length', value: literal };
    case 'pattern':
      return literal === '' ? undefined : { kind: 'pattern', form: 'text', value: literal };
    default:
      return undefined;
  }
}

/** The kind under which a constraint is listed. */
export function ruleKindOf(constraint: Constraint): Rule['kind'] {
  switch (constraint.kind) {
    case 'required':
    case 'required-true':
    case 'not-blank':
    case 'present':
      return 'required';
    case 'min':
    case 'max':
    case 'above':
    case 'below':
    case 'integer':
      return 'range';
    case 'one-of':
      return 'one of';
    case 'equal':
      return 'equal';
    case 'min-length':
    case 'max-length':
      return 'length';
    case 'email':
    case 'pattern':
    case 'custom':
      return constraint.kind;
    default: {
      const never: never = constraint;
      return never;
    }
  }
}

/** A constraint in words of the source. */
export function conditionOf(constraint: Constraint): string {
  switch (constraint.kind) {
    case 'required':
    case 'email':
      return constraint.kind;
    case 'required-true':
      return 'required to be ticked';
    case 'custom':
      return constraint.code;
    case 'not-blank':
      return 'more than white space';
    case 'present':
      return 'not null';
    case 'integer':
      return 'a whole number';
    case 'one-of':
      return `one of ${constraint.values.join(', ')}`;
    case 'equal':
      return `the same as ${constraint.to}`;
    case 'min':
    case 'max':
    case 'above':
    case 'below':
    case 'min-length':
    case 'max-length':
    case 'pattern':
      return `${constraint.kind.replace('-', ' ')} ${constraint.value}`;
    default: {
      const never: never = constraint;
      return never;
    }
  }
}

function escaped(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/"/g, '&quot;');
}

/**
 * The attribute of a template that states a constraint.
 * @param inTemplate turns an expression of the class into one of the template; undefined where that cannot be
 * @returns the attribute's text, or undefined where no attribute states it
 */
export function attributeText(
  constraint: Constraint,
  control: { type: string | undefined; limitsTyping: boolean },
  inTemplate: (expression: string) => string | undefined,
): string | undefined {
  const valued = (name: string, expression: string): string | undefined => {
    const literal = literalOf(expression);
    if (literal !== undefined && !literal.includes('{{')) return `${name}="${escaped(literal)}"`;
    const bound = inTemplate(expression);
    return bound === undefined ? undefined : `[${name}]="${escaped(bound)}"`;
  };
  switch (constraint.kind) {
    case 'required':
      return control.type === 'checkbox' ? undefined : 'required';
    case 'required-true':
      return control.type === 'checkbox' ? 'required' : undefined;
    case 'email':
      return 'email';
    case 'min':
    case 'max':
      return control.type === 'number' ? valued(constraint.kind, constraint.value) : undefined;
    case 'min-length':
      return valued('minlength', constraint.value);
    case 'max-length':
      // the attribute would keep a person from typing what the rule only complains about
      return control.limitsTyping ? valued('maxlength', constraint.value) : undefined;
    case 'pattern':
      return constraint.form === 'text'
        ? valued('pattern', JSON.stringify(constraint.value))
        : patternText(constraint.value, inTemplate);
    case 'above':
    case 'below':
    case 'integer':
    case 'not-blank':
    case 'present':
    case 'one-of':
    case 'equal':
    case 'custom':
      return undefined;
    default: {
      const never: never = constraint;
      return never;
    }
  }
}

/** A pattern as an attribute: one that is anchored at both ends says the same without its slashes. */
function patternText(expression: string, inTemplate: (expression: string) => string | undefined): string | undefined {
  const source = /^\/(\^.*\$)\/$/.exec(expression.trim())?.[1];
  if (source !== undefined && !source.includes('{{') && !source.endsWith('\\$'))
    return `pattern="${escaped(source.slice(1, -1).includes('|') ? source : source.slice(1, -1))}"`;
  const text = literalOf(expression);
  if (text !== undefined) return `pattern="${escaped(text)}"`;
  const bound = inTemplate(expression);
  return bound === undefined ? undefined : `[pattern]="${escaped(bound)}"`;
}
