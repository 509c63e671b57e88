import { isField, keyOf, type FindingKind } from './finding.js';

/** A rule has a message that no markup shows. */
export const errorNeverShown: FindingKind = {
  code: 'error-never-shown',
  level: 'warning',
  find(model) {
    const { messages } = model;
    // where any message can show, and where none shows by its name, every message may be shown elsewhere
    if (!messages?.length || messages.some(({ key }) => key === undefined)) return [];
    const shown = new Set(messages.map(({ key }) => key));
    const told = new Set<string>();
    return model.rules.flatMap((rule) => {
      const key = keyOf(rule);
      if (rule.stated !== 'code' || rule.message === undefined || key === undefined) return [];
      // the values of a group go by their own names
      const byName = shown.has(key) || shown.has(key.split('.').at(-1));
      if (byName || told.has(key) || !isField(key, model) || !rule.keyed) return [];
      told.add(key);
      return [
        {
          span: rule.statedIn?.piece ?? rule.span,
          message: `the message for ${key}, “${rule.message}”, is shown nowhere`,
          remedy: `show the error of ${key} beside its control, as is done for ${[...shown][0] ?? 'others'}`,
        },
      ];
    });
  },
};
