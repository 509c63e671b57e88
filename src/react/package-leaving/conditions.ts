import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { applyEdits, type Edit } from '../../source/edits.js';
import type { Apart } from './apart.js';
import { stretch, type Leaving } from './leaving.js';
import { walk } from '../../source/traverse.js';

/** A form with names of the component that stand for values of it: `const kind = watch('kind')`. */
export interface Watched extends Pick<Apart, 'leaving' | 'names'> {
  watched: ReadonlyMap<string, string>;
}

/** A condition as a part of several that all have to hold. */
export function inAnd(condition: string): string {
  return /\|\||\?(?!\.)/.test(condition) ? `(${condition})` : condition;
}

/** A comparison that is asked the other way round: its operator gives way to the opposite one. */
export function turnedRound(leaving: Leaving, { node }: NodePath<t.BinaryExpression>): void {
  otherwise(leaving, [node.left.end, node.right.start], node, 'code asks when a value is wrong');
}

/**
 * Notes that a stretch is said in other words altogether.
 * @param what the code that it is a part of
 */
export function otherwise(
  { ledger, script }: Leaving,
  [start, end]: readonly [number | null | undefined, number | null | undefined],
  what: t.Node,
  why: string,
): void {
  const span = { file: script.file, start: start ?? 0, end: end ?? 0 };
  if (ledger.some((one) => one.span.start === span.start && one.span.end === span.end)) return;
  const text = script.text.slice(what.start ?? 0, what.end ?? 0).split('\n')[0] ?? '';
  ledger.push({ entry: 'carried', span, what: text, why, takenOver: true });
}

/** A condition the other way round, with its parts in other words. */
export function negated(
  path: NodePath,
  said: (part: NodePath) => string,
  turned: (comparison: NodePath<t.BinaryExpression>) => void = () => undefined,
): string {
  if (path.isUnaryExpression({ operator: '!' })) return said(path.get('argument') as NodePath);
  if (path.isBinaryExpression()) {
    const other = opposite[path.node.operator];
    if (other !== undefined) turned(path);
    if (other !== undefined)
      return `${said(path.get('left') as NodePath)} ${other} ${said(path.get('right') as NodePath)}`;
  }
  if (path.isLogicalExpression({ operator: '||' }))
    return [path.get('left') as NodePath, path.get('right') as NodePath]
      .map((part) => negated(part, said, turned))
      .map((text) => inAnd(text))
      .join(' && ');
  const text = said(path);
  return path.isCallExpression() || path.isIdentifier() || path.isMemberExpression() ? `!${text}` : `!(${text})`;
}

const opposite: Readonly<Record<string, string>> = { '===': '!==', '!==': '===', '==': '!=', '!=': '==' };

/** Code in which names stand for something else. */
export function standingFor(
  { leaving, watched, names }: Watched,
  path: NodePath,
  stands: ReadonlyMap<string, string>,
  around: NodePath | undefined,
): string {
  const edits: Edit[] = [];
  const start = path.node.start ?? 0;
  const whole = leaving.said.find((one) => one.start === start && one.end === path.node.end && one.end > start);
  if (whole) return whole.text();
  const look = (id: NodePath<t.Identifier>): void => {
    if (!id.isReferencedIdentifier()) return;
    const binding = id.scope.getBinding(id.node.name);
    const own = around && binding?.scope.path.node === around.node ? stands.get(id.node.name) : undefined;
    const field =
      binding && binding.scope.path.node === leaving.site.component.path.node ? watched.get(id.node.name) : undefined;
    const text = own ?? (field === undefined ? undefined : `${names.values}.${field}`);
    if (text === undefined) return;
    const key = id.parentPath.isObjectProperty() && id.parentPath.node.shorthand ? `${id.node.name}: ` : '';
    edits.push({ start: (id.node.start ?? 0) - start, end: (id.node.end ?? 0) - start, text: key + text });
  };
  if (path.isIdentifier()) look(path);
  walk(path, { Identifier: look });
  // what else is said anew inside of it keeps its place
  const others = leaving.said.filter((one) => one.start >= start && one.end <= (path.node.end ?? 0));
  const apart = edits.filter(
    (edit) => !others.some((one) => edit.start + start < one.end && one.start < edit.end + start),
  );
  if (!others.length) return applyEdits(leaving.script.text.slice(start, path.node.end ?? 0), apart);
  const saved = leaving.said;
  leaving.said = [
    ...saved,
    ...apart.map((edit) => ({ start: edit.start + start, end: edit.end + start, text: () => edit.text })),
  ];
  const text = stretch(leaving, start, path.node.end ?? 0);
  leaving.said = saved;
  return text;
}
