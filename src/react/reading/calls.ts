import type { NodePath } from '@babel/traverse';
import { isWithin } from '../../course/cell.js';
import * as t from '@babel/types';
import { calledMember } from '../../course/flow.js';
import type { Placed } from '../../source/behind-names.js';
import { sentThrough } from '../calls/sending.js';
import { functionBehind, through } from './names.js';
import type { CheckerRun, Scene } from './scene.js';
import { walk } from '../../source/traverse.js';

const checkNames =
  /^(validat|verify|(get|find|collect|compute)(Errors|Problems|Issues)|(errors|problems)(Of|For|In)$|safeParse$)/i;

/** The checker that a call runs: a function in which the model knows rules, or one whose name and answer say so. */
export function checkerRun(at: Placed, scene: Scene): CheckerRun | undefined {
  const { path } = at;
  if (!path.isCallExpression() && !path.isOptionalCallExpression()) return undefined;
  const callee = path.get('callee') as NodePath;
  // what begins a send by a package's hook goes on into the component's own function
  if (sentThrough(callee)) return undefined;
  const named = calledMember(path);
  const target = functionBehind({ path: callee, script: at.script }, scene.trail, scene.given);
  const isStated = (fn: Placed): boolean =>
    scene.model.rules.some(
      ({ statedIn }) =>
        statedIn && statedIn.fn.file === fn.script.file && statedIn.fn.start === (fn.path.node.start ?? 0),
    );
  if (target) return isStated(target) && !doesThings(target.path) ? { name: named || 'check', fn: target } : undefined;
  if (callee.isMemberExpression() && callee.node.computed && t.isIdentifier(callee.node.object)) {
    const table = through({ path: callee.get('object'), script: at.script }, scene.trail);
    const behind = table.path.isIdentifier() ? table.path.scope.getBinding(table.path.node.name)?.path : table.path;
    const file = table.script.file;
    const inside = behind
      ? scene.model.rules.some(
          ({ statedIn }) =>
            statedIn && statedIn.fn.file === file && isWithin(statedIn.fn, { path: behind, script: table.script }),
        )
      : false;
    return inside && behind ? { name: callee.node.object.name, fn: { path: behind, script: table.script } } : undefined;
  }
  const given = path.get('arguments') as NodePath[];
  const speaks = given.some((one) => scene.reads({ path: one, script: at.script }).length > 0);
  return checkNames.test(named) && speaks ? { name: named, fn: undefined } : undefined;
}

/** Whether a function sets state or sends rather than only giving an answer. */
function doesThings(fn: NodePath): boolean {
  let found = false;
  walk(fn, {
    AwaitExpression: () => {
      found = true;
    },
    CallExpression(call) {
      const { callee } = call.node;
      if (t.isIdentifier(callee) && /^set[A-Z]|^dispatch/.test(callee.name)) found = true;
      if (t.isMemberExpression(callee) && t.isIdentifier(callee.property, { name: 'preventDefault' })) found = true;
      if (t.isMemberExpression(callee) && t.isIdentifier(callee.property, { name: 'setState' })) found = true;
    },
  });
  return found;
}

const plainCallees =
  /^(String|Number|Boolean|parseInt|parseFloat|Object|Array|JSON|Math|Date|Set|Map|console|alert|require|structuredClone|setTimeout|clearTimeout|setInterval|clearInterval|requestAnimationFrame|Promise)$/;
const valueMethods =
  /^(preventDefault|stopPropagation|persist|trim|toUpperCase|toLowerCase|split|join|map|filter|some|every|find|forEach|reduce|keys|values|entries|stringify|parse|replace|slice|includes|push|concat|toFixed|toISOString|focus|current|querySelector|getElementById|reset|from|fromEntries|assign|add|has|get|getAll|append|set|test|match|startsWith|endsWith|padStart|json|text|then|catch|finally|reportValidity|checkValidity|setCustomValidity)$/;

/** The name at the root of what a call calls. */
function rootOf(callee: NodePath): string | undefined {
  let root: NodePath = callee;
  while (root.isMemberExpression() || root.isOptionalMemberExpression()) root = root.get('object') as NodePath;
  return root.isIdentifier() ? root.node.name : undefined;
}

/** Whether a call only asks the language or the browser's clock. */
export function isPlainCall(path: NodePath): boolean {
  const callee =
    path.isCallExpression() || path.isOptionalCallExpression() ? (path.get('callee') as NodePath) : undefined;
  return callee !== undefined && plainCallees.test(rootOf(callee) ?? '');
}

/** Whether a call hands the person's values to something outside of the form. */
export function carriesOut(at: Placed, scene: Scene): boolean {
  const { path, script } = at;
  if (!path.isCallExpression() && !path.isOptionalCallExpression()) return false;
  const callee = path.get('callee') as NodePath;
  if (isPlainCall(path) || isSetState(callee)) return false;
  if (!callee.isIdentifier() && valueMethods.test(calledMember(path))) return false;
  if (scene.tells(at).length || scene.checks(at) !== undefined) return false;
  if (isOwnFunction({ path: callee, script }, scene)) return false;
  if (changesValues(at, scene)) return false;
  const given = path.get('arguments') as NodePath[];
  return given.some((one) => scene.reads({ path: one, script }).length > 0);
}

/** `this.setState`: what a class keeps for itself is never sent by it. */
function isSetState(callee: NodePath): boolean {
  return (
    callee.isMemberExpression() &&
    t.isThisExpression(callee.node.object) &&
    t.isIdentifier(callee.node.property, { name: 'setState' })
  );
}

/** Whether a call changes values of the form. */
export function changesValues(at: Placed, { model }: Scene): boolean {
  return model.uses.some(
    ({ kind, span }) =>
      /^(set|reset|change-rows|made-handler)/.test(kind) &&
      isWithin(span, at) &&
      span.start < (at.path.node.start ?? 0) + 1,
  );
}

/** Whether a call runs a function that stands inside of the component or of a hook of it. */
function isOwnFunction(callee: Placed, { places, trail, given }: Scene): boolean {
  const fn = functionBehind(callee, trail, given);
  return (
    fn !== undefined && places.some(({ path }) => fn.path.findParent((parent) => parent.node === path.node) !== null)
  );
}
