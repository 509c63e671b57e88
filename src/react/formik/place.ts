import type { NodePath } from '@babel/traverse';
import type * as t from '@babel/types';
import { bodyOf } from '../components.js';
import {
  depthOf,
  drawnText,
  reindented,
  says,
  saysAt,
  stays,
  stretch,
  textIn,
  type Leaving,
} from '../package-leaving/leaving.js';
import { returnedBy } from '../package-leaving/sending.js';
import { shownWhen } from '../package-leaving/shown.js';
import { takePatterns } from '../package-leaving/starts.js';
import type { TakenApart } from './form.js';

interface Place {
  indent: string;
  statement: NodePath;
}

/** Where the block goes: in place of the hook’s statement, else in front of what the component gives. */
export function placeOf({ leaving, form }: TakenApart): Place {
  if (form.hook) return { statement: form.hook.parentPath, indent: depthOf(leaving, form.hook) };
  const { component } = leaving.site;
  const body = component.kind === 'function' ? bodyOf(component) : undefined;
  const last = body?.get('body').at(-1);
  return last
    ? { statement: last, indent: depthOf(leaving, last) }
    : { statement: leaving.site.component.path, indent: leaving.context.style.indent };
}

/** Puts the block there, and what the package’s element drew in place of it. */
export function placeBlock(apart: TakenApart, text: string): void {
  const { leaving, form } = apart;
  const { newline } = leaving.context.style;
  const { statement, indent } = placeOf(apart);
  takePatterns(leaving, form.taken.patterns);
  const { element } = form;
  if (!element) {
    says(leaving, statement, text);
    return;
  }
  const { component } = leaving.site;
  const ways = component.kind === 'function' ? returnedBy(component.path) : [];
  const isWhole = ways.length === 1 && ways[0]?.parentPath?.node === component.path.node;
  if (!(isWhole || statement.isReturnStatement()) || ways.length > 1) {
    stays(leaving, statement, 'the component does not end with one thing that it gives');
    return;
  }
  // in a list, or under a condition, the package begins anew with it
  const isOwn = element.path.findParent((parent) => parent.isFunction())?.node === component.path.node;
  if (!isOwn || shownWhen(apart, element.path)?.length !== 0) {
    stays(leaving, element.path.get('openingElement'), 'it comes and goes, and begins anew each time');
    return;
  }
  const drawn = element.content.isBlockStatement()
    ? drawnBehind(apart, element.content)
    : { before: [], path: element.content };
  if (!drawn) {
    stays(leaving, element.content, 'the function that draws the form does more than that');
    return;
  }
  says(leaving, element.path, () => drawnText(leaving, element.path, drawn.path));
  const lines = (): string =>
    [
      text,
      ...drawn.before.map(({ node }) =>
        stretch(leaving, node.leadingComments?.[0]?.start ?? node.start ?? 0, node.end ?? 0),
      ),
    ].join(newline + indent);
  const [given] = ways;
  const isAll = given?.node === element.path.node;
  if (isWhole && given)
    giveBody(leaving, given, lines, () =>
      isAll ? drawnText(leaving, element.path, drawn.path) : textIn(leaving, given),
    );
  else
    saysAt(
      leaving,
      statement.node.start ?? 0,
      statement.node.start ?? 0,
      () => `${lines()}${newline}${newline}${indent}`,
    );
}

/** What a function that draws declares before it draws, where these names are free in the component. */
function drawnBehind(
  { leaving }: TakenApart,
  block: NodePath<t.BlockStatement>,
): { before: NodePath[]; path: NodePath } | undefined {
  const statements = block.get('body');
  const last = statements.at(-1);
  const before = statements.slice(0, -1);
  const given = last?.isReturnStatement() ? (last.get('argument') as NodePath) : undefined;
  const { scope } = leaving.site.component.path;
  const isFree = (one: NodePath): boolean =>
    one.isVariableDeclaration({ kind: 'const' }) &&
    Object.keys(one.getBindingIdentifiers()).every((name) => !scope.hasOwnBinding(name)) &&
    !/\buse[A-Z]/.test(one.toString());
  return given?.node && before.every(isFree) ? { before, path: given } : undefined;
}

/** A body of statements for a component that is a single expression so far. */
function giveBody(leaving: Leaving, drawn: NodePath, lines: () => string, draws: () => string): void {
  const { script, context } = leaving;
  const { newline, semicolon, indent } = context.style;
  const start = drawn.node.start ?? 0;
  const end = drawn.node.end ?? 0;
  const lead = /=>\s*(\(\s*)?$/.exec(script.text.slice(0, start));
  const close = lead?.[1] === undefined ? '' : (/^\s*\)/.exec(script.text.slice(end))?.[0] ?? '');
  if (!lead) {
    stays(leaving, drawn, 'something stands in front of what the component gives');
    return;
  }
  const depth = depthOf(leaving, drawn);
  const isOwnLine = lead[1]?.includes('\n') === true;
  saysAt(leaving, start - lead[0].length + 2, end + close.length, () => {
    const text = reindented(draws(), depth, depth + indent);
    const given = isOwnLine ? `(${newline}${depth + indent}${text}${newline}${indent})` : text;
    return ` {${newline}${indent}${lines()}${newline}${newline}${indent}return ${given}${semicolon}${newline}}`;
  });
}
