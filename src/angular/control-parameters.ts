import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanOfNode, type Span } from '../form/code.js';
import type { ControlParameter } from '../form/model.js';
import type { AskUse, Use } from '../form/uses.js';
import { classChain } from './chains.js';
import { parameterReferences } from './class-reading.js';
import type { AngularComponent, Member } from './component.js';
import { askUse } from './uses.js';

/**
 * The methods of the class that controls are given to, and what they ask of them.
 * @param uses uses of the form: controls that are handed on are followed
 * @returns one entry a parameter; what is handed on to code out of sight has none
 */
export function controlParameters(uses: readonly Use[], component: AngularComponent): ControlParameter[] {
  const found: ControlParameter[] = [];
  for (const use of uses) {
    if (use.kind !== 'ask' || use.member !== undefined) continue;
    const at = argumentAt(use.span, component);
    const member = at && component.members.get(at.name);
    if (at && member?.kind === 'method') follow(member, at.index, use.span, component, found);
  }
  return found;
}

function follow(
  member: Member,
  index: number,
  given: Span,
  component: AngularComponent,
  found: ControlParameter[],
): void {
  const parameter = parameterReferences(member, index);
  if (!parameter) return;
  const { name, node, references } = parameter;
  const known = found.find((one) => one.method === member.name && one.name === name);
  if (known) {
    known.given.push(given);
    return;
  }
  const { script } = component;
  const made: ControlParameter = {
    method: member.name,
    name,
    parameter: spanOfNode(script.file, node),
    given: [given],
    uses: [],
  };
  found.push(made);
  for (const path of references) {
    const chain = classChain(script.file, path, name);
    const next = chain.links.length === 1 ? calledWith(path) : undefined;
    const other = next && component.members.get(next.name);
    const span = spanOfNode(script.file, path.node);
    if (next && other?.kind === 'method') follow(other, next.index, span, component, found);
    // whether there is a control at all is asked of every one alike
    else if (chain.links.length > 1 || !isAsked(path))
      made.uses.push({ ...askUse({ chain, where: 'render', text: script.text }, 1, undefined), through: name });
  }
}

/** Whether a name only opens or closes something. */
function isAsked({ parent, key }: NodePath): boolean {
  return t.isUnaryExpression(parent, { operator: '!' }) || t.isLogicalExpression(parent) || key === 'test';
}

/** The method of the class that a name is an argument of. */
function calledWith(path: NodePath): { name: string; index: number } | undefined {
  const { parent, key } = path;
  if (!t.isCallExpression(parent) || typeof key !== 'number' || path.listKey !== 'arguments') return undefined;
  const { callee } = parent;
  return t.isMemberExpression(callee) && t.isThisExpression(callee.object) && t.isIdentifier(callee.property)
    ? { name: callee.property.name, index: key }
    : undefined;
}

/** The call that a place is a whole argument of: its name, and which argument it is. */
export function argumentAt(
  { file, start, end }: Span,
  { script, template }: AngularComponent,
): { name: string; index: number } | undefined {
  const text = file === script.file ? script.text : template.place.text;
  if (!/^\s*!?\s*[,)]/.test(text.slice(end))) return undefined;
  let depth = 0;
  let index = 0;
  for (let at = start - 1; at >= 0 && start - at < 600; at--) {
    const sign = text[at] ?? '';
    if (/[)\]}]/.test(sign)) depth += 1;
    else if (/[[{]/.test(sign) && depth === 0) return undefined;
    else if (/[([{]/.test(sign)) {
      if (depth === 0) {
        const name = /(?:^|[^.\w$]|\bthis\.)([\w$]+)$/.exec(text.slice(Math.max(0, at - 60), at))?.[1];
        return name === undefined ? undefined : { name, index };
      }
      depth -= 1;
    } else if (sign === ',' && depth === 0) index += 1;
    else if (depth === 0 && /[;?&|:]/.test(sign)) return undefined;
    else if (depth === 0 && /\S/.test(sign) && index === 0) return undefined;
  }
  return undefined;
}

/** Whether a use hands a control on to a parameter that is followed. */
export function isFollowed(use: AskUse, asked: readonly ControlParameter[] | undefined): boolean {
  return (
    asked?.some(({ given }) => given.some(({ file, start }) => file === use.span.file && start === use.span.start)) ??
    false
  );
}
