import type { FormModel } from '../form/model.js';
import type { Hints } from './trace.js';

/**
 * A text that a pattern accepts, for plain patterns: literals, classes, groups, counts.
 * @returns undefined where the attempt does not match
 */
export function textMatching(source: string): string | undefined {
  let at = 0;
  const one = (set: string): string => {
    const bare = set.replace(/^\[|\]$/g, '');
    if (bare.startsWith('^')) return /\\s/.test(bare) ? 'a' : 'b';
    const first = /^\\(.)/.exec(bare)?.[1];
    if (first === 'd') return '4';
    if (first === 'w') return 'a';
    if (first === 's') return ' ';
    return first ?? bare.charAt(0);
  };
  const sequence = (): string => {
    let result = '';
    let skip = false;
    while (at < source.length && source[at] !== ')') {
      const unit = source[at] ?? '';
      let last: string;
      if (unit === '|') {
        skip = true;
        at += 1;
        continue;
      }
      if (unit === '^' || unit === '$') {
        at += 1;
        continue;
      }
      if (unit === '(') {
        at += 1;
        if (source.startsWith('?:', at)) at += 2;
        else if (source[at] === '?') {
          let depth = 1;
          while (depth > 0 && at < source.length) {
            if (source[at] === '(') depth += 1;
            if (source[at] === ')') depth -= 1;
            at += 1;
          }
          continue;
        }
        last = sequence();
        at += 1;
      } else if (unit === '[') {
        const end = source.indexOf(']', at + 1);
        last = one(source.slice(at, end + 1));
        at = end + 1;
      } else if (unit === '\\') {
        last = one(source.slice(at, at + 2));
        at += 2;
      } else {
        last = unit === '.' ? 'a' : unit;
        at += 1;
      }
      const count = /^(\*|\+|\?|\{(\d+)(?:,\d*)?\})/.exec(source.slice(at));
      let times = 1;
      if (count) {
        at += count[0].length;
        times = count[2] === undefined ? (count[1] === '+' ? 1 : 0) : Number(count[2]);
      }
      if (!skip) result += last.repeat(times);
    }
    return result;
  };
  const text = sequence();
  try {
    return text !== '' && new RegExp(source).test(text) ? text : undefined;
  } catch {
    return undefined;
  }
}

/** What a form's model tells a person who tries it: texts that keep its rules, texts that break them, the send button. */
export function hintsOf(model: FormModel | undefined): Hints {
  const hints: Hints = { right: {}, wrong: {}, submit: [] };
  for (const rule of model?.rules ?? []) {
    for (const control of model?.controls.filter(({ field }) => rule.fields.includes(field)) ?? []) {
      const keys = [control.label, control.name].filter((key) => key !== undefined);
      const pattern = /\/((?:[^/\\\n]|\\.)+)\/[a-z]*\s*\.test/.exec(rule.condition)?.[1];
      const text = pattern === undefined ? undefined : textMatching(pattern);
      const limits = [...rule.condition.matchAll(/(?:length\s*)?[<>]=?\s*(-?\d+(?:\.\d+)?)/g)].map((match) =>
        Number(match[1]),
      );
      const isLength = /\.length/.test(rule.condition);
      for (const key of keys) {
        if (text !== undefined) (hints.right[key] ??= []).push(text);
        for (const limit of limits) {
          if (isLength)
            (hints.wrong[key] ??= []).push(
              'm'.repeat(Math.max(0, Math.min(60, limit - 1))),
              'm'.repeat(Math.min(60, limit + 1)),
            );
          else (hints.wrong[key] ??= []).push(String(limit - 1), String(limit), String(limit + 1));
        }
      }
    }
  }
  return hints;
}
