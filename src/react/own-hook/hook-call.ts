import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../../source/script.js';
import type { FormSite } from '../approach.js';
import { bodyOf, functionOf, type FunctionPath } from '../components.js';
import { importedFunction } from '../exports.js';
import { calledImport } from '../hook-calls.js';
import { walk } from '../../source/traverse.js';

/** A call of a hook of the project in a body, with the hook's own source. */
export interface HookCall {
  call: NodePath<t.CallExpression>;
  declarator: NodePath<t.VariableDeclarator>;
  declaration: NodePath<t.VariableDeclaration>;
  fn: FunctionPath;
  script: Script;
  /** Where the component imports it from; undefined where it stands in the same file. */
  from: string | undefined;
}

/** The calls of the project's own hooks in a component whose source can be seen, in order. */
export function hookCalls({ component, script, load }: FormSite): HookCall[] {
  return component.kind === 'function' ? hookCallsIn(component, script, load) : [];
}

/** The same for any function. */
export function hookCallsIn(component: { path: FunctionPath }, script: Script, load: FormSite['load']): HookCall[] {
  const found: HookCall[] = [];
  for (const statement of bodyOf(component)?.get('body') ?? []) {
    if (!statement.isVariableDeclaration()) continue;
    for (const declarator of statement.get('declarations')) {
      const call = declarator.get('init') as NodePath;
      if (!call.node || !call.isCallExpression()) continue;
      const { callee } = call.node;
      if (!t.isIdentifier(callee) || !/^use[A-Z]/.test(callee.name)) continue;
      const from = calledImport(call);
      const imported = from && importedFunction(from, script, load);
      const fn = from ? imported?.fn : functionOf(call.get('callee') as NodePath);
      if (!fn) continue;
      found.push({
        call,
        declarator,
        declaration: statement,
        fn,
        script: imported?.script ?? script,
        from: from?.module,
      });
    }
  }
  return found;
}

/** What a hook gives: the expression of its one return; undefined where it decides between several. */
export function returnedBy(fn: FunctionPath): NodePath | undefined {
  const body = fn.get('body') as NodePath;
  if (!body.isBlockStatement()) return undefined;
  const last = body.get('body').at(-1);
  let returns = 0;
  walk(fn, {
    Function: (inner) => inner.skip(),
    ReturnStatement() {
      returns += 1;
    },
  });
  const value = last?.isReturnStatement() ? (last.get('argument') as NodePath) : undefined;
  if (returns !== 1 || !value?.node) return undefined;
  return value.isTSAsExpression() ? (value.get('expression') as NodePath) : value;
}

/** The members that a hook gives, by key or by place. */
export function membersOf(returned: NodePath): Map<string, NodePath> | undefined {
  const members = new Map<string, NodePath>();
  if (returned.isArrayExpression()) {
    for (const [index, element] of returned.get('elements').entries()) {
      if (!element.node || element.isSpreadElement()) return undefined;
      members.set(String(index), element as NodePath);
      // [values, { set, reset }]
      const inner = element.isObjectExpression() ? membersOf(element) : undefined;
      for (const [key, value] of inner ?? []) members.set(`${index}.${key}`, value);
    }
    return members;
  }
  if (!returned.isObjectExpression()) return undefined;
  for (const property of returned.get('properties')) {
    if (property.isObjectMethod() && t.isIdentifier(property.node.key)) {
      members.set(property.node.key.name, property);
      continue;
    }
    if (!property.isObjectProperty() || property.node.computed || !t.isIdentifier(property.node.key)) return undefined;
    members.set(property.node.key.name, property.get('value') as NodePath);
  }
  return members;
}

/** How the component takes what the hook gives. */
export type TakenMembers =
  /** By names of its own, from a pattern. */
  | { kind: 'names'; names: Map<string, string> }
  /** By one name, of which members are asked. */
  | { kind: 'whole'; name: string };

/** The names that a component's pattern gives to a hook's members; undefined where the pattern does more. */
export function takenBy(declarator: NodePath<t.VariableDeclarator>): TakenMembers | undefined {
  const { id } = declarator.node;
  if (t.isIdentifier(id)) return { kind: 'whole', name: id.name };
  const names = new Map<string, string>();
  if (t.isArrayPattern(id)) {
    for (const [index, element] of id.elements.entries()) {
      if (!element) continue;
      const taken = t.isIdentifier(element) ? undefined : namesIn(element);
      if (t.isIdentifier(element)) names.set(String(index), element.name);
      else if (!taken) return undefined;
      for (const [key, name] of taken ?? []) names.set(`${index}.${key}`, name);
    }
    return { kind: 'names', names };
  }
  const taken = namesIn(id);
  return taken && { kind: 'names', names: taken };
}

/** The names of an object's pattern by key, where it does no more than to name members. */
function namesIn(pattern: t.Node): Map<string, string> | undefined {
  if (!t.isObjectPattern(pattern)) return undefined;
  const names = new Map<string, string>();
  for (const property of pattern.properties) {
    if (!t.isObjectProperty(property) || property.computed || !t.isIdentifier(property.key)) return undefined;
    if (!t.isIdentifier(property.value)) return undefined;
    names.set(property.key.name, property.value.name);
  }
  return names;
}
