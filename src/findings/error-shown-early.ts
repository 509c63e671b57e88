import type { FormModel } from '../form/model.js';
import type { Rule } from '../form/rules.js';
import { jsonOf, type Json } from '../rules/json-schema/schema.js';
import { holds, isBroken } from '../rules/verdict.js';
import { keyOf, type FindingKind } from './finding.js';

/** An error shows before the person had a chance to type. */
export const errorShownEarly: FindingKind = {
  code: 'error-shown-early',
  level: 'warning',
  find(model) {
    const early = (model.messages ?? []).filter(({ live, waits }) => live && !waits);
    const told = new Set<string>();
    return early.flatMap(({ key, span }) => {
      if (key === undefined || told.has(key)) return [];
      const rule = model.rules.find(
        (one) => one.moment === 'change' && keyOf(one) === key && breaksAtFirst(one, model),
      );
      if (!rule) return [];
      told.add(key);
      return [
        {
          span,
          message: `“${rule.message ?? rule.condition}” shows before anyone typed into ${key}`,
          remedy: `show it once ${key} was left, or once the form was sent`,
        },
      ];
    });
  },
};

/** Whether a form begins with values that break a rule. */
function breaksAtFirst(rule: Rule, model: FormModel): boolean {
  const startOf = (name: string): Json | undefined => {
    const field = model.fields.find((one) => one.name === name);
    return field?.initial.when === 'constant' ? jsonOf(field.initial.text) : undefined;
  };
  const value = startOf(rule.fields[0] ?? '');
  if (!rule.constraint || value === undefined || isBroken(rule.constraint, value) !== true) return false;
  return (rule.guards ?? []).every((guard) => {
    const other = startOf(guard.field);
    return other !== undefined && holds(guard, other) === true;
  });
}
