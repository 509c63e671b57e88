import type { Link } from '../chains.js';
import { accessText } from '../writing.js';
import type { Leaving } from './leaving.js';
import { controlAt, kindAt, replace, unclear, type Place } from './places.js';

/** What is asked of a field that does not always count, where it may not count. */
export function sayCounting(place: Place, asked: Link): void {
  const { base, chain, leaving } = place;
  const form = `${chain.inTemplate ? '' : 'this.'}${leaving.found.form.name}`;
  const told = asked.key === 'dirty' ? [leaving.disabled] : [leaving.hidden, leaving.disabled];
  const parts = told.flatMap((kept) =>
    [...kept].flatMap(([path, text]) => {
      const under = base.plain === path || base.plain.startsWith(`${path}.`);
      return under ? [text(`${form}.getRawValue()`)] : [];
    }),
  );
  const conditions = parts.map((text) => {
    const said = shortened(text ?? '', form, leaving);
    return /^![\w$.]+$/.test(said) ? said.slice(1) : `!(${said})`;
  });
  if (parts.some((text) => text === undefined || (chain.inTemplate && !isPlainExpression(text))))
    return unclear(place, chain.links.length, 'whether it counts is not told by its values alone');
  replace(place, chain.start, asked.end, `(${[...conditions, `${base.control}.${asked.key}`].join(' && ')})`);
}

/** Whether a template can say an expression as well. */
function isPlainExpression(text: string): boolean {
  return !/=>|\bnew\b|[^\w$.'"()!=<>&|+\-*/?:\s,]/.test(text);
}

/** Whether a place stands in a part of the template that is shown only where its field is not hidden. */
export function isShown({ name, base, leaving }: Place): boolean {
  const { component, found, disabled } = leaving;
  const { text } = component.template.place;
  const wanted = `!${found.form.name}.${base.plain}().hidden()`;
  for (let view = name?.view; view; view = view.parent) {
    if (view.kind !== 'condition' || view.negated || !view.expression) continue;
    const { start, end } = view.expression.sourceSpan;
    if (text.slice(start, end).trim() === wanted) return !isUnder(base.plain, disabled);
  }
  return false;
}

/** Whether a field, or a group around it, stands among those that do not always count. */
function isUnder(plain: string, kept: ReadonlyMap<string, unknown>): boolean {
  return [...kept.keys()].some((path) => plain === path || plain.startsWith(`${path}.`));
}

/**
 * Whether a field may not count at times. Hidden fields say that they were not touched, disabled ones neither that nor
 * that they were changed.
 */
export function hiddenAt(plain: string, asked: string, { hidden, disabled }: Leaving): boolean {
  return isUnder(plain, disabled) || (asked !== 'dirty' && isUnder(plain, hidden));
}

/** Whether a group, or the form, holds fields that may not count at times. */
export function holdsHidden(plain: string, { hidden, disabled }: Leaving): boolean {
  const inside = (path: string): boolean => plain === '' || path.startsWith(`${plain}.`);
  return [...hidden.keys(), ...disabled.keys()].some(inside);
}

/** Whether a field is hidden or disabled, by the condition of its schema. */
export function sayHidden(place: Place, asked: Link): void {
  const { base, chain, leaving } = place;
  const of = (asked.key === 'hidden' ? leaving.hidden : leaving.disabled).get(base.plain);
  const form = `${chain.inTemplate ? '' : 'this.'}${leaving.found.form.name}`;
  const text = of?.(`${form}.getRawValue()`);
  if (text === undefined || (chain.inTemplate && !isPlainExpression(text)))
    return unclear(place, chain.links.length, `whether it is ${asked.key} is not told by its values alone`);
  const said = shortened(text, form, leaving);
  const alone = /^!?[\w$.]+(\(\))?[\w$.]*$/.test(said);
  const { text: source, base: offset } = leaving.component.template.place;
  const before = chain.inTemplate
    ? source.slice(0, chain.start - offset)
    : leaving.component.script.text.slice(0, chain.start);
  if (/!$/.test(before) && /^![\w$.]+$/.test(said)) return replace(place, chain.start - 1, asked.end, said.slice(1));
  replace(place, chain.start, asked.end, alone ? said : `(${said})`);
}

/** Values of single fields are asked of their controls. */
export function shortened(text: string, form: string, leaving: Leaving): string {
  const paths = [...leaving.leaves].sort((a, b) => b.path.length - a.path.length);
  let said = text;
  for (const { path } of paths) {
    if (kindAt(path, leaving) !== 'field') continue;
    const access = path.split('.').map(accessText).join('');
    said = said.split(`${form}.getRawValue()${access}`).join(`${controlAt(form, path)}.value`);
  }
  return said;
}
