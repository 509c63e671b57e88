import type { Code } from '../../form/code.js';
import type { Caught, PlannedStep } from './caught.js';

/**
 * What a reducer does for an action stands word for word in the function of all values that takes its place; other
 * functions that say the same cannot stand in for it.
 */
export function changedCases({ model, plan, sources }: PlannedStep): Caught[] {
  const written = plain(plan.edits.map(({ text }) => text).join('\n'));
  const functions = model.steps?.functions ?? [];
  const places = functions.map(({ name }) =>
    written.search(new RegExp(`(?:function|const)${name.replaceAll('$', '\\$')}`)),
  );
  return functions.flatMap(({ name, body }, index): Caught[] => {
    const from = places[index] ?? -1;
    if (from < 0) return [];
    const to = Math.min(written.length, ...places.filter((place) => place > from));
    const own = written.slice(from, to);
    if (partsOf(body, sources.text(body.file)).every((part) => own.includes(part))) return [];
    const why = `what it does would not stand in ${name} word for word`;
    return [{ check: 'conservation', span: body, what: name, why }];
  });
}

/** The author's text around the places that stand for something else. */
function partsOf({ start, end, holes }: Code, text: string): string[] {
  const parts: string[] = [];
  let at = start;
  for (const hole of [...holes].sort((a, b) => a.start - b.start)) {
    if (hole.start > at) parts.push(text.slice(at, hole.start));
    at = Math.max(at, hole.end);
  }
  parts.push(text.slice(at, end));
  return parts.map(plain).filter((part) => part !== '');
}

/** A text as its author and a formatter may both write it. */
function plain(text: string): string {
  return text.replace(/\/\/[^\n]*|\/\*[\s\S]*?\*\//g, '').replace(/[\s;,()]+/g, '');
}
