import type { FormModel } from '../form/model.js';
import { wholeForm } from '../rules/message-keys.js';
import { isField, keyOf, type FindingKind } from './finding.js';

/** A rule or an error key names no field. */
export const ruleWithoutField: FindingKind = {
  code: 'rule-without-field',
  level: 'error',
  find(model) {
    // without a list of fields to trust nothing can be said
    if (model.unclear.length || !model.fields.length) return [];
    const told = new Set<string>();
    return model.rules.flatMap((rule) => {
      const key = keyOf(rule);
      if (rule.stated !== 'code' || key === undefined || isField(key, model) || wholeForm.test(key) || told.has(key))
        return [];
      const near = nearest(
        key,
        model.fields.map(({ name }) => name),
      );
      // names of something else than messages are no mistake: a message of a field stands beside, or a letter is wrong
      if (near === undefined && !model.rules.some((other) => isBeside(other, rule, model))) return [];
      told.add(key);
      return [
        {
          span: rule.statedIn?.piece ?? rule.span,
          message: `the rule for “${key}” speaks of no field of the form`,
          remedy:
            near === undefined
              ? 'name one of the form’s fields, or take the rule out'
              : `say ${near}, if that is what is meant`,
        },
      ];
    });
  },
};

/** Whether the function that states a rule states one for a field as well. */
function isBeside(other: FormModel['rules'][number], rule: FormModel['rules'][number], model: FormModel): boolean {
  const key = keyOf(other);
  return (
    other !== rule &&
    other.keyed === true &&
    key !== undefined &&
    isField(key, model) &&
    other.statedIn?.fn.file === rule.statedIn?.fn.file &&
    other.statedIn?.fn.start === rule.statedIn?.fn.start
  );
}

/** The name that differs least, if it differs by a letter or two. */
function nearest(name: string, others: readonly string[]): string | undefined {
  const ranked = others.map((other) => ({ other, by: distance(name, other) })).sort((a, b) => a.by - b.by);
  const [best] = ranked;
  return best && best.by <= 2 && best.by * 3 <= name.length ? best.other : undefined;
}

/** How many letters have to change to make one word another. */
function distance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, index) => index);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++)
      next.push(
        Math.min((row[j] ?? 0) + 1, (next[j - 1] ?? 0) + 1, (row[j - 1] ?? 0) + (a[i - 1] === b[j - 1] ? 0 : 1)),
      );
    row = next;
  }
  return row[b.length] ?? 0;
}
