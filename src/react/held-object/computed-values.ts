import type { Binding, NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Assignment } from '../../form/uses.js';
import type { Code, Hole } from '../../form/code.js';
import { expressionTypes } from '../../source/expression-types.js';
import { mayHaveEffects } from '../effects.js';
import { capturedHoles, plainCode } from '../code.js';
import { type EffectContext, type Action, givenHole, needsWrapping, actionChain, follow } from './actions.js';
import { walk } from '../../source/traverse.js';

interface Computed {
  code: Code;
  reads: string[];
}

/** What an expression of the reducer is at a dispatch: its text with the places that stand for other code. */
/** A computed name that turns out to be known: `[action.name]: …` is `town: …`. */
function plainKey(chain: NodePath, found: NonNullable<ReturnType<typeof follow>>, source: string): Hole | undefined {
  const { node } = found.given.path;
  if (found.suffix !== '' || !t.isStringLiteral(node) || !/^[A-Za-z_$][\w$]*$/.test(node.value)) return undefined;
  const holder = chain.parentPath;
  if (holder?.isObjectProperty() && chain.key === 'key' && holder.node.computed) {
    const end = source.indexOf(']', chain.node.end ?? 0) + 1;
    return { kind: 'text', start: holder.node.start ?? 0, end, text: node.value };
  }
  if (holder?.isMemberExpression() && chain.key === 'property' && holder.node.computed)
    return { kind: 'text', start: holder.node.object.end ?? 0, end: holder.node.end ?? 0, text: `.${node.value}` };
  return undefined;
}

/** An expression of a reducer or an updater as code that can move, with the fields it reads; or why it cannot. */
export function computed(
  root: NodePath,
  action: Action,
  context: EffectContext,
  skip: readonly t.Node[] = [],
): Computed | string {
  const { cases } = context;
  // a value that the component computes by itself stands as it is
  if (context.isHeld && cases.state === undefined) return { code: plainCode(context.script.file, root), reads: [] };
  const holes: Hole[] = [];
  const reads = new Set<string>();
  let trouble: string | undefined;
  const visit = (path: NodePath): void => {
    if (!path.isIdentifier() || !path.isReferencedIdentifier()) return;
    if (skip.length && path.find((parent) => skip.includes(parent.node))) return;
    const place = (node: t.Node): { start: number; end: number } => ({ start: node.start ?? 0, end: node.end ?? 0 });
    const binding = path.scope.getBinding(path.node.name);
    if (path.node.name === cases.state && binding?.scope.path.node === cases.fn.node) {
      const member = path.parentPath;
      if (
        !member.isMemberExpression() ||
        member.node.computed ||
        !t.isIdentifier(member.node.property) ||
        path.key !== 'object'
      ) {
        trouble = 'the reducer uses its whole state to compute a value';
        return;
      }
      if (!context.slots.includes(member.node.property.name)) {
        trouble = `a value is computed from ${member.node.property.name}, which the initial state lacks`;
        return;
      }
      reads.add(member.node.property.name);
      holes.push({ kind: 'previous', ...place(member.node), field: member.node.property.name });
      return;
    }
    const chain = actionChain(path, cases);
    if (chain) {
      const found = follow(action, chain.keys);
      if (!found) {
        if (chain.chain.node === root.node) holes.push({ kind: 'text', ...place(root.node), text: 'undefined' });
        else trouble = `the action lacks ${chain.keys.join('.')}`;
        return;
      }
      const named = plainKey(chain.chain, found, cases.script.text);
      if (named) {
        holes.push(named);
        return;
      }
      holes.push(
        givenHole(
          chain.chain,
          found.given.code,
          found.suffix,
          needsWrapping(found.given.path, chain.chain) ||
            (found.suffix !== '' && !found.given.path.isIdentifier() && !found.given.path.isMemberExpression()),
        ),
      );
      return;
    }
    const local = binding?.path;
    if (
      binding &&
      local?.isVariableDeclarator() &&
      !binding.scope.path.isProgram() &&
      binding.scope.path.node !== root.node
    ) {
      const isCaseLocal =
        local.findParent((parent) => parent.node === cases.fn.node) !== null &&
        !root.findParent((parent) => parent.node === local.node);
      const declaredOutside =
        context.keepLocals !== true && local.findParent((parent) => parent.node === root.node) === null;
      if (isCaseLocal && declaredOutside && t.isIdentifier(local.node.id) && local.node.init && binding.constant) {
        const init = local.get('init') as NodePath;
        const inner = computed(init, action, context);
        if (typeof inner === 'string') trouble = inner;
        else {
          for (const read of inner.reads) reads.add(read);
          holes.push(givenHole(path, inner.code, '', needsWrapping(init, path)));
        }
        return;
      }
      if (isCaseLocal && declaredOutside)
        trouble = `the reducer computes ${path.node.name} in a way that could not be followed`;
      return;
    }
    if (binding?.scope.path.isProgram() && context.script.file !== cases.script.file)
      trouble = `the reducer's file has ${path.node.name}, which the component does not`;
  };
  visit(root);
  walk(root, { Identifier: visit });
  if (trouble !== undefined) return trouble;
  // the key of a shorthand property is no part of the value itself
  for (const hole of holes)
    if (hole.start === root.node.start && hole.end === root.node.end && 'shorthand' in hole) delete hole.shorthand;
  const ordered = holes
    .sort((a, b) => a.start - b.start)
    .filter((hole, index, all) => index === 0 || hole.start >= (all[index - 1]?.end ?? 0));
  return { code: { ...plainCode(cases.script.file, root), holes: ordered }, reads: [...reads] };
}

/** The new value of a field: what the dispatch hands over, or what the reducer computes. */
export function newValue(path: NodePath, action: Action, context: EffectContext): Assignment['value'] | string {
  const result = computed(path, action, context);
  if (typeof result === 'string') return result;
  const { code, reads } = result;
  const only = code.holes.length === 1 ? code.holes[0] : undefined;
  if (only?.kind === 'given' && only.start === code.start && only.end === code.end && only.suffix === '')
    return { kind: 'value', code: only.code };
  const moved = context.isHeld ? withCaptured(path, code, context) : code;
  if (reads.length)
    return { kind: 'from-previous', body: moved, block: false, reads, parameter: undefined, whole: undefined };
  // what a reducer or an updater works out is worked out again at will
  const once = context.isHeld !== undefined && context.cases.state === undefined;
  return once && mayHaveEffects(path) ? { kind: 'value', code, effects: true } : { kind: 'value', code };
}

/** Code of an updater, with the names of its surroundings that have to come along when it moves. */
export function withCaptured(path: NodePath, code: Code, context: EffectContext): Code {
  const inUpdater = (binding: Binding): boolean =>
    binding.scope.path.node === context.cases.fn.node ||
    binding.scope.path.findParent((parent) => parent.node === context.cases.fn.node) !== null;
  const captured = capturedHoles(path, inUpdater, expressionTypes(context.script));
  const free = captured.filter((hole) => !code.holes.some((known) => known.start < hole.end && hole.start < known.end));
  return { ...code, holes: [...code.holes, ...free].sort((a, b) => a.start - b.start) };
}
