import { childOf } from './child-path.js';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { exportedLocally, handedOnFrom, importedFrom } from './handed-names.js';
import type { LoadScript } from './project-files.js';
import type { Script } from './script.js';

/** An expression or declaration, with the file it stands in. */
export interface Placed {
  path: NodePath;
  script: Script;
}

/** What a file itself exports under a name: its expression, or the function or class it declares. */
function exportedAs(script: Script, name: string): NodePath | undefined {
  const local = exportedLocally(script, name);
  if (local !== undefined) return declaredAs(script.program, local);
  for (const statement of script.program.get('body')) {
    if (name === 'default' && statement.isExportDefaultDeclaration()) return statement.get('declaration') as NodePath;
    const declaration = statement.isExportNamedDeclaration() ? statement.node.declaration : undefined;
    if (declaration && name in t.getBindingIdentifiers(declaration, false, true))
      return declaredAs(script.program, name);
  }
  return undefined;
}

/**
 * What a file exports under a name, itself or handed on from another file.
 * @returns the expression, function or class, with the file it stands in; undefined where it cannot be reached
 */
export function exportedBy(script: Script, name: string, load: LoadScript, depth = 0): Placed | undefined {
  const own = exportedAs(script, name);
  if (own) return { path: own, script };
  if (depth > 4) return undefined;
  const taken = importedFrom(script, exportedLocally(script, name) ?? '');
  for (const { module, name: wanted } of taken ? [taken] : handedOnFrom(script, name)) {
    const other = load(script.file, module);
    const found = other && exportedBy(other, wanted, load, depth + 1);
    if (found) return found;
  }
  return undefined;
}

function declaredAs(scope: NodePath, name: string): NodePath | undefined {
  const declared = scope.scope.getBinding(name)?.path;
  if (declared?.isVariableDeclarator() && t.isIdentifier(declared.node.id) && declared.node.init)
    return declared.get('init') as NodePath;
  return declared?.isFunctionDeclaration() || declared?.isClassDeclaration() ? declared : undefined;
}

/** A member that is written out in an object: its value, or the method. */
export function memberNamed(object: NodePath, name: string): NodePath | undefined {
  if (!object.isObjectExpression()) return undefined;
  for (const property of object.get('properties')) {
    if (!property.isObjectProperty() && !property.isObjectMethod()) continue;
    const { key, computed } = property.node;
    const own = t.isIdentifier(key) && !computed ? key.name : t.isStringLiteral(key) ? key.value : undefined;
    if (own !== name) continue;
    return property.isObjectProperty() ? (property.get('value') as NodePath) : property;
  }
  return undefined;
}

/** An expression without the type notes around it. */
export function bare(path: NodePath): NodePath {
  return path.isTSAsExpression() ||
    path.isTSSatisfiesExpression() ||
    path.isTSNonNullExpression() ||
    path.isParenthesizedExpression()
    ? bare(path.get('expression') as NodePath)
    : path;
}

/** What a function, or a block, gives in the end: its last `return`, or the expression that is its body. */
export function returnedValue(path: NodePath): NodePath | undefined {
  const body = path.isFunction() ? (path.get('body') as NodePath) : path;
  if (!body.isBlockStatement()) return path.isFunction() ? bare(body) : undefined;
  const last = body.get('body').findLast((one) => one.isReturnStatement());
  const value = last?.get('argument') as NodePath | undefined;
  return value?.node ? bare(value) : undefined;
}

/**
 * What an expression stands for, followed through constants, members of constant objects and relative imports.
 * @returns the last place that could be reached; the expression itself where it stands for nothing else
 */
export function behindName(at: Placed, load: LoadScript, depth = 0): Placed {
  const path = bare(at.path);
  const here = { path, script: at.script };
  if (depth > 6) return here;
  if (path.isIdentifier()) {
    const binding = path.scope.getBinding(path.node.name);
    const declared = binding?.path;
    if (!binding || !declared || (!binding.constant && binding.kind !== 'hoisted')) return here;
    if (declared.isImportSpecifier() || declared.isImportDefaultSpecifier()) {
      const imported = importedFrom(at.script, path.node.name);
      const other = imported && load(at.script.file, imported.module);
      const value = other && exportedBy(other, imported.name, load);
      return value ? behindName(value, load, depth + 1) : here;
    }
    const value = declaredAs(path, path.node.name);
    return value ? behindName({ path: value, script: at.script }, load, depth + 1) : here;
  }
  if (path.isMemberExpression() && !path.node.computed && t.isIdentifier(path.node.property)) {
    const object = behindName({ path: path.get('object'), script: at.script }, load, depth + 1);
    const member = memberNamed(object.path, path.node.property.name);
    return member ? behindName({ path: member, script: object.script }, load, depth + 1) : here;
  }
  return here;
}

const copies = /^(?:structuredClone|Object\.freeze|JSON\.parse|JSON\.stringify)$/;

/** What a call gives a copy of, `structuredClone(blank)`; undefined for any other call. */
export function copiedBy(call: NodePath<t.CallExpression>): NodePath | undefined {
  const [first] = call.get('arguments') as (NodePath | undefined)[];
  return first && copies.test(call.get('callee').toString()) ? first : undefined;
}

/**
 * The object that an expression stands for: written out, a constant, or what a function gives.
 * @param hands further functions that give the object which they are given
 */
export function objectBehind(at: Placed, load: LoadScript, hands?: RegExp, depth = 0): Placed | undefined {
  if (depth > 5) return undefined;
  const { path, script } = behindName(at, load);
  const down = (inner: NodePath | undefined): Placed | undefined =>
    inner?.node ? objectBehind({ path: inner, script }, load, hands, depth + 1) : undefined;
  if (path.isObjectExpression()) return { path, script };
  if (path.isFunction()) return down(returnedValue(path));
  if (!path.isCallExpression()) return undefined;
  const callee = path.get('callee') as NodePath;
  const called = callee.toString();
  const [first] = path.get('arguments') as (NodePath | undefined)[];
  return copies.test(called) || hands?.test(called) ? down(first) : down(callee);
}

/** The constant that an expression stands for, where it is a text, a number, a yes or no, or null. */
export function constantBehind(at: Placed, load: LoadScript): string | number | boolean | null | undefined {
  const { path, script } = behindName(at, load);
  const { node } = path;
  if (t.isStringLiteral(node) || t.isNumericLiteral(node) || t.isBooleanLiteral(node)) return node.value;
  if (t.isNullLiteral(node)) return null;
  if (t.isUnaryExpression(node, { operator: '-' })) {
    const inner = constantBehind({ path: childOf(path, 'argument'), script }, load);
    return typeof inner === 'number' ? -inner : undefined;
  }
  if (!t.isTemplateLiteral(node)) return undefined;
  const parts = childrenAt(path, 'expressions').map((part) => constantBehind({ path: part, script }, load));
  if (parts.some((part) => part === undefined)) return undefined;
  return node.quasis.map((quasi, index) => (quasi.value.cooked ?? '') + String(parts[index] ?? '')).join('');
}

function childrenAt(path: NodePath, key: string): NodePath[] {
  return [path.get(key)].flat();
}
