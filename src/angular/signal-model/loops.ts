import type { LedgerEntry } from '../../form/ledger.js';
import type { Span } from '../../form/code.js';
import { indentAt } from '../../source/style.js';
import type { AngularComponent } from '../component.js';
import { loopsOf, type Loop } from '../rows.js';
import { attributeRemoval, type FileEdit } from '../writing.js';
import type { SignalDraft } from './draft.js';

/** What a structural directive calls the places of a loop, as a block says them. */
const places: Partial<Record<string, string>> = {
  index: '$index',
  count: '$count',
  first: '$first',
  last: '$last',
  even: '$even',
  odd: '$odd',
};

/** The `*ngFor` of a loop: its place in the file, and what stands between its quotes; undefined for a block. */
export function directiveOf(
  { variable, list }: Loop,
  { template: { place } }: AngularComponent,
): { span: Span; text: string } | undefined {
  const start = variable.view.start - place.base;
  const found = /\*ngFor\s*=\s*(["'])([\s\S]*?)\1/.exec(place.text.slice(start));
  if (!found || place.text[start] === '@') return undefined;
  const own = variable.view.start + found.index;
  const end = own + found[0].length;
  return own <= list.start && end >= list.end
    ? { span: { file: place.file, start: own, end }, text: found[2] ?? '' }
    : undefined;
}

/**
 * The head of the block that repeats what `*ngFor` repeats.
 * @param tree the list's field
 * @returns undefined where the directive says more than the loop and its places
 */
export function blockHead(loop: Loop, tree: string, component: AngularComponent): string | undefined {
  const [head = '', ...more] = (directiveOf(loop, component)?.text ?? '').split(/[;,]/).map((part) => part.trim());
  const item = /^let\s+(\w+)\s+of\b/.exec(head)?.[1];
  const named = more.filter(Boolean).map((part) => {
    const [, letName, place] = /^let\s+(\w+)\s*=\s*(\w+)$/.exec(part) ?? [];
    const [, asPlace, asName] = /^(\w+)\s+as\s+(\w+)$/.exec(part) ?? [];
    const told = places[place ?? asPlace ?? ''];
    return told === undefined ? undefined : `${letName ?? asName ?? ''} = ${told}`;
  });
  if (item === undefined || named.includes(undefined)) return undefined;
  return `@for (${item} of ${tree}; track ${item}${named.length ? `; let ${named.join(', ')}` : ''}) {`;
}

/** A structural directive cannot run through the fields of a form: a block repeats the element instead. */
export function blockEdits(loop: Loop, tree: string, draft: SignalDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { component, context } = draft;
  const { place } = component.template;
  const directive = directiveOf(loop, component);
  const head = directive && blockHead(loop, tree, component);
  if (!directive || head === undefined) return [];
  const { start, end } = loop.variable.view;
  const { file } = place;
  const text = context.text(file);
  const alone = /\n[ \t]*$/.test(text.slice(0, start));
  const { newline } = context.style;
  const joint = alone ? newline + indentAt(text, start) : ' ';
  ledger.push({
    entry: 'carried',
    takenOver: true,
    span: directive.span,
    what: directive.text,
    why: `${head} takes its place`,
  });
  return [
    { file, start, end: start, text: head + joint },
    attributeRemoval(text, directive.span, place.base),
    { file, start: end, end, text: `${joint}}` },
  ];
}

/** The places of loops that become blocks. */
export function replacedLoops({ component, model }: SignalDraft): Span[] {
  const lists = model.lists?.flatMap(({ loops }) => loops.map(({ list }) => list.start)) ?? [];
  return loopsOf(component).flatMap((loop) => {
    const directive = lists.includes(loop.list.start) ? directiveOf(loop, component) : undefined;
    return directive ? [directive.span] : [];
  });
}
