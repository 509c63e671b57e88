import type { Constraint, Guard, Rule } from '../form/rules.js';
import type { FormModel } from '../form/model.js';

/** What a browser takes for an address in a control of type `email`. */
const browserEmail =
  "/^[a-zA-Z0-9.!#$%&'*+/=?^_`{|}~-]+@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)*$/";

/** What Angular takes for an address. */
const angularEmail =
  "/^(?=.{1,254}$)(?=.{1,64}@)[a-zA-Z0-9!#$%&'*+/=?^_`{|}~-]+(?:\\.[a-zA-Z0-9!#$%&'*+/=?^_`{|}~-]+)*@[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?(?:\\.[a-zA-Z0-9](?:[a-zA-Z0-9-]{0,61}[a-zA-Z0-9])?)*$/";

/** A pattern that is given as text: Angular puts an anchor where one is missing, a browser asks for the whole value. */
function wholeText(text: string, angular: boolean): string {
  const whole = angular ? `${text.startsWith('^') ? '' : '^'}${text}${text.endsWith('$') ? '' : '$'}` : `^(?:${text})$`;
  return `/${whole.replace(/(^|[^\\])\//g, '$1\\/')}/`;
}

/**
 * A rule with everything that its way of stating rules takes for granted written out: that an empty value meets a
 * length or a pattern, what counts as empty, what an address is. Rules of code say everything themselves.
 * @param kindOf kind of value a field holds
 */
export function withMeaning(
  rule: Rule,
  framework: FormModel['framework'],
  kindOf: (field: string) => string | undefined,
): Rule {
  const { constraint } = rule;
  const [field] = rule.fields;
  if (!constraint || field === undefined || rule.stated === 'code' || rule.stated === 'json-schema') return rule;
  const angular = framework === 'angular';
  const number = kindOf(field) === 'number';
  const filled: Guard[] = [...(rule.guards ?? []), { field, is: 'filled' }];
  const asked = (changed: Constraint): Rule => ({ ...rule, constraint: changed });
  switch (constraint.kind) {
    case 'required':
      if (angular && (number || kindOf(field) === 'boolean')) return asked({ kind: 'present' });
      return rule;
    case 'min-length':
      return { ...rule, guards: filled };
    case 'pattern': {
      const stated: Constraint =
        constraint.form === 'text'
          ? { ...constraint, form: 'expression', value: wholeText(constraint.value, angular) }
          : constraint;
      return { ...rule, constraint: stated, guards: filled };
    }
    case 'email':
      return {
        ...rule,
        constraint: { kind: 'pattern', form: 'expression', value: angular ? angularEmail : browserEmail },
        guards: filled,
      };
    case 'present':
    case 'required-true':
    case 'min':
    case 'max':
    case 'above':
    case 'below':
    case 'max-length':
    case 'integer':
    case 'not-blank':
    case 'one-of':
    case 'equal':
    case 'custom':
      return rule;
    default: {
      const never: never = constraint;
      return never;
    }
  }
}
