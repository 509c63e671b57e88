import type { FormModel } from '../../form/model.js';
import type { AskUse } from '../../form/uses.js';
import type { Caught } from './caught.js';
import type { FormMatch } from './form-match.js';

/** What is asked of a form's controls in one way or in another. */
const sameWords: Record<string, string> = {
  untouched: 'touched',
  pristine: 'dirty',
  enabled: 'disabled',
  valid: 'invalid',
  errors: 'invalid',
};

/** Status that is asked of a field or told to it, where the result asks less of it. */
export function askDifferences(
  { before, after }: { before: FormModel; after: FormModel },
  texts: { before(file: string): string; after(file: string): string },
  match: FormMatch,
): Caught[] {
  if (after.approach !== 'signal-model') return [];
  const left = asksOf(after).map((use) => said(use, match.nameBefore));
  const lost = asksOf(before).flatMap((use): Caught[] => {
    const key = said(use, (name) => name);
    // what a whole group is told, each of its fields is told; the form itself keeps whether it was sent
    if (/mark\w*As|: submitted$/.test(key)) return [];
    if (use.member === 'valueChanges' && isFollowed(use.of, texts.after(after.file))) return [];
    const index = left.indexOf(key);
    if (index >= 0) left.splice(index, 1);
    const span = use.asks?.span ?? use.span;
    const what = texts.before(span.file).slice(span.start, span.end);
    // what an error carries is the limit that its rule states
    if (index >= 0 || use.asks?.detail !== undefined) return [];
    return [{ check: 'equality', span, what, why: `nothing of the result asks ${key.replace(': ', ' for ')}` }];
  });
  return [...lost, ...parameterDifferences(before, after, texts), ...limitDifferences(before, after, texts, match)];
}

/** Whether a member of the class tells the changes of a field, or of all values: `toObservable(computed(() => …))`. */
function isFollowed(of: string | undefined, text: string): boolean {
  const path = (of ?? '').replace(/[.$]/g, '\\$&');
  const source = of === undefined ? 'this\\.\\w+' : `computed\\(\\(\\) => this\\.\\w+\\(\\)\\.${path}\\)`;
  return new RegExp(`= toObservable\\(\\s*${source}\\s*,?\\s*\\)`).test(text);
}

/** Limits that attributes of the old controls state, where no rule of the result does. */
function limitDifferences(
  before: FormModel,
  after: FormModel,
  texts: { before(file: string): string },
  match: FormMatch,
): Caught[] {
  return before.controls.flatMap(({ field, span }): Caught[] => {
    const tag = /^<[^>]*>/.exec(texts.before(span.file).slice(span.start, span.end))?.[0] ?? '';
    return [...tag.matchAll(/\s(maxlength|minlength)="(\d+)"/g)].flatMap(([, name = '', limit = '']): Caught[] => {
      const kind = name === 'maxlength' ? 'max-length' : 'min-length';
      const stated = after.rules.some(
        ({ fields, constraint }) =>
          match.nameBefore(fields[0] ?? '') === field && constraint?.kind === kind && constraint.value === limit,
      );
      return stated
        ? []
        : [{ check: 'equality', span, what: `${name} of ${field}`, why: 'no rule of the result says this' }];
    });
  });
}

/** What a method asks of whichever control it is given, where the result asks less. */
function parameterDifferences(
  before: FormModel,
  after: FormModel,
  texts: { before(file: string): string; after(file: string): string },
): Caught[] {
  return (before.template?.asked ?? []).flatMap(({ name, uses }) => {
    const counts = new Map<string, number>();
    return uses.flatMap(({ member, asks, span }): Caught[] => {
      const kind = asks?.error;
      const asked =
        kind === undefined
          ? `${name}\\(\\)\\.${sameWords[member ?? ''] ?? member ?? ''}\\(`
          : `(?:${name}, ['"]|instanceof )${kind}`;
      const count = (counts.get(asked) ?? 0) + 1;
      counts.set(asked, count);
      const found = [...texts.after(after.file).matchAll(new RegExp(asked, 'gi'))].length;
      // whether there are errors at all is whether it is invalid
      const plain = member === 'errors' && kind === undefined;
      if (
        found >= count ||
        (plain && new RegExp(`${name}\\(\\)\\.(?:invalid|errors)\\(`).test(texts.after(after.file)))
      )
        return [];
      const what = texts.before(span.file).slice(span.start, (asks?.span ?? span).end);
      return [
        { check: 'equality', span: asks?.span ?? span, what, why: `nothing of the result asks ${name} for this` },
      ];
    });
  });
}

function asksOf({ uses }: FormModel): AskUse[] {
  return uses.filter((use): use is AskUse => use.kind === 'ask' && use.asks !== undefined);
}

function said({ of, member, asks }: AskUse, named: (name: string) => string): string {
  const key = asks?.error === undefined ? (sameWords[member ?? ''] ?? member ?? '') : asks.error.toLowerCase();
  return `${of === undefined ? 'the form' : named(of)}: ${key}`;
}
