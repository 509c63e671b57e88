import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { returnedValue } from '../../source/behind-names.js';
import type { Script } from '../../source/script.js';
import { typeMembers, type TypeInFile } from '../../source/type-members.js';
import type { FormSite } from '../approach.js';
import { functionOf } from '../components.js';
import { importedValue } from '../exports.js';
import { importOf, isReactHook } from '../hook-calls.js';

/** A path in a file of the form. */
export interface Located {
  path: NodePath;
  script: Script;
  /** The member of the path's value that is meant, such as `.town`. */
  suffix?: string;
}

/** A value the reducer holds. */
export interface Slot {
  name: string;
  /** The name a component knows it by, where it takes it out of the state. */
  alias: string | undefined;
  initial: Located | undefined;
  /** The object lacks it until it is set. */
  absent?: boolean;
  /** What it begins as is told only when the form runs. */
  untold?: boolean;
}

/** What an expression stands for, followed through constants and imports. */
export function resolved(located: Located, load: FormSite['load'], depth = 0): Located {
  const { path, script } = located;
  if (depth > 5) return located;
  if (path.isTSAsExpression() || path.isTSSatisfiesExpression() || path.isTSInstantiationExpression())
    return resolved({ path: path.get('expression') as NodePath, script }, load, depth + 1);
  if (!path.isIdentifier()) return located;
  const from = importOf(path);
  if (from) {
    const value = importedValue(from, script, load);
    return value ? resolved(value, load, depth + 1) : located;
  }
  const declared = path.scope.getBinding(path.node.name)?.path;
  if (declared?.isVariableDeclarator() && t.isIdentifier(declared.node.id) && declared.node.init) {
    return resolved({ path: declared.get('init') as NodePath, script }, load, depth + 1);
  }
  const first = declared?.isVariableDeclarator() ? firstOf(declared, path.node.name) : undefined;
  if (first) return resolved({ path: first, script }, load, depth + 1);
  return declared?.isFunctionDeclaration() ? { path: declared, script } : located;
}

/** What a name stands for that a state which is never set keeps from the first view; undefined for any other expression. */
export function keptFirst(path: NodePath): NodePath | undefined {
  const declared = path.isIdentifier() ? path.scope.getBinding(path.node.name)?.path : undefined;
  return declared?.isVariableDeclarator() ? firstOf(declared, (path.node as t.Identifier).name) : undefined;
}

/** What a state that is never set keeps from the first view: `const [first] = useState({ town })`. */
function firstOf(declared: NodePath<t.VariableDeclarator>, name: string): NodePath | undefined {
  const { id } = declared.node;
  const init = declared.get('init') as NodePath;
  const [value, ...setters] = t.isArrayPattern(id) ? id.elements : [];
  if (!t.isIdentifier(value, { name }) || setters.length || !init.isCallExpression()) return undefined;
  if (!isReactHook(init, 'useState')) return undefined;
  const [given] = init.get('arguments') as (NodePath | undefined)[];
  return given?.isFunction() ? returnedValue(given) : given;
}

/** What an expression stands for, also where a function that is given nothing makes an object anew: `blank()`. */
export function objectMade(located: Located, load: FormSite['load']): Located {
  const found = resolved(located, load);
  if (!found.path.isCallExpression() || found.path.node.arguments.length) return found;
  const maker = resolved({ path: found.path.get('callee') as NodePath, script: found.script }, load);
  const fn = functionOf(maker.path);
  const made = fn && !fn.node.params.length && !fn.node.async ? returnedValue(fn) : undefined;
  return made?.isObjectExpression() ? { path: made, script: maker.script } : found;
}

/** The object that an expression begins as: written out, behind a name, or returned by a function called once. */
export function initialObjectAt(
  value: NodePath | undefined,
  maker: NodePath | undefined,
  site: FormSite,
): { object: Located | undefined; once: boolean } {
  if (maker) {
    const found = resolved({ path: maker, script: site.script }, site.load);
    const fn = functionOf(found.path);
    const body = fn?.get('body') as NodePath | undefined;
    const last = body?.isBlockStatement() ? body.get('body') : undefined;
    const returned = last?.length === 1 && last[0]?.isReturnStatement() ? (last[0].get('argument') as NodePath) : body;
    const usesArgument = fn ? fn.node.params.length > 0 : true;
    return {
      object: returned?.isObjectExpression() && !usesArgument ? { path: returned, script: found.script } : undefined,
      once: true,
    };
  }
  if (!value) return { object: undefined, once: false };
  const found = resolved({ path: value, script: site.script }, site.load);
  return { object: found.path.isObjectExpression() ? found : undefined, once: false };
}

export function slotsOf(object: Located | undefined, load: FormSite['load']): Slot[] {
  if (!object?.path.isObjectExpression()) return [];
  const all = object.path.get('properties').flatMap((property): Slot[] => {
    if (
      property.isObjectProperty() &&
      !property.node.computed &&
      (t.isIdentifier(property.node.key) || t.isStringLiteral(property.node.key))
    ) {
      const name = t.isIdentifier(property.node.key) ? property.node.key.name : property.node.key.value;
      return [{ name, alias: undefined, initial: { path: property.get('value') as NodePath, script: object.script } }];
    }
    if (property.isSpreadElement())
      return slotsOf(objectMade({ path: property.get('argument'), script: object.script }, load), load);
    return [];
  });
  // of two that set the same value the later one counts
  const last = new Map(all.map((slot) => [slot.name, slot]));
  return [...last.values()];
}

/** The first part of an object that does not tell which values it gives: a spread of what is known only when it runs. */
export function untoldPart(object: Located | undefined, load: FormSite['load']): NodePath | undefined {
  if (!object?.path.isObjectExpression()) return undefined;
  for (const property of object.path.get('properties')) {
    if (property.isObjectProperty() && !property.node.computed) continue;
    if (!property.isSpreadElement()) return property;
    const spread = objectMade({ path: property.get('argument'), script: object.script }, load);
    if (!spread.path.isObjectExpression()) return property;
    const inner = untoldPart(spread, load);
    if (inner) return inner;
  }
  return undefined;
}

/** The values of an object that begins as something the component is given: its type names them. */
export function slotsByType(value: NodePath | undefined, type: TypeInFile | undefined, site: FormSite): Slot[] {
  if (!value || !(value.isIdentifier() || value.isMemberExpression())) return [];
  return [...typeMembers(type, site.load).keys()].map((name) => ({
    name,
    alias: undefined,
    initial: { path: value, script: site.script, suffix: `.${name}` },
  }));
}

/** Whether an object is written out in full, so that it lacks what it does not name. */
export function isWrittenOut(object: Located | undefined): boolean {
  return (
    object?.path.isObjectExpression() === true &&
    object.path.node.properties.every((property) => t.isObjectProperty(property) && !property.computed)
  );
}

/** Values that an object lacks at first and that the component asks it for by name: `values.town || ''`. */
export function absentSlots(slots: readonly Slot[], references: readonly NodePath[]): Slot[] {
  const names = references.flatMap((reference) => {
    const member = reference.parentPath;
    const named =
      member?.isMemberExpression() === true &&
      reference.key === 'object' &&
      !member.node.computed &&
      t.isIdentifier(member.node.property) &&
      !(member.parentPath.isCallExpression() && member.key === 'callee');
    return named && t.isIdentifier(member.node.property) ? [member.node.property.name] : [];
  });
  return [...new Set(names)]
    .filter((name) => !slots.some((slot) => slot.name === name))
    .map((name) => ({ name, alias: undefined, initial: undefined, absent: true }));
}
