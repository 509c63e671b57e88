import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../source/script.js';
import { functionOf, type FunctionPath } from './components.js';
import { importedFunction } from './exports.js';
import { importOf, importOfTag } from './hook-calls.js';
import type { FormSite } from './approach.js';

/** What a place that is handed a setter does with it. */
export interface Receiver {
  /** Its source can be seen. */
  seen: boolean;
  /** It may call the setter with a function of the previous value. */
  updater: boolean;
  /** The place gives the parameter of a function that stands there its type. */
  typed: boolean;
  /** It must get the same function at every render. */
  stable: boolean;
}

function functionBehind(
  site: FormSite,
  path: NodePath,
  imported: { module: string; name: string } | undefined,
): { fn: FunctionPath; script: Script } | undefined {
  if (imported) return importedFunction(imported, site.script, site.load);
  if (path.isJSXIdentifier()) {
    const declared = path.scope.getBinding(path.node.name)?.path;
    const init = declared?.isVariableDeclarator() ? (declared.get('init') as NodePath) : declared;
    const fn = init ? functionOf(init) : undefined;
    return fn ? { fn, script: site.script } : undefined;
  }
  const fn = functionOf(path);
  return fn ? { fn, script: site.script } : undefined;
}

/** The function of the component that a tag stands for, where its source is seen. */
export function componentBehind(
  site: FormSite,
  tag: NodePath<t.JSXIdentifier>,
): { fn: FunctionPath; script: Script } | undefined {
  return /^[A-Z]/.test(tag.node.name) ? functionBehind(site, tag, importOfTag(tag)) : undefined;
}

/** The text of the type of a parameter, or of a member of its declared type. */
function declaredText(script: Script, fn: FunctionPath, index: number, member: string | undefined): string {
  const parameter = fn.node.params[index];
  const annotation = parameter && 'typeAnnotation' in parameter ? parameter.typeAnnotation : undefined;
  const text = annotation ? script.text.slice(annotation.start ?? 0, annotation.end ?? 0) : '';
  if (member === undefined) return text;
  const named = /^:\s*(?:Readonly<)?(\w+)>?$/.exec(text)?.[1];
  const body = named
    ? (new RegExp(`(?:interface|type)\\s+${named}\\b[^{]*(\\{[\\s\\S]*?\\n\\}|\\{[^}]*\\})`).exec(script.text)?.[1] ??
      '')
    : text;
  return new RegExp(`\\b${member}\\??\\s*:\\s*([^;\\n]+)`).exec(body)?.[1] ?? '';
}

/** The local name under which a component's function knows a prop. */
function localName(fn: FunctionPath, member: string): string | undefined {
  const pattern = fn.node.params[0];
  if (!t.isObjectPattern(pattern)) return undefined;
  for (const property of pattern.properties) {
    if (
      t.isObjectProperty(property) &&
      t.isIdentifier(property.key, { name: member }) &&
      t.isIdentifier(property.value)
    )
      return property.value.name;
  }
  return undefined;
}

/** Whether a function calls one of its names with a function, and whether it lists it as a dependency. */
function usesOf(fn: FunctionPath, local: string | undefined): { updater: boolean; listed: boolean } {
  const binding = local === undefined ? undefined : fn.scope.getBinding(local);
  let updater = false;
  let listed = false;
  for (const reference of binding?.referencePaths ?? []) {
    const call = reference.parentPath;
    if (call?.isCallExpression() && reference.key === 'callee' && t.isFunction(call.node.arguments[0])) updater = true;
    if (call?.isArrayExpression() && call.listKey === 'arguments') listed = true;
  }
  return { updater, listed };
}

function judge(
  found: { fn: FunctionPath; script: Script } | undefined,
  index: number,
  member: string | undefined,
  wrapped: boolean,
): Receiver {
  if (!found) return { seen: false, updater: false, typed: true, stable: false };
  const written = declaredText(found.script, found.fn, index, member);
  const parameter = found.fn.node.params[index];
  const local =
    member === undefined ? (t.isIdentifier(parameter) ? parameter.name : undefined) : localName(found.fn, member);
  const uses = usesOf(found.fn, local);
  return {
    seen: true,
    updater: /SetStateAction/.test(written) || uses.updater,
    typed: true,
    stable: wrapped || uses.listed,
  };
}

/**
 * Says what happens to a setter that is handed on as a value.
 * @param reference the setter's identifier, not in the place of a called function
 */
export function receiverOf(site: FormSite, reference: NodePath): Receiver {
  const parent = reference.parentPath;
  if (parent?.isJSXExpressionContainer() && parent.parentPath.isJSXAttribute()) {
    const attribute = parent.parentPath;
    const opening = attribute.parentPath;
    if (!opening.isJSXOpeningElement()) return { seen: false, updater: false, typed: true, stable: false };
    const tag = opening.get('name') as NodePath;
    const found = tag.isJSXIdentifier() ? componentBehind(site, tag) : undefined;
    const member = t.isJSXIdentifier(attribute.node.name) ? attribute.node.name.name : undefined;
    return judge(found, 0, member, found ? /\bmemo\(/.test(textAround(found)) : false);
  }
  if (parent?.isCallExpression() && reference.listKey === 'arguments' && typeof reference.key === 'number') {
    const callee = parent.get('callee') as NodePath;
    const found = functionBehind(site, callee, importOf(callee));
    const isHook = callee.isIdentifier() && /^use[A-Z]/.test(callee.node.name);
    const receiver = judge(found, reference.key, undefined, isHook);
    return callee.isMemberExpression()
      ? receiver
      : { ...receiver, typed: found !== undefined && found.script.typescript };
  }
  return { seen: false, updater: false, typed: false, stable: false };
}

/** The text just before a function, where `memo(` would stand. */
function textAround(found: { fn: FunctionPath; script: Script }): string {
  const start = found.fn.node.start ?? 0;
  return found.script.text.slice(Math.max(0, start - 40), start);
}
