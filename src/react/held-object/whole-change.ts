import type { Binding, NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code, Hole } from '../../form/code.js';
import type { SetAllUse } from '../../form/uses.js';
import type { FormSite } from '../approach.js';
import { plainCode, shorthandKey, spanOf } from '../code.js';
import { functionAround, type FunctionPath } from '../components.js';
import { readsLatest } from '../surroundings.js';
import type { HeldObject } from './held.js';
import { walk } from '../../source/traverse.js';

/**
 * A change that is not told field by field, where the object's own setter makes it: whatever holds all values together
 * can make it with the same code.
 * @param why what keeps it from being told field by field
 * @param isChange tells calls that change the values
 */
export function wholeChange(
  call: NodePath<t.CallExpression>,
  why: string,
  state: HeldObject,
  { script }: FormSite,
  isChange: (call: t.CallExpression) => boolean,
): Omit<SetAllUse, 'where'> | undefined {
  const { variable, reducer, component } = state;
  const [argument, ...more] = call.get('arguments');
  if (variable.hook !== 'useState' || reducer || !argument?.isExpression() || more.length) return undefined;
  return {
    kind: 'set-all',
    code: plainCode(script.file, argument),
    merge: false,
    why,
    ...(isUpdater(argument) ? { from: { body: fromPrevious(argument, state, script.file) } } : {}),
    ...placeOf(call, component, script.file, isChange),
    span: spanOf(script.file, call),
  };
}

/** What else a writer asks of the place where all values change. */
export function placeOf(
  call: NodePath<t.CallExpression>,
  component: FunctionPath,
  file: string,
  isChange: (call: t.CallExpression) => boolean,
): Pick<SetAllUse, 'fresh' | 'statement' | 'arrowBody' | 'within'> {
  const parent = call.parentPath;
  const within = functionAround(call);
  return {
    fresh: readsLatest(call, component, isChange) && runsOnce(within, component, isChange),
    statement: parent.isExpressionStatement() ? spanOf(file, parent) : undefined,
    arrowBody: parent.isArrowFunctionExpression() && call.key === 'body',
    ...(within ? { within: spanOf(file, within) } : {}),
  };
}

/**
 * Whether a function runs once at most in a turn of events: it stands in an attribute, or whatever calls it does so
 * once, changes nothing else, and runs once itself.
 */
function runsOnce(
  fn: FunctionPath | undefined,
  component: FunctionPath,
  isChange: (call: t.CallExpression) => boolean,
  depth = 0,
): boolean {
  if (!fn || fn.node === component.node || depth > 3) return false;
  const binding = bindingOf(fn);
  if (!binding) return fn.findParent((parent) => parent.isJSXAttribute()) !== null;
  return binding.referencePaths.every((reference) => {
    const call = reference.parentPath;
    if (!call?.isCallExpression() || reference.key !== 'callee') return call?.isJSXExpressionContainer() === true;
    const caller = functionAround(call);
    if (!caller || caller.node === component.node) return false;
    let changes = 0;
    walk(caller, {
      CallExpression({ node }) {
        const isSame = t.isIdentifier(node.callee) && binding.identifier.name === node.callee.name;
        if (isSame || isChange(node)) changes += 1;
      },
    });
    const loops = call.findParent((parent) => parent.isLoop() || parent.node === caller.node)?.isLoop() === true;
    return (
      changes === 1 &&
      !loops &&
      readsLatest(call, component, isChange) &&
      runsOnce(caller, component, isChange, depth + 1)
    );
  });
}

/** The name a function is known by in its component. */
function bindingOf(fn: FunctionPath): Binding | undefined {
  if (fn.isFunctionDeclaration() && fn.node.id) return fn.parentPath.scope.getBinding(fn.node.id.name);
  const holder = fn.parentPath;
  const made = holder.isCallExpression() ? holder.parentPath : holder;
  return made?.isVariableDeclarator() && t.isIdentifier(made.node.id)
    ? made.scope.getBinding(made.node.id.name)
    : undefined;
}

/** Whether the setter is handed a function of the values before, or what may be one. */
export function isUpdater(argument: NodePath): boolean {
  const gives =
    argument.isObjectExpression() ||
    argument.isCallExpression() ||
    argument.isConditionalExpression() ||
    argument.isLogicalExpression();
  return !gives;
}

/** What an arrow function gives, with the values before as holes; undefined where it is more than one expression. */
export function fromPrevious(argument: NodePath, { component, variable }: HeldObject, file: string): Code | undefined {
  if (!argument.isArrowFunctionExpression()) return undefined;
  const [parameter, ...more] = argument.node.params;
  const body = argument.get('body') as NodePath;
  if (!t.isIdentifier(parameter) || more.length || !body.isExpression() || argument.node.async) return undefined;
  const binding = argument.scope.getOwnBinding(parameter.name);
  const isHolder = heldBy(argument, component, variable.value?.node.name);
  if (!binding?.constant || !isHolder) return undefined;
  const holes = binding.referencePaths.map((path): Hole => {
    const shorthand = shorthandKey(path);
    return {
      kind: 'previous-all',
      start: path.node.start ?? 0,
      end: path.node.end ?? 0,
      ...(shorthand === undefined ? {} : { shorthand }),
    };
  });
  return { ...plainCode(file, body), holes };
}

/** Whether the name of the object means the object at a place. */
function heldBy(path: NodePath, component: FunctionPath, name: string | undefined): boolean {
  return name !== undefined && path.scope.getBinding(name)?.scope.path.node === component.node;
}
