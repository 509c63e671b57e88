import type { Rule } from '../../form/rules.js';
import { signalRuleText } from '../../rules/signal-rules.js';
import { accessText } from '../writing.js';
import type { SignalDraft } from './draft.js';

/** The name of the schema function's parameter. */
export const pathName = 'path';

/** A rule of the form, as the schema states it; undefined where it cannot. */
export interface SchemaRule {
  rule: Rule;
  text: string;
  /** The functions of the package that it calls. */
  needs: string[];
}

/** The rules that a schema can state, in the order of the form's fields, and those that it cannot. */
export function schemaRuleTexts(draft: SignalDraft): { stated: SchemaRule[]; unstated: Rule[] } {
  const { model, component, fields } = draft;
  const stated: SchemaRule[] = [];
  const unstated: Rule[] = [];
  for (const rule of model.rules) {
    const name = rule.of ?? rule.fields[0] ?? '';
    const field = fields.find((one) => one.name === name);
    const control = model.controls.find((one) => one.field === name);
    const element = component.template.elements.find(({ start }) => start === control?.span.start);
    const ruled = {
      path: pathName + (name === '' ? '' : name.split('.').map(accessText).join('')),
      boolean: field?.kind === 'boolean',
      limitsTyping: element?.attributes.some((one) => one.name === 'maxlength') ?? false,
    };
    const text = rule.constraint && field ? signalRuleText(rule.constraint, ruled) : undefined;
    if (text && !rule.guards?.length && rule.guard === undefined) stated.push({ rule, ...text });
    else unstated.push(rule);
  }
  return { stated, unstated };
}
