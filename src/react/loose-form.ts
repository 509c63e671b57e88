import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Control, Field, FormModel } from '../form/model.js';
import { leadsToValues } from '../markup/value-members.js';
import { bare, behindName, memberNamed, returnedValue, type Placed } from '../source/behind-names.js';
import type { FormSite, Recognised } from './approach.js';
import { spanOf } from './code.js';
import type { FunctionPath } from './components.js';
import { kindOf, kindOfType, type BoundControl } from './form-parts.js';
import { isInside } from './form-regions.js';
import { ruleLens } from './form-rules.js';
import { isReactHook } from './hook-calls.js';
import { changedBy, shownBy, type JsxControl } from './jsx-controls.js';
import { seenField, seenForm } from './seen-form.js';
import { rulesAndMessages } from './shown-messages.js';
import { walk } from '../source/traverse.js';

/** Where the values of a form come from, as far as its controls tell. */
interface Origin {
  approach: 'object-state' | 'reducer' | 'own-hook';
  /** The name that stands for them in the component. */
  name: string;
  call: NodePath<t.CallExpression>;
}

/** A control and what it shows: the name at the root of an expression, and the path behind it. */
interface Shown {
  control: JsxControl;
  origin: Origin;
  path: string[];
}

/**
 * A form that no reader takes in full: its values begin as null and come later, out of a function, a context or a hook
 * whose source is not understood. It is seen by its controls, and rewritten to nothing.
 */
export function looseForm(site: FormSite): { approach: Origin['approach']; found: Recognised } | undefined {
  const { component, region } = site;
  if (component.kind !== 'function') return undefined;
  if (!region.element && region.submit.how === 'none') return undefined;
  const shown = site.candidates
    .filter(({ element }) => isInside(element, region.element))
    .flatMap((control) => shownIn(control, component.path, site) ?? []);
  const counts = new Map<t.Node, Shown[]>();
  for (const one of shown) counts.set(one.origin.call.node, [...(counts.get(one.origin.call.node) ?? []), one]);
  const own = [...counts.values()].sort((a, b) => b.length - a.length)[0];
  const [first] = own ?? [];
  if (!own || !first) return undefined;
  const names = [...new Set(own.map(({ path }) => path.join('.')))];
  return {
    approach: first.origin.approach,
    found: {
      fields: names,
      obstacle: `its values come from ${first.origin.name} in a way that is not understood in full`,
      read: () => readLoose(site, own, names, first.origin),
    },
  };
}

function shownIn(control: JsxControl, component: FunctionPath, site: FormSite): Shown | undefined {
  const value = shownBy(control, site.ownValueNames)?.value;
  if (!value || (!control.intrinsic && !changedBy(control).length)) return undefined;
  let found: Shown | undefined;
  const look = (path: NodePath): void => {
    if (found || !isRootOfChain(path)) return;
    const parts = chainOf(path);
    const origin = originOf(path, component, site);
    if (!origin) return;
    const own = parts.filter((part, index) => index > 0 || origin.approach !== 'own-hook' || !leadsToValues.test(part));
    const named = own.length ? own : origin.destructured === undefined ? [] : [origin.destructured];
    if (named.length) found = { control, origin, path: named };
  };
  look(value);
  walk(value, { Identifier: look });
  return found;
}

function isRootOfChain(path: NodePath): path is NodePath<t.Identifier> {
  return path.isIdentifier() && path.key !== 'property' && path.key !== 'callee';
}

/** The members that are asked of a name, one behind the other, without methods. */
function chainOf(path: NodePath): string[] {
  const parts: string[] = [];
  for (let at = path; ;) {
    const member = at.parentPath;
    if (!member || !(member.isMemberExpression() || member.isOptionalMemberExpression()) || at.key !== 'object') break;
    const { property, computed } = member.node;
    if (computed ? !t.isStringLiteral(property) : !t.isIdentifier(property)) break;
    if (member.key === 'callee') break;
    parts.push(t.isStringLiteral(property) ? property.value : (property as t.Identifier).name);
    at = member;
  }
  return parts;
}

/** Where a name of a component comes from: a call of a hook, taken whole or in parts. */
function originOf(
  path: NodePath<t.Identifier>,
  component: FunctionPath,
  site: FormSite,
  depth = 0,
): (Origin & { destructured?: string }) | undefined {
  const binding = path.scope.getBinding(path.node.name);
  const declared = binding?.path;
  if (!declared?.isVariableDeclarator() || depth > 3) return undefined;
  if (declared.findParent((parent) => parent.node === component.node) === null) return undefined;
  const init = declared.get('init') as NodePath;
  if (!init.node) return undefined;
  const made = bare(init);
  const { id } = declared.node;
  if (made.isIdentifier() && t.isObjectPattern(id)) {
    const outer = originOf(made, component, site, depth + 1);
    return outer && { ...outer, destructured: path.node.name };
  }
  if (!made.isCallExpression()) return undefined;
  const approach = approachOf(made, site);
  if (!approach) return undefined;
  const inParts = t.isObjectPattern(id) && !leadsToValues.test(path.node.name);
  return { approach, name: path.node.name, call: made, ...(inParts ? { destructured: path.node.name } : {}) };
}

function approachOf(call: NodePath<t.CallExpression>, site: FormSite): Origin['approach'] | undefined {
  if (isReactHook(call, 'useState')) return 'object-state';
  if (isReactHook(call, 'useReducer')) return 'reducer';
  const { callee } = call.node;
  const name = t.isIdentifier(callee) ? callee.name : '';
  if (!/^use[A-Z]/.test(name) || /^use(Memo|Callback|Ref|Id|Effect|LayoutEffect|Transition)$/.test(name))
    return undefined;
  return keptInContext(call, site) ?? 'own-hook';
}

/** How values are kept that a hook only takes out of a context: by what its file keeps for those inside of it. */
function keptInContext(call: NodePath<t.CallExpression>, { script, load }: FormSite): Origin['approach'] | undefined {
  const { path, script: file } = behindName({ path: call.get('callee') as NodePath, script }, load);
  if (!path.isFunction()) return undefined;
  let takes = false;
  walk(path, {
    CallExpression(inner) {
      if (isReactHook(inner, 'useContext')) takes = true;
    },
  });
  if (!takes) return undefined;
  let kept: Origin['approach'] | undefined;
  walk(file.program, {
    CallExpression(inner) {
      if (isReactHook(inner, 'useReducer')) kept = 'reducer';
      else if (isReactHook(inner, 'useState')) kept ??= 'object-state';
    },
  });
  return kept;
}

function readLoose(site: FormSite, shown: readonly Shown[], names: readonly string[], origin: Origin): FormModel {
  const start = startOf(origin.call, site);
  const fields = names.map((name): Field => fieldOf(name, shown, start, site));
  const bound = shown.map(({ control, path }): BoundControl => {
    const field = path.join('.');
    const model: Control = {
      field,
      element: control.tag,
      type: control.type,
      name: control.name,
      label: control.label,
      shows: shownBy(control, site.ownValueNames)?.name,
      changes: changedBy(control)[0]?.name,
      wayIn: undefined,
      span: spanOf(site.script.file, control.element),
    };
    return { control, field, model };
  });
  const seen = {
    ...seenForm(site, origin.approach, fields, bound),
    holder: { name: origin.name, type: undefined, initial: undefined },
  };
  const { path: component } = site.component;
  const isValues = (path: NodePath): boolean =>
    (path.isIdentifier() && path.node.name === origin.name) ||
    (path.isMemberExpression() &&
      t.isIdentifier(path.node.property, { name: 'values' }) &&
      t.isIdentifier(path.node.object, { name: origin.name }));
  const lens = ruleLens({ fieldOf: () => undefined, changesOf: () => [] }, isValues, fields, site.load);
  return { ...seen, ...rulesAndMessages({ script: site.script, component, lens }, seen.rules) };
}

function fieldOf(name: string, shown: readonly Shown[], start: Placed | undefined, site: FormSite): Field {
  const own = shown.find(({ path }) => path.join('.') === name);
  const model = {
    span: own ? spanOf(site.script.file, own.control.element) : spanOf(site.script.file, site.component.path),
  };
  const field = seenField(name, undefined, model.span);
  const value = start ? memberAt(start.path, name.split('.')) : undefined;
  const text = value && start ? start.script.text.slice(value.node.start ?? 0, value.node.end ?? 0) : undefined;
  const type = text === undefined ? undefined : typeOfText(text);
  const kind = own ? kindOf(own.control, type) : 'other';
  return {
    ...field,
    kind: kind === 'other' ? (type === undefined ? 'text' : kindOfType(type)) : kind,
    ...(text === undefined ? {} : { initial: { code: undefined, text, when: 'constant' } }),
  };
}

function memberAt(object: NodePath, parts: readonly string[]): NodePath | undefined {
  const [name, ...rest] = parts;
  if (name === undefined) return object;
  const member = memberNamed(object, name);
  return member ? memberAt(bare(member), rest) : undefined;
}

function typeOfText(text: string): string | undefined {
  if (/^['"`]/.test(text)) return 'string';
  if (/^(true|false)$/.test(text)) return 'boolean';
  return /^-?[\d.]+$/.test(text) ? 'number' : undefined;
}

/** The object that values begin as, where a call of a hook leads to one. */
function startOf(call: NodePath<t.CallExpression>, { script, load }: FormSite): Placed | undefined {
  const given = (call.get('arguments') as NodePath[]).map((path) => behindName({ path, script }, load));
  for (const one of given) {
    const options = one.path.isObjectExpression() ? startMember(one.path) : undefined;
    const at = options ? behindName({ path: options, script: one.script }, load) : one;
    if (at.path.isObjectExpression()) return at;
    const object = at.path.isFunction() ? returnedValue(at.path) : undefined;
    // a reducer's own answer is no start
    const isReducer = one === given[0] && isReactHook(call, 'useReducer');
    if (object?.isObjectExpression() && !isReducer) return { path: object, script: at.script };
  }
  return undefined;
}

function startMember(options: NodePath): NodePath | undefined {
  for (const name of ['initialValues', 'initial', 'defaultValues', 'defaults', 'values', 'start']) {
    const member = memberNamed(options, name);
    if (member) return member;
  }
  return undefined;
}
