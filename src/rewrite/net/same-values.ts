import { codeText, type CodePrinter } from '../../form/code-text.js';
import type { Span } from '../../form/code.js';
import { fieldsOf, type FormModel } from '../../form/model.js';
import type { NewValue } from '../../form/uses.js';
import { tokensOf } from '../../source/tokens.js';
import type { Caught } from './caught.js';
import type { FormMatch } from './form-match.js';
import { assignmentsOf, printerOf } from './told-changes.js';

/** What the values of a field's changes say, told by how often: `trim(`, `'none'`, `kilos:`. */
interface Said {
  changes: number;
  /** How many of them put it back to where it began. */
  starts: number;
  words: Map<string, { count: number; span: Span }>;
}

/**
 * Words of new values that the result lacks, field by field: where as many changes of it are told as before, they say
 * what they said. It finds what one place of the text cannot tell that comes to stand at several.
 */
export function valueDifferences(
  { before, after }: { before: FormModel; after: FormModel },
  texts: { before(file: string): string; after(file: string): string },
  match: FormMatch,
): Caught[] {
  const old = saidIn(before, texts.before, (name) => name);
  const now = saidIn(after, texts.after, match.nameBefore);
  return [...old].flatMap(([field, { changes, starts, words }]): Caught[] => {
    const other = now.get(field);
    if (!match.field(field) || !other || other.changes < changes || other.starts > starts) return [];
    return [...words].flatMap(([word, { count, span }]): Caught[] => {
      const left = other.words.get(word)?.count ?? 0;
      if (left >= count) return [];
      const how = left ? `${left} times, not ${count} times` : 'no more';
      return [
        { check: 'equality', span, what: field, why: `the new values of ${field} would say ${shown(word)} ${how}` },
      ];
    });
  });
}

function shown(word: string): string {
  return word.replace(/[(:]$/, '').replaceAll(mark, '');
}

/** Stands in front of a field's name where its value is meant; a letter, so that the text stays a script. */
const mark = 'ƒ';

function saidIn(
  model: FormModel,
  textOf: (file: string) => string,
  named: (name: string) => string,
): Map<string, Said> {
  const printer = printerOf(model, textOf, named);
  const found = new Map<string, Said>();
  const starts = new Map(fieldsOf(model).map(({ name, initial }) => [name, bare(initial.text)]));
  for (const { field, value, span } of assignmentsOf(model)) {
    const said = found.get(named(field)) ?? { changes: 0, starts: 0, words: new Map() };
    found.set(named(field), said);
    const text = valueText(value, `§${named(field)}`, printer);
    if (text === undefined || bare(text) === starts.get(field)) {
      said.starts += 1;
      continue;
    }
    const words = wordsOf(text);
    if (!words) continue;
    said.changes += 1;
    for (const word of words) said.words.set(word, { count: (said.words.get(word)?.count ?? 0) + 1, span });
  }
  return found;
}

/** A value without what makes a function of it, and without white space. */
function bare(text: string): string {
  return text.replace(/^\(\)\s*=>/, '').replace(/\s+/g, '');
}

/** @param previous what stands for the value the field held before */
function valueText(value: NewValue, previous: string, printer: CodePrinter): string | undefined {
  if (value.kind === 'initial') return undefined;
  if (value.kind === 'value') return codeText(value.code, printer);
  const inside: CodePrinter = {
    ...printer,
    hole: (hole) =>
      hole.kind === 'returned' ? (hole.unchanged ? previous : codeText(hole.value, printer)) : printer.hole(hole),
  };
  return codeText(value.body, inside);
}

/** Literals, keys, members and calls of a value; undefined where it is no code that can be read by itself. */
function wordsOf(text: string): string[] | undefined {
  const code = text.replace(/§/g, mark);
  for (const whole of [`(${code})`, `async function* f() {${code}}`]) {
    try {
      const tokens = tokensOf('value.tsx', whole);
      return tokens.flatMap(({ kind, value }, at): string[] => {
        if (kind === 'text' || kind === 'number' || kind === 'pattern' || kind === 'words') return [value];
        if (kind !== 'name' || /^(?:value|checked|target|currentTarget)$/.test(value)) return [];
        const next = whole
          .slice(tokens[at]?.end ?? 0)
          .trimStart()
          .charAt(0);
        if (next === '(' || (next === ':' && !value.startsWith(mark))) return [`${value}${next}`];
        const isMember = /(?<!\.\.)\.$/.test(whole.slice(0, tokens[at]?.start ?? 0).trimEnd());
        return isMember && !value.startsWith(mark) ? [value] : [];
      });
    } catch {
      continue;
    }
  }
  return undefined;
}
