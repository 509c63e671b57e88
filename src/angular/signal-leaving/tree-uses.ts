import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanOfNode } from '../../form/code.js';
import { classChain, templateChain, type Link } from '../chains.js';
import { ownMember } from '../class-reading.js';
import { isBinding } from '../signal-model/found-form.js';
import { givenIn, sayGiven, sayMethods } from './given-methods.js';
import { isInSubmission } from './late-changes.js';
import { leave, type Leaving } from './leaving.js';
import { sayModel } from './model-uses.js';
import { type Base, type Place, rootOf, deeper, kindAt, replace, unclear, pathText } from './places.js';
import { calledOf } from './rule-texts.js';
import { listOfRow, rowPath, isTracked, isLoop } from './row-views.js';
import { sayState } from './state-uses.js';
import { sayAlias, sayEach, sayTaken } from './taken-fields.js';

/** Finds every place that asks the form or its model, and says it with controls. */
export function sayUses(leaving: Leaving): void {
  const { found, component } = leaving;
  const { script, template } = component;
  const owned = [found.form.node, found.model.node].map((node) => spanOfNode(script.file, node));
  const outside = ({ start }: { start?: number | null }): boolean =>
    !owned.some((span) => (start ?? 0) >= span.start && (start ?? 0) < span.end) || isInSubmission(start ?? 0, leaving);
  for (const member of [found.form, found.model]) {
    for (const path of member.references)
      if (outside(path.node)) inClass(path, member.name, rootOf(leaving, member === found.model), leaving);
    for (const alias of member.aliases)
      leave(leaving, spanOfNode(script.file, alias.node), `${member.name} is taken out of the component`);
    for (const name of template.names) {
      if (name.name !== member.name || name.variable || isBinding(name) || name.attribute?.name === 'formRoot')
        continue;
      const chain = templateChain(name, template.place);
      const base = { ...rootOf(leaving, member === found.model), control: member === found.form ? member.name : '' };
      say({ leaving, base, chain, path: undefined, name, say }, member === found.model);
    }
  }
  for (const name of template.names) {
    const list = name.variable && listOfRow(name.variable.view, leaving);
    if (!list || name.variable?.kind !== 'loop' || isBinding(name) || isTracked(name, leaving)) continue;
    const path = rowPath(list, name.view, leaving);
    const chain = templateChain(name, template.place);
    if (path === undefined) {
      leave(leaving, { file: chain.file, start: name.start, end: name.end }, 'its row’s index is not known there');
      continue;
    }
    const base: Base = { control: name.name, path, plain: `${list}[]`, state: false };
    say({ leaving, base, chain, path: undefined, name, say });
  }
  sayMethods(leaving, say);
  // what stands around a place that is said otherwise goes along with it
  for (const { span, kind } of leaving.model.uses) {
    const inside = leaving.edits.some(
      ({ file, start, end }) => file === span.file && start >= span.start && end <= span.end,
    );
    const known = leaving.ledger.some(
      (one) => one.span.file === span.file && one.span.start <= span.start && one.span.end >= span.end,
    );
    if (inside && !known)
      leaving.ledger.push({ entry: 'carried', span, what: `use (${kind})`, why: 'it is said with controls' });
  }
}

function inClass(path: NodePath, key: string, base: Base, leaving: Leaving): void {
  const { script } = leaving.component;
  const { found } = leaving;
  say(
    { leaving, base, chain: classChain(script.file, path, key), path, name: undefined, say },
    key === found.model.name && base.state && base.plain === '',
  );
}

/** Says one chain that begins with a name of the form. */
function say(place: Place, model = false): void {
  const { chain, leaving } = place;
  const { links } = chain;
  if (model) return sayModel(place);
  let { base } = place;
  let at = 1;
  if (!base.state) {
    if (links[0]?.call) base = { ...base, state: true };
    while (!base.state) {
      const link = links[at];
      if (!link || link.computed) break;
      const next = link.key === 'length' && !link.call ? undefined : deeper(base, link.key, leaving);
      if (!next) break;
      base = { ...next, state: link.call !== undefined };
      at += 1;
    }
  }
  const asked = links[at];
  if (base.state && asked) return sayState({ ...place, base }, at, asked);
  sayTree({ ...place, base }, at, asked);
}

/** A place where a field itself is spoken of. */
function sayTree(place: Place, at: number, asked: Link | undefined): void {
  const { base, chain, leaving, path, name } = place;
  const kind = kindAt(base.plain, leaving);
  const end = chain.links[at - 1]?.end ?? chain.start;
  if (kind === 'list' && asked?.key === 'length' && !asked.call)
    return replace(place, chain.start, asked.end, `${base.control}.length`);
  if (kind === 'list' && name && !asked && isLoop(name, leaving))
    return replace(place, chain.start, end, `${base.control}.controls`);
  if (path && !asked) {
    const top = topOf(path, end);
    if (saysWhere(top)) return replace(place, chain.start, end, pathText(place));
    if (isSubmitted(top, place)) return undefined;
    const declarator = top.parentPath;
    if (declarator?.isVariableDeclarator() && top.key === 'init' && t.isIdentifier(declarator.node.id))
      return sayAlias(place, declarator);
    if (declarator?.isVariableDeclarator() && top.key === 'init' && base.state && t.isObjectPattern(declarator.node.id))
      return sayTaken(place, declarator);
    const loop = top.parentPath;
    if (loop?.isForOfStatement() && top.key === 'right' && kind === 'group' && !base.state)
      return sayEach(place, loop, end);
    if (top.parentPath?.isCallExpression() && top.listKey === 'arguments' && !base.byPath && kind === 'field')
      return sayGiven(place, end, ownMember(top.parentPath.node.callee), Number(top.key));
  }
  if (name && !asked && kind === 'field') {
    const given = givenIn(name, leaving);
    if (given) return sayGiven(place, end, given.method, given.index);
  }
  unclear(place, at, base.state ? 'the state of a field is handed on' : 'the field itself is handed on');
}

/** The outermost path of a chain that ends at an offset. */
function topOf(path: NodePath, end: number): NodePath {
  const { start } = path.node;
  let top = path;
  while (top.parentPath && top.parentPath.node.start === start && (top.parentPath.node.end ?? 0) <= end)
    top = top.parentPath;
  return top;
}

/** Whether a field is named as the one that an error is about. */
function saysWhere(top: NodePath): boolean {
  let at: NodePath | null = top;
  while (at?.parentPath?.isConditionalExpression() && at.key !== 'test') at = at.parentPath;
  const property = at?.parentPath;
  return property?.isObjectProperty() === true && t.isIdentifier(property.node.key, { name: 'fieldTree' });
}

/** Whether the form is what `submit` is given. */
function isSubmitted(top: NodePath, { base: { plain }, leaving }: Place): boolean {
  const isFirst = top.listKey === 'arguments' && top.key === 0;
  return plain === '' && isFirst && calledOf(top.parentPath?.node, leaving.component.script) === 'submit';
}

/** What stands for the form inside of a function that a submit does: its parameter. */
export function sayParameter(fn: NodePath, leaving: Leaving): void {
  if (!fn.isFunction()) return;
  const [parameter] = fn.get('params');
  if (!parameter) return;
  if (!parameter.isIdentifier())
    return void leave(
      leaving,
      spanOfNode(leaving.component.script.file, parameter.node),
      'what it is given is not clear',
    );
  const { name } = parameter.node;
  for (const reference of fn.scope.getOwnBinding(name)?.referencePaths ?? [])
    inClass(reference, name, rootOf(leaving, false), leaving);
}
