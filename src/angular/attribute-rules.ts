import type { Constraint, Rule } from '../form/rules.js';
import { conditionOf, constraintNames, constraintOfAttribute, ruleKindOf } from '../rules/native.js';
import type { AngularComponent } from './component.js';
import { plainText } from './form-site.js';
import type { TemplateElement } from './template-model.js';

/** The rules that attributes of a control state, without their messages; one under a condition has no constraint. */
export function rulesOfElement(element: TemplateElement, field: string, { template }: AngularComponent): Rule[] {
  const control = { element: element.tag, type: plainText(element, 'type') };
  const { file } = template.place;
  return constraintNames.flatMap((name): Rule[] => {
    const attribute = element.attributes.find((one) => one.name === name && /^(plain|property)$/.test(one.kind));
    if (!attribute) return [];
    const stated = { name, value: attribute.value, bound: attribute.kind === 'property' };
    const constraint = constraintOfAttribute(stated, control);
    if (!constraint) return [];
    const rule = { fields: [field], message: undefined, moment: 'change', stated: 'native' } as const;
    const span = { file, start: attribute.start, end: attribute.end };
    return constraint === 'conditional'
      ? [{ ...rule, fields: [field], kind: 'custom', condition: `${name} where ${attribute.value ?? ''}`, span }]
      : [
          {
            ...rule,
            fields: [field],
            kind: ruleKindOf(constraint),
            condition: conditionOf(constraint),
            span,
            constraint,
          },
        ];
  });
}

/** Whether a rule asks the same kind of thing of a field. */
export function isSame(field: string, { kind }: Constraint): (rule: Rule) => boolean {
  return (rule) => rule.fields[0] === field && rule.constraint?.kind === kind;
}
