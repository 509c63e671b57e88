import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { FormSite, ReactApproach } from '../approach.js';
import { bodyOf, functionOf } from '../components.js';
import { importedFunction } from '../exports.js';
import { bindControls, type BoundControl } from '../form-parts.js';
import { isInside } from '../form-regions.js';
import { calledImport } from '../hook-calls.js';
import { attributesOf, changedBy, type JsxControl } from '../jsx-controls.js';
import type { Slot } from '../held-object/held-starts.js';
import { readHeldObject } from '../held-object/read.js';
import { stateVariablesOf } from '../state-variables.js';
import { holderOf, type Lens } from '../value-tracing.js';
import { hookCalls, membersOf, returnedBy, takenBy } from './hook-call.js';
import { hookMark, isMadeHook } from '../form-hook/hook-file.js';
import { leaveHook, takesStatus } from './leave.js';
import { writeInlined } from './inline.js';
import { readHookForm } from './read.js';
import { hookValues, singleValues, valuesFor } from './hook-values.js';
import { hookStateOf, madeHook } from '../form-hook/state.js';
import { writeOwnHook } from './write.js';
import { walk } from '../../source/traverse.js';

/** Whether a hook only gives a context: what holds the values stands elsewhere then. */
function onlyTakesContext(call: NodePath<t.CallExpression>, site: FormSite): boolean {
  const from = calledImport(call);
  const imported = from && importedFunction(from, site.script, site.load);
  const script = imported?.script ?? site.script;
  const fn = from ? imported?.fn : functionOf(call.get('callee') as NodePath);
  if (!fn) return false;
  const text = script.text.slice(fn.node.start ?? 0, fn.node.end ?? 0);
  return /\buse(?:Context)?\(/.test(text) && !/\buse(?!Context\b)[A-Z]\w*\(/.test(text.replace(/^[^{=]*[{=]/, ''));
}

/** The variables of a component that come from a hook of the project itself. */
function ownHookNames(body: NodePath<t.BlockStatement>, site: FormSite): Map<unknown, string> {
  const names = new Map<unknown, string>();
  for (const statement of body.get('body')) {
    if (!statement.isVariableDeclaration()) continue;
    for (const declarator of statement.get('declarations')) {
      const call = declarator.get('init') as NodePath;
      if (!call.node || !call.isCallExpression()) continue;
      const { callee } = call.node;
      const from = calledImport(call)?.module;
      const own = from === undefined || /^[.@~]\/|^\.\.?\//.test(from);
      if (!t.isIdentifier(callee) || !/^use[A-Z]/.test(callee.name) || !own || !call.scope.getBinding(callee.name))
        continue;
      if (onlyTakesContext(call, site)) continue;
      for (const name of namesFrom(declarator)) names.set(declarator.scope.getBinding(name), name);
    }
  }
  return names;
}

/** The names under which a component knows what a hook gives, those among them that statements take out: `const { values } = form`. */
function namesFrom(declarator: NodePath<t.VariableDeclarator>): string[] {
  const own = Object.keys(t.getBindingIdentifiers(declarator.node.id));
  const taken = own.flatMap((name) =>
    (declarator.scope.getBinding(name)?.referencePaths ?? []).flatMap(({ parentPath: parent, key }) =>
      parent?.isVariableDeclarator() && key === 'init' && parent.scope === declarator.scope
        ? Object.keys(t.getBindingIdentifiers(parent.node.id))
        : [],
    ),
  );
  return [...own, ...taken];
}

export const ownHook: ReactApproach = {
  id: 'own-hook',
  title: 'a hook of the project itself',
  goodFor: 'any number of forms that behave alike',
  reads: true,
  write: writeOwnHook,
  recognise(site) {
    const state = hookStateOf(site, madeHook(hookMark));
    if (state?.fields.length) {
      const found = {
        fields: state.fields.map(({ name }) => name),
        read: () => readHeldObject(site, state, 'own-hook'),
      };
      if (!takesStatus(state)) return found;
      return { ...found, leave: { to: 'object-state', write: (model, context) => leaveHook(model, context, state) } };
    }
    const body = site.component.kind === 'function' ? bodyOf(site.component) : undefined;
    if (!body) return undefined;
    const names = ownHookNames(body, site);
    const calls = hookCalls(site);
    const known = new Map([...names, ...(calls.length ? variablesBeside(site) : [])]);
    const bound = bindControls(site.script, site.candidates, lensOver(known), site.ownValueNames);
    const spread = spreadFields(site.region.element ?? site.component.path, names);
    if (bound.length && !spread.length && !bound.some(({ control }) => isChangedByHook(control, known)))
      return undefined;
    const fields = bound
      .filter(({ control }) => isInside(control.element, site.region.element))
      .map(({ field, control }) =>
        field.includes('.')
          ? field
              .split('.')
              .slice(1)
              .join('.')
              .replace(/\.value$/, '') || field
          : (control.name ?? field),
      );
    fields.push(...spread);
    const sends = site.region.element !== undefined || site.region.submit.how !== 'none';
    if (!fields.length || !sends) return undefined;
    const held = calls.find(({ declarator }) => bindsFields(declarator, site, bound, names)) ?? calls[0];
    const single = singleValues(calls, site, fields);
    const slots = single.length || !held ? single : valuesFor(fields, hookValues(held, site));
    const found = { fields: fieldNames(single.length ? [] : fields, slots) };
    if (!held) return found;
    return {
      ...found,
      read: () => readHookForm(site, bound, found.fields, slots),
      leave: { to: 'object-state', write: (model, context) => writeInlined(model, context, site, held) },
    };
  },
};

/** Whether what a control reports goes to something that hooks give: it is the handler, makes it, or is called by it. */
function isChangedByHook(control: JsxControl, names: ReadonlyMap<unknown, string>): boolean {
  const isGiven = (path: NodePath): boolean => {
    let root = path;
    while (root.isMemberExpression() || root.isOptionalMemberExpression() || root.isCallExpression())
      root = root.get(root.isCallExpression() ? 'callee' : 'object') as NodePath;
    return root.isIdentifier() && names.has(root.scope.getBinding(root.node.name));
  };
  return changedBy(control).some(({ value }) => {
    if (!value || isGiven(value)) return value !== undefined;
    let calls = false;
    walk(functionOf(value), {
      CallExpression(call) {
        const { callee } = call.node;
        const method = t.isMemberExpression(callee) && t.isIdentifier(callee.property) ? callee.property.name : '';
        if (
          isGiven(call.get('callee') as NodePath) &&
          !/^(find|filter|map|some|every|includes|slice|concat)$/.test(method)
        )
          calls = true;
      },
    });
    return calls;
  });
}

/** The names of a form's fields: those of the hook's values, groups by what controls edit of them, and what else controls name. */
function fieldNames(bound: readonly string[], slots: readonly Slot[]): string[] {
  const inGroup = ({ name }: Slot): string[] => bound.filter((one) => one.startsWith(`${name}.`));
  const kept = slots.flatMap((slot) => (inGroup(slot).length ? inGroup(slot) : [slot.name]));
  return [...new Set([...kept, ...bound])];
}

function lensOver(names: ReadonlyMap<unknown, string>): Lens {
  return {
    fieldOf: (path) => (path.isIdentifier() ? names.get(path.scope.getBinding(path.node.name)) : undefined),
    changesOf: () => [],
  };
}

/** State variables that a component keeps beside what its hooks give. */
function variablesBeside({ component }: FormSite): Map<unknown, string> {
  if (component.kind !== 'function') return new Map();
  const names = stateVariablesOf(component).flatMap(({ value, call }): [unknown, string][] =>
    value ? [[call.scope.getBinding(value.node.name), value.node.name]] : [],
  );
  return new Map(names);
}

/**
 * Whether a control of the form shows what a hook of the project gives, and the hook's source can be moved into the
 * component: such a form is left hook by hook, whatever state stands beside it.
 */
export function showsHook(site: FormSite): boolean {
  const body = site.component.kind === 'function' ? bodyOf(site.component) : undefined;
  if (!body || !site.region.element) return false;
  const calls = hookCalls(site).filter(({ fn, declarator, script }) => {
    if (isMadeHook(script.text)) return false;
    const returned = returnedBy(fn);
    return returned !== undefined && membersOf(returned) !== undefined && takenBy(declarator) !== undefined;
  });
  if (!calls.length) return false;
  const names = ownHookNames(body, site);
  const inside = site.candidates.filter(({ element }) => isInside(element, site.region.element));
  const bound = bindControls(site.script, inside, lensOver(names), site.ownValueNames);
  return calls.some(({ declarator }) => bindsFields(declarator, site, bound, names));
}

/** Whether a hook's call gives what a control of the form shows. */
function bindsFields(
  declarator: NodePath<t.VariableDeclarator>,
  site: FormSite,
  bound: readonly BoundControl[],
  names: ReadonlyMap<unknown, string>,
): boolean {
  const own = namesFrom(declarator);
  if (bound.some(({ field }) => own.includes(holderOf(field)))) return true;
  return spreadFields(site.region.element ?? site.component.path, names, own).length > 0;
}

/** Fields whose control takes everything from the hook: `<input {...field('town')} />`. */
function spreadFields(root: NodePath, names: ReadonlyMap<unknown, string>, only?: readonly string[]): string[] {
  const found: string[] = [];
  walk(root, {
    JSXSpreadAttribute(spread) {
      const argument = spread.get('argument');
      let base: NodePath = argument.isCallExpression() ? (argument.get('callee') as NodePath) : argument;
      while (base.isMemberExpression()) base = base.get('object');
      if (!base.isIdentifier() || !names.has(base.scope.getBinding(base.node.name))) return;
      if (only && !only.includes(base.node.name)) return;
      const first = argument.isCallExpression() ? argument.node.arguments[0] : undefined;
      const element = spread.findParent((parent) => parent.isJSXElement()) as NodePath<t.JSXElement> | null;
      const name = t.isStringLiteral(first)
        ? first.value
        : element
          ? attributesOf(element).find((attribute) => attribute.name === 'name')?.text
          : undefined;
      found.push(name ?? base.node.name);
    },
  });
  return found;
}
