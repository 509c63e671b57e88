import type { FormModel } from '../form/model.js';
import { errorNeverShown } from './error-never-shown.js';
import { errorShownEarly } from './error-shown-early.js';
import type { Finding, FindingKind, FindingLevel } from './finding.js';
import { ruleWithoutField } from './rule-without-field.js';

/** Every kind of finding, the ones that name a cause before those that follow from it. */
export const findingKinds: readonly FindingKind[] = [ruleWithoutField, errorNeverShown, errorShownEarly];

/** Levels that the settings give to findings, by code. */
export type FindingLevels = Record<string, FindingLevel | 'off'>;

/** The mistakes of a form, in the order of their places. */
export function findingsOf(model: FormModel, levels: FindingLevels = {}): Finding[] {
  return findingKinds
    .flatMap(({ code, level, find }) => {
      const asked = levels[code] ?? level;
      return asked === 'off' ? [] : find(model).map((found): Finding => ({ code, level: asked, ...found }));
    })
    .sort((a, b) => a.span.file.localeCompare(b.span.file) || a.span.start - b.span.start);
}
