import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Rule } from '../form/rules.js';
import { behindName } from '../source/behind-names.js';
import { functionAround } from './components.js';
import type { RuleFunction, RuleSite } from './rule-functions.js';
import { walk } from '../source/traverse.js';

export type Moment = Rule['moment'];

const moments: readonly Moment[] = ['change', 'blur', 'submit'];

/** Whether a path stands inside of another one. */
export function isIn(path: NodePath, outer: NodePath): boolean {
  return path.findParent((parent) => parent.node === outer.node) !== null;
}

/** When a place of the component runs: while a person types, when they leave a control, or when they send. */
export function momentOf(path: NodePath, site: RuleSite): Moment {
  const action = path.findParent((parent) => parent.isSwitchCase());
  const outside = !isIn(path, site.component);
  // what a reducer does is called by its action
  if (outside && action?.isSwitchCase()) {
    const name = t.isStringLiteral(action.node.test) ? action.node.test.value : '';
    return /submit|send|save|check|validate/i.test(name)
      ? 'submit'
      : /blur|touch|leave|left/i.test(name)
        ? 'blur'
        : 'change';
  }
  const fn = functionAround(path);
  if (!fn || fn.node === site.component.node || !isIn(fn, site.component))
    return site.component.isClass() ? 'submit' : 'change';
  return momentOfFunction(fn, site);
}

/** When a hook runs a function that it is handed: what its own code tells. */
export function momentInHook(
  call: NodePath<t.CallExpression>,
  { fn }: RuleFunction,
  { script, lens }: RuleSite,
): Moment | undefined {
  const callee = call.get('callee') as NodePath;
  if (
    !callee.isIdentifier() ||
    !/^use[A-Z]/.test(callee.node.name) ||
    /^use(Memo|Effect|Callback)$/.test(callee.node.name)
  )
    return undefined;
  const handed = (call.get('arguments') as NodePath[]).some(
    (argument) => argument.findParent((parent) => parent.node === fn.node) === null,
  );
  const hook = behindName({ path: callee, script }, lens.load).path;
  if (!handed || !hook.isFunction()) return 'submit';
  const names = new Set(hook.node.params.flatMap((one) => Object.keys(t.getBindingIdentifiers(one))));
  const found: Moment[] = [];
  walk(hook, {
    CallExpression(inner) {
      const called = inner.get('callee') as NodePath;
      const root = called.isMemberExpression() ? called.get('object') : called;
      if (!root.isIdentifier() || !names.has(root.node.name) || !/check|valid|rule|verify/i.test(textOfCallee(called)))
        return;
      const around = functionAround(inner);
      const name = around ? (nameOf(around) ?? '') : '';
      found.push(
        !around || around.node === hook.node
          ? 'change'
          : /blur|touch/i.test(name)
            ? 'blur'
            : /change|input/i.test(name)
              ? 'change'
              : 'submit',
      );
    },
  });
  return found.length ? earliest(found) : 'submit';
}

function textOfCallee(path: NodePath): string {
  if (path.isIdentifier()) return path.node.name;
  return path.isMemberExpression() && t.isIdentifier(path.node.property) ? path.node.property.name : '';
}

/** When a function of the component runs: at the earliest of the places that call it or hand it on. */
export function momentOfFunction(fn: NodePath<t.Function>, site: RuleSite, seen = new Set<t.Node>()): Moment {
  if (seen.has(fn.node)) return 'submit';
  seen.add(fn.node);
  const attribute = fn.findParent((parent) => parent.isJSXAttribute() || parent.isStatement());
  if (attribute?.isJSXAttribute()) return momentOfEvent(attribute.node.name);
  const call = fn.parentPath;
  if (call?.isCallExpression() && fn.listKey === 'arguments' && t.isIdentifier(call.node.callee)) {
    const { name } = call.node.callee;
    if (/^use(\w*Effect|Memo)$/.test(name)) return 'change';
  }
  const outer = functionAround(fn);
  const name = nameOf(fn);
  const binding =
    name === undefined ? undefined : (fn.isFunctionDeclaration() ? fn.parentPath : fn).scope.getBinding(name);
  const places = (binding?.referencePaths ?? [])
    .filter((reference) => !isIn(reference, fn))
    .map((reference): Moment => {
      const at = reference.findParent((parent) => parent.isJSXAttribute() || parent.isFunction());
      if (at?.isJSXAttribute()) return momentOfEvent(at.node.name);
      if (!at?.isFunction() || at.node === site.component.node) return 'change';
      return momentOfFunction(at, site, seen);
    });
  if (places.length) return earliest(places);
  return outer && outer.node !== site.component.node && isIn(outer, site.component)
    ? momentOfFunction(outer, site, seen)
    : 'submit';
}

function nameOf(fn: NodePath<t.Function>): string | undefined {
  if (fn.isFunctionDeclaration()) return fn.node.id?.name;
  const holder = fn.parentPath.isCallExpression() ? fn.parentPath.parentPath : fn.parentPath;
  return holder?.isVariableDeclarator() && t.isIdentifier(holder.node.id) ? holder.node.id.name : undefined;
}

function momentOfEvent(name: t.JSXAttribute['name']): Moment {
  const event = t.isJSXIdentifier(name) ? name.name : '';
  if (/blur|focusout/i.test(event)) return 'blur';
  return /submit|click|save|send|confirm|action/i.test(event) ? 'submit' : 'change';
}

/** The earliest of some moments; on submit where there is none. */
export function earliest(all: readonly Moment[]): Moment {
  return moments.find((moment) => all.includes(moment)) ?? 'submit';
}
