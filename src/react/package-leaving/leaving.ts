import type { Binding, NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { LedgerEntry } from '../../form/ledger.js';
import { placeByHand, type WriteContext } from '../../form/writing.js';
import { applyEdits, type Edit } from '../../source/edits.js';
import { movedLines } from '../../source/moved-lines.js';
import { wholeLines } from '../../source/removal.js';
import { indentAt } from '../../source/style.js';
import type { Script } from '../../source/script.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import type { Turn } from './turns.js';

/** A place at which something else is said; its text is asked for in the end, when all places inside of it are known. */
interface Said {
  start: number;
  end: number;
  text: () => string;
  /** Its text is being asked for: what stands there says it in other words. */
  asked?: boolean;
}

/** A form on its way out of a package: what is said in place of what, and what is left by hand. */
export interface Leaving {
  site: FormSite;
  script: Script;
  context: WriteContext;
  said: Said[];
  ledger: LedgerEntry[];
  /** Bindings that go with the package: parameters and patterns that its members came by. */
  gone: Set<Binding>;
  /** Places that look at the values of their view, or change them. */
  turns: Turn[];
  /** That of the form’s own component, where this is a component which the form is handed to. */
  outer?: Leaving;
}

/** Begins to take a form of a site out of its package. */
export function leavingFrom(site: FormSite, context: WriteContext): Leaving {
  return { site, script: site.script, context, said: [], ledger: [], gone: new Set(), turns: [] };
}

/** Leaves a place by hand. */
export function stays(leaving: Leaving, path: NodePath, why: string): void {
  const entry = placeByHand(spanOf(leaving.script.file, path), leaving.context, why);
  const { start, end } = entry.span;
  const isKnown = leaving.ledger.some(({ span }) => span.start === start && span.end === end);
  if (!isKnown) leaving.ledger.push({ ...entry, what: entry.what.split('\n')[0] ?? '' });
}

/** Whether anything is left by hand. */
export function isLeft({ ledger }: Leaving): boolean {
  return ledger.some(({ entry }) => entry === 'by-hand');
}

/** Says something else in place of a path. */
export function says(leaving: Leaving, { node }: { node: t.Node }, text: string | (() => string)): void {
  saysAt(leaving, node.start ?? 0, node.end ?? 0, text);
}

/** Says something else in place of a stretch. */
export function saysAt({ said }: Leaving, start: number, end: number, text: string | (() => string)): void {
  said.push({ start, end, text: typeof text === 'string' ? () => text : text });
}

/** The text of a path with what is said anew inside of it. */
export function textIn(leaving: Leaving, { node }: { node: t.Node }): string {
  return stretch(leaving, node.start ?? 0, node.end ?? 0);
}

/** A stretch of the file with what is said anew inside of it. */
export function stretch({ said, script }: Leaving, start: number, end: number): string {
  const inside = said.filter(
    (one) => one.start >= start && one.end <= end && !(one.asked && one.start === start && one.end === end),
  );
  return applyEdits(
    script.text.slice(start, end),
    resolved(inside).map((edit) => ({ ...edit, start: edit.start - start, end: edit.end - start })),
  );
}

/** All edits of the file; what lies inside of another place is said with it. */
export function resolved(said: readonly Said[]): Edit[] {
  const ordered = [...said].sort((a, b) => a.start - b.start || b.end - a.end);
  const kept: Said[] = [];
  for (const one of ordered) {
    const last = kept.at(-1);
    const isInside = last !== undefined && one.start < last.end && one.end <= last.end;
    // what is put in front of another place stays beside it
    if (isInside && !(one.start === one.end && one.start === last.start)) continue;
    kept.push(one);
  }
  return kept.map((one) => ({ start: one.start, end: one.end, text: textOf(one) }));
}

function textOf(one: Said): string {
  one.asked = true;
  const text = one.text();
  one.asked = false;
  return text;
}

/** Code of several lines that stood at one depth, as it stands at another. */
export function reindented(text: string, from: string, to: string): string {
  return from === to
    ? text
    : movedLines(text, (line, index) => (index && line.startsWith(from) ? to + line.slice(from.length) : line));
}

/** The indentation of the line on which a path begins. */
export function depthOf({ script }: Leaving, { node }: { node: t.Node }): string {
  return indentAt(script.text, node.start ?? 0);
}

/** A name for something of the component: a wished one that nothing stands in the way of. */
export function nameIn(leaving: Leaving, ...wished: [string, ...string[]]): string {
  const { site, context, gone, outer } = leaving;
  const scopes = [site, ...(outer ? [outer.site] : [])].map(({ component }) => component.path.scope);
  const isFree = (name: string): boolean =>
    scopes.every((scope) => {
      const known = scope.getBinding(name);
      return (!known || gone.has(known)) && !scope.hasGlobal(name);
    });
  const [first, ...others] = wished;
  return wished.find(isFree) ?? context.freeName(first, ...others);
}

/** Whether a name of the component means the same at a place: no function or block around it has one like it. */
export function isSeenAt({ site, gone }: Leaving, path: NodePath, name: string): boolean {
  const known = path.scope.getBinding(name);
  if (!known || gone.has(known)) return true;
  const component = site.component.path;
  return known.scope.path.node === component.node || known.scope.path.isProgram();
}

/** What is drawn in place of an element: at its depth, and in braces where it is no element itself. */
export function drawnText(leaving: Leaving, element: NodePath<t.JSXElement>, body: NodePath): string {
  const inJsx = element.parentPath.isJSXElement() || element.parentPath.isJSXFragment();
  const isElement = body.isJSXElement() || body.isJSXFragment();
  const [from, to] = [depthOf(leaving, body), depthOf(leaving, element)];
  if (body.isJSXFragment() && inJsx && isAlone(leaving, element)) {
    const { openingFragment, closingFragment } = body.node;
    const inner = stretch(leaving, openingFragment.end ?? 0, closingFragment.start ?? 0);
    const { indent } = leaving.context.style;
    // what a fragment holds on lines of its own stands where it stood
    if (/^[ \t]*\r?\n/.test(inner)) return reindented(`${from}${inner}`, from + indent, to).trim();
  }
  const text = reindented(textIn(leaving, body), from, to);
  return isElement || !inJsx ? text : `{${text}}`;
}

/** Whether nothing else stands on the lines of a path. */
function isAlone({ script }: Leaving, { node }: NodePath): boolean {
  const before = script.text.slice(script.lines.lineStart(node.start ?? 0), node.start ?? 0);
  return before.trim() === '' && /^[ \t]*(?:\r?\n|$)/.test(script.text.slice(node.end ?? 0));
}

/** Attributes that take the place of one: each on a line of its own where that one stood so. */
export function asAttributes({ script, context }: Leaving, { node }: NodePath, attributes: readonly string[]): string {
  const start = node.start ?? 0;
  const before = script.text.slice(script.lines.lineStart(start), start);
  return attributes.join(before.trim() === '' ? context.style.newline + before : ' ');
}

/** Takes the attribute away that a path is, or stands in, with the white space in front of it. */
export function takeAttribute(leaving: Leaving, path: NodePath): void {
  const attribute = path.isJSXAttribute() ? path : path.findParent((parent) => parent.isJSXAttribute());
  if (!attribute) return;
  const start = attribute.node.start ?? 0;
  const before = /\s*$/.exec(leaving.script.text.slice(0, start))?.[0].length ?? 0;
  saysAt(leaving, start - before, attribute.node.end ?? 0, '');
}

/** Takes a statement away with its lines. */
export function takeStatement(leaving: Leaving, { node }: { node: t.Node }): void {
  const { start, end } = wholeLines(leaving.script.text, { start: node.start ?? 0, end: node.end ?? 0 });
  saysAt(leaving, start, end, '');
}

/** Every place that speaks of a name which goes with the package. */
export function referencesTo({ gone }: Leaving, id: NodePath<t.Identifier>): NodePath[] {
  const binding = id.scope.getBinding(id.node.name);
  if (binding) gone.add(binding);
  return binding?.referencePaths ?? [];
}

/** What a pattern takes, by its keys: the name or the pattern behind each; the property itself where it is no plain pair. */
export function takenApart(pattern: NodePath<t.ObjectPattern>): [string | undefined, NodePath][] {
  return pattern.get('properties').map((property): [string | undefined, NodePath] => {
    const key = property.isObjectProperty() && t.isIdentifier(property.node.key) ? property.node.key.name : undefined;
    return [key, key !== undefined && property.isObjectProperty() ? (property.get('value') as NodePath) : property];
  });
}

/** Comments inside of a node, without those in parts that are said as they stand. */
export function commentsIn({ script }: Leaving, outer: t.Node, parts: readonly t.Node[]): string[] {
  const holds = (node: t.Node, at: number): boolean => at >= (node.start ?? 0) && at < (node.end ?? 0);
  return (script.ast.comments ?? [])
    .filter(({ start }) => holds(outer, start ?? 0) && !parts.some((part) => holds(part, start ?? 0)))
    .map(({ start, end }) => script.text.slice(start ?? 0, end ?? 0));
}

/** Says a name of the component in place of a member; a shorthand property keeps its key. */
export function sayName(leaving: Leaving, path: NodePath, name: string): void {
  if (!isSeenAt(leaving, path, /^[\w$]+/.exec(name)?.[0] ?? name)) {
    stays(leaving, path, `${name} means something else here`);
    return;
  }
  const { parentPath: parent } = path;
  if (parent?.isObjectProperty() && parent.node.shorthand) {
    const key = t.isIdentifier(parent.node.key) ? parent.node.key.name : '';
    if (key !== name) says(leaving, parent, `${key}: ${name}`);
    return;
  }
  if (!path.isIdentifier({ name })) says(leaving, path, name);
}

/** Says another tag for an element. */
export function renameTag(leaving: Leaving, element: NodePath<t.JSXElement>, tag: string): void {
  says(leaving, element.get('openingElement').get('name') as NodePath, tag);
  const closing = element.get('closingElement') as NodePath<t.JSXClosingElement>;
  if (closing.node) says(leaving, closing.get('name') as NodePath, tag);
}
