import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { walk } from '../source/traverse.js';

/** Code whose value may be another one by the time React asks for it. */
export const fleeting = /currentTarget|\.current\b|\.files\b|\bawait\b|\bnew Date\b|\bDate\.now|\brandom|\+\+|--/;

const pureNames =
  /^(?:Number|String|Boolean|BigInt|Symbol|parseInt|parseFloat|isNaN|isFinite|encodeURI|encodeURIComponent|decodeURI|decodeURIComponent|structuredClone)$/;

/** Methods of texts, lists, numbers and dates that change nothing. */
const pureMethods =
  /^(?:trim|trimStart|trimEnd|toUpperCase|toLowerCase|toLocale\w+|slice|substring|substr|replace|replaceAll|padStart|padEnd|repeat|concat|charAt|charCodeAt|at|toFixed|toPrecision|toString|toISOString|toJSON|join|normalize|split|match|matchAll|test|search|startsWith|endsWith|includes|indexOf|lastIndexOf|map|filter|find|findIndex|findLast|some|every|reduce|flatMap|flat|toSorted|toReversed|toSpliced|with|has|get|keys|values|entries|get(?:Time|FullYear|Month|Date|Day|Hours|Minutes|Seconds)|valueOf)$/;

const pureOwners = /^(?:Object|Array|Math|JSON|Number|String|Intl|BigInt|URL)$/;
const pureClasses = /^(?:Set|Map|Array|URL|RegExp|Date|Error|Intl)$/;

/**
 * Whether to work an expression out may do something besides, or give another value the next time: it changes a
 * variable, asks for the time, or calls something of which nothing tells that it does not.
 */
export function mayHaveEffects(path: NodePath, depth = 0): boolean {
  let found = false;
  const visit = (inner: NodePath): void => {
    found ||= hasOwnEffect(inner, depth);
  };
  visit(path);
  walk(path, { enter: visit });
  return found;
}

function hasOwnEffect(path: NodePath, depth: number): boolean {
  const { node } = path;
  if (t.isUpdateExpression(node) || t.isAssignmentExpression(node)) return isOutside(path, depth);
  if (t.isAwaitExpression(node) || t.isYieldExpression(node) || t.isTaggedTemplateExpression(node)) return true;
  if (t.isUnaryExpression(node, { operator: 'delete' })) return true;
  if (t.isNewExpression(node)) {
    const name = t.isIdentifier(node.callee) ? node.callee.name : '';
    return !pureClasses.test(name) || (name === 'Date' && !node.arguments.length);
  }
  return (path.isCallExpression() || path.isOptionalCallExpression()) && callHasEffects(path, depth);
}

/** Whether a change is one of a variable that the looked-at function does not declare itself. */
function isOutside(path: NodePath, depth: number): boolean {
  const target = path.node as t.UpdateExpression | t.AssignmentExpression;
  const changed = t.isUpdateExpression(target) ? target.argument : target.left;
  if (!t.isIdentifier(changed) || depth === 0) return true;
  const home = path.scope.getBinding(changed.name)?.scope;
  return home === undefined || home.path.isProgram() || path.getFunctionParent()?.scope !== home.getFunctionParent();
}

function callHasEffects(path: NodePath<t.CallExpression | t.OptionalCallExpression>, depth: number): boolean {
  const callee = path.get('callee') as NodePath;
  const { node } = callee;
  if (t.isMemberExpression(node) || t.isOptionalMemberExpression(node)) {
    const method = t.isIdentifier(node.property) && !node.computed ? node.property.name : '';
    const owner = t.isIdentifier(node.object) ? node.object.name : '';
    const isGlobal = pureOwners.test(owner) && !path.scope.hasBinding(owner, true);
    if (isGlobal) return method === 'random';
    if (owner === 'Date' && !path.scope.hasBinding('Date', true)) return !/^(?:UTC|parse)$/.test(method);
    return !pureMethods.test(method);
  }
  if (!callee.isIdentifier()) return true;
  const binding = callee.scope.getBinding(callee.node.name);
  if (!binding) return !pureNames.test(callee.node.name);
  const declared = binding.path.isVariableDeclarator() ? (binding.path.get('init') as NodePath) : binding.path;
  const fn =
    binding.constant &&
    (declared.isFunctionDeclaration() || declared.isArrowFunctionExpression() || declared.isFunctionExpression());
  if (!fn || depth > 3 || declared.node === null) return true;
  return mayHaveEffects(declared.get('body') as NodePath, depth + 1);
}
