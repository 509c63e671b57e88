import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import { pascal } from '../form-names.js';
import { attributesOf, tagOf } from '../jsx-controls.js';
import {
  asAttributes,
  commentsIn,
  depthOf,
  nameIn,
  referencesTo,
  reindented,
  says,
  stays,
  textIn,
} from '../package-leaving/leaving.js';
import { callOf } from '../package-leaving/members.js';
import { relative } from '../package-leaving/sending.js';
import { shownWhen } from '../package-leaving/shown.js';
import { isBefore, versionOf } from '../../source/packages.js';
import { drawnControl, type DrawnControl } from '../package-leaving/drawn-control.js';
import { tiedBy } from '../package-leaving/ties.js';
import { fieldIn, nameAttribute, notesFocus, ownFieldIn, type OwnRules, type TakenApart } from './form.js';
import { notesControl } from './rows.js';
import { walk } from '../../source/traverse.js';

/** Notes that a field is registered at a place, with the rules that are stated there. */
export function registers(
  apart: TakenApart,
  {
    field,
    row,
    rules,
    at,
    element,
    numeric,
  }: Omit<OwnRules, 'shownWhen' | 'at' | 'element' | 'leaving'> & {
    at: NodePath;
    /** Its control; none where a hook of the component registers it. */
    element: NodePath<t.JSXElement> | undefined;
  },
): void {
  const { leaving, schema } = apart;
  // what is only said of the value’s type, or done besides, checks nothing
  const states = rules?.node.properties.some((one) => !aboutValues(one)) === true;
  if (!states && !schema) return;
  const ignored = schema && rules?.get('properties').find(({ node }) => !aboutValues(node));
  // the package asks its schema alone
  if (ignored) stays(leaving, ignored, 'the schema checks in place of this rule, which the package passes over');
  const when = conditionsOf(apart, element);
  if (rules) refuseForeign(apart, rules);
  if (element && apart.drawnBy && !row) refuseForeignConditions(apart, element);
  // a row is there with its list
  if (row && rules && !row.index.isIdentifier()) stays(leaving, row.index, 'the place of the row is worked out');
  const isShown = when && (!row || (element !== undefined && isWithRows(apart, element)));
  if (isShown)
    apart.rules.push({
      field,
      row,
      rules,
      at: placeOf(apart, at),
      shownWhen: row ? [] : when,
      numeric,
      element,
      leaving,
    });
  else stays(leaving, rules ?? at, 'when it is shown is no plain condition');
}

/**
 * The place of a field in the order in which a page registers its fields: a component registers its own while it is drawn,
 * before those of components inside of it, one after the other.
 */
function placeOf({ drawnBy }: TakenApart, path: NodePath): number {
  const at = path.node.start ?? 0;
  // what a component of the package draws is registered by that
  const isInner = path.isJSXElement();
  if (!drawnBy) return isInner ? inner + at : at;
  return inner + (drawnBy.element.node.start ?? 0) + (isInner ? 0.5 : 0) + at / (10 * inner);
}

/** More than any place in a file. */
const inner = 1e7;

/** The conditions under which an element is shown, with those of the component that it is a part of. */
function conditionsOf(apart: TakenApart, element: NodePath<t.JSXElement> | undefined): (() => string)[] | undefined {
  const { drawnBy } = apart;
  const around = drawnBy ? shownWhen(drawnBy.apart, drawnBy.element) : [];
  const own = element ? shownWhen(apart, element) : [];
  return around && own && [...around, ...own];
}

/** Rules of a component that the form is handed to go to the form’s own: what only that component knows stays there. */
function refuseForeign(apart: TakenApart, rules: NodePath): void {
  const { leaving, watched } = apart;
  const { outer, site } = leaving;
  if (!outer) return;
  const isOther = outer.script.file !== leaving.script.file;
  const look = (inner: NodePath<t.Identifier>): void => {
    if (!inner.isReferencedIdentifier()) return;
    const binding = inner.scope.getBinding(inner.node.name);
    const of = binding?.scope.path;
    if (!binding || !of || of.findParent((one) => one.node === rules.node)) return;
    // names that stood for the form, or for values of it, are said otherwise
    if (leaving.gone.has(binding) || watched.has(inner.node.name)) return;
    const isOwn = of.node === site.component.path.node || of.findParent((one) => one.node === site.component.path.node);
    // the index of a row is said by the function that checks
    if (of.isFunction() && of.parentPath?.isCallExpression() && of.node !== site.component.path.node) return;
    if (isOwn || (isOther && of.isProgram()))
      stays(leaving, inner, 'the rule asks something that only this component knows');
  };
  if (rules.isIdentifier()) look(rules);
  else walk(rules, { Identifier: look });
}

/** The conditions under which a component shows one of its controls, as far as they go to the form’s own check. */
function refuseForeignConditions(apart: TakenApart, element: NodePath<t.JSXElement>): void {
  const root = apart.leaving.site.component.path as NodePath;
  for (let at: NodePath = element; at.parentPath && at !== root; at = at.parentPath) {
    const { parentPath: parent, key } = at;
    if (parent.isLogicalExpression() && key === 'right') refuseForeign(apart, parent.get('left'));
    else if (parent.isConditionalExpression() && key !== 'test') refuseForeign(apart, parent.get('test'));
  }
}

/** Whether nothing but the list itself decides if a control of its rows is shown. */
function isWithRows({ leaving }: TakenApart, element: NodePath<t.JSXElement>): boolean {
  const root = leaving.site.component.path as NodePath;
  for (let at: NodePath = element; at.parentPath && at !== root; at = at.parentPath) {
    const { parentPath: parent, key } = at;
    const isGated =
      (parent.isLogicalExpression() && key === 'right') || (parent.isConditionalExpression() && key !== 'test');
    // without rows nothing of them is checked
    if (isGated && !/\.length\b[^&|]*$/.test(parent.get(parent.isLogicalExpression() ? 'left' : 'test').toString()))
      return false;
  }
  return true;
}

function aboutValues(node: t.Node): boolean {
  return (
    t.isObjectProperty(node) && t.isIdentifier(node.key) && /^(?:valueAsNumber|deps|onChange)$/.test(node.key.name)
  );
}

/** Whether a component’s control gets the reference that the component is given. */
function takesReference({ leaving }: TakenApart, { reference }: DrawnControl): boolean {
  const version = versionOf('react', leaving.script.file, leaving.context);
  return reference === 'forwarded' || (reference === 'property' && (!version || !isBefore(version, '19.0.0')));
}

/** What a control is given where it is registered. */
const handed = ['name', 'value', 'onChange', 'onBlur'];

/** `{...register('town', rules)}`: the attributes of a controlled element. */
export function sayRegistered(apart: TakenApart, path: NodePath): boolean {
  const { leaving } = apart;
  const call = callOf(path);
  const spread = call?.parentPath;
  const element = spread?.parentPath?.parentPath;
  if (!call || !spread?.isJSXSpreadAttribute() || !element?.isJSXElement()) return false;
  const drawn = /^[A-Z]/.test(tagOf(element)) ? drawnControl(element, leaving.site, handed) : undefined;
  const tag = drawn?.tag ?? tagOf(element);
  const [name, rules, ...more] = call.get('arguments') as (NodePath | undefined)[];
  const ownField = ownFieldIn(apart, name);
  if (!ownField || more.length || !/^(input|select|textarea)$/.test(tag)) return false;
  const { field, row } = ownField;
  if (rules && !rules.isObjectExpression()) return false;
  const own = new Set(attributesOf(element).map((one) => one.name));
  if (['onChange', 'onBlur', 'checked', 'ref', 'defaultValue', 'defaultChecked'].some((one) => own.has(one)))
    return false;
  // a value of its own is what a box or a radio stands for, and what the page begins with anywhere else
  const type = attributesOf(element).find((one) => one.name === 'type')?.text ?? drawn?.type;
  if (own.has('value') && !/^(?:radio|checkbox)$/.test(type ?? '')) return false;
  const further = rules && memberNamed(rules, 'onChange');
  if ((row ?? apart.drawnBy) && rules && (further || memberNamed(rules, 'deps'))) return false;
  const besides = further && sayBesides(apart, field, further);
  if (further && !besides) return false;
  const numeric = rules ? memberNamed(rules, 'valueAsNumber')?.isBooleanLiteral({ value: true }) === true : false;
  if (numeric) apart.numeric.add(field);
  const deps = rules && memberNamed(rules, 'deps');
  if (deps) {
    const along = (deps.isArrayExpression() ? deps.get('elements') : [deps]).map((one) =>
      fieldIn(apart, one as NodePath),
    );
    if (along.some((one) => one === undefined)) return false;
    apart.along.set(
      field,
      along.flatMap((one) => one ?? []),
    );
  }
  registers(apart, { field, row, rules, at: path, element, numeric });
  if (!drawn || takesReference(apart, drawn)) notesFocus(apart, field);
  if (row) notesControl(apart, row.list, row.key, element);
  const change = besides && nameIn(leaving, `change${pascal(field)}`, `set${pascal(field)}Value`);
  const tiedPlain = (): string[] | undefined =>
    tiedBy(apart, { element, tag, type: drawn?.type, field, row, at: path }, own, apart.needs.has('handleBlur'));
  if (tiedPlain() === undefined) return true;
  if (besides && change !== undefined) {
    const calls = (): string => changeCall(tiedPlain() ?? []);
    const told = (): string[] => [...commentsIn(leaving, rules.node, [further.node]), `${calls()};`, ...besides()];
    apart.besides.set(field, { name: change, tag, lines: told });
  }
  const tied = (): string[] | undefined =>
    tiedPlain()?.map((one) => (change !== undefined && one.startsWith('onChange=') ? `onChange={${change}}` : one));
  says(leaving, spread, () =>
    asAttributes(leaving, spread, [...(own.has('name') ? [] : [nameAttribute(apart, ownField)]), ...(tied() ?? [])]),
  );
  return true;
}

/** What the author does besides when a control changes, said of its event; it comes behind the change itself. */
function sayBesides(apart: TakenApart, field: string, given: NodePath): (() => string[]) | undefined {
  const { leaving } = apart;
  if (!given.isArrowFunctionExpression() || given.node.async || apart.besides.has(field)) return undefined;
  const [event, ...more] = given.get('params') as NodePath[];
  const body = given.get('body');
  if (more.length || (event && !event.isIdentifier())) return undefined;
  if (event && !event.isIdentifier({ name: 'event' })) {
    if (body.scope.hasBinding('event')) return undefined;
    for (const reference of referencesTo(leaving, event)) says(leaving, reference, 'event');
  }
  leaving.turns.push({ path: body, does: 'sets', at: given.node.start ?? 0 });
  return () =>
    body.isBlockStatement()
      ? relative(reindented(textIn(leaving, body), depthOf(leaving, given), ''), leaving.context.style.indent)
      : [`${textIn(leaving, body)};`];
}

/** The call by which an attribute takes over what an event gives. */
function changeCall(attributes: readonly string[]): string {
  const own = attributes.find((one) => one.startsWith('onChange=')) ?? '';
  const handler = /^onChange=\{([\s\S]*)\}$/.exec(own)?.[1] ?? '';
  return /^\((?:event)?\) => ([\s\S]*)$/.exec(handler)?.[1] ?? `${handler}(event)`;
}
