import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { functionAsked } from '../rules/called-functions.js';
import { rulesOfFunction } from '../rules/code.js';
import type { StatedRule } from '../rules/stated-rule.js';
import {
  namesGiven,
  standsForValues,
  fieldAt,
  type Asked,
  type Meaning,
  type Names,
  type RuleLens,
} from '../rules/meanings.js';
import { bare, behindName } from '../source/behind-names.js';
import type { Script } from '../source/script.js';
import { isCalledInPlace } from './called-in-place.js';
import { walk } from '../source/traverse.js';

/** A function that states rules, and the rules. */
export interface RuleFunction {
  fn: NodePath<t.Function>;
  script: Script;
  rules: StatedRule[];
  /** Where it is called, with what its parameters stand for. */
  calls: NodePath<t.CallExpression>[];
  names: Names;
}

/** Where rules of a component are looked for. */
export interface RuleSite {
  script: Script;
  /** The component: a function, or a class. */
  component: NodePath;
  lens: RuleLens;
  /** The reducer that holds the values, where one does: it may ask rules as well. */
  reducer?: { fn: NodePath<t.Function>; script: Script } | undefined;
}

/** The functions that state rules of a form: its own, and those that it calls with its values. */
export function ruleFunctions(site: RuleSite): RuleFunction[] {
  const { component, script, lens } = site;
  const found = new Map<t.Node, RuleFunction>();
  const add = (
    fn: NodePath<t.Function>,
    of: Script,
    names: Names,
    call: NodePath<t.CallExpression> | undefined,
    origin: t.Node = fn.node,
  ): void => {
    const known = found.get(origin);
    if (known) {
      if (call) known.calls.push(call);
      return;
    }
    const rules = rulesOfFunction({ path: fn, script: of }, names, lens);
    if (rules.length) found.set(origin, { fn, script: of, rules, calls: call ? [call] : [], names });
  };
  walk(component, {
    CallExpression(call) {
      for (const { fn, script: of, origin, given } of calledFunctions(call, site)) add(fn, of, given(fn), call, origin);
    },
  });
  for (const { fn, script: of, origin, names, call } of askedByReducer(site)) add(fn, of, names, call, origin);
  walk(component, {
    Function(fn) {
      if (
        fn.node !== component.node &&
        !isLifeCycleMethod(fn) &&
        ![...found.values()].some((one) => one.fn.node === fn.node) &&
        !isCalledInPlace(fn)
      )
        add(fn, script, new Map(), undefined);
    },
  });
  return [...found.values()];
}

/** A method that React calls by itself: its texts are no messages. */
function isLifeCycleMethod(fn: NodePath): boolean {
  return (
    fn.isClassMethod() &&
    t.isIdentifier(fn.node.key) &&
    /^(componentDid|componentWill|shouldComponent|getDerived)/.test(fn.node.key.name)
  );
}

/** Functions that a reducer asks about the values: the group that holds them, or the new state as a whole. */
function askedByReducer({ reducer, lens }: RuleSite): (Omit<Called, 'given'> & {
  names: Names;
  call: NodePath<t.CallExpression>;
})[] {
  const found: ReturnType<typeof askedByReducer> = [];
  if (!reducer) return found;
  walk(reducer.fn, {
    CallExpression(call) {
      const [first] = call.get('arguments') as (NodePath | undefined)[];
      const callee = call.get('callee') as NodePath;
      const called = functionAsked({ path: callee, script: reducer.script, names: new Map() }, lens);
      if (!first || !called) return;
      const name = first.isIdentifier()
        ? first.node.name
        : first.isMemberExpression() && t.isIdentifier(first.node.property)
          ? first.node.property.name
          : '';
      const checks = callee.isIdentifier() && /valid|check|verify|problem|error/i.test(callee.node.name);
      const group = lens.kindOf(name) === 'group' ? `${name}.` : checks ? '' : undefined;
      if (group !== undefined)
        found.push({ ...called, names: firstIsValues(called.path, group), call, fn: called.path });
    },
  });
  return found;
}

interface Called {
  fn: NodePath<t.Function>;
  script: Script;
  /** The function itself, or the call that made it. */
  origin: t.Node;
  given(fn: NodePath<t.Function>): Names;
}

/** What a call runs: a function, each function of a table, or a function that is handed to a hook with the values. */
function calledFunctions(call: NodePath<t.CallExpression>, { script, lens }: RuleSite): Called[] {
  const at = (path: NodePath): Asked => ({ path, script, names: new Map() });
  const given = (call.get('arguments') as NodePath[]).map(at);
  const callee = bare(call.get('callee') as NodePath);
  const names =
    (extra: ReadonlyMap<unknown, Meaning> = new Map()) =>
    (fn: NodePath<t.Function>): Names =>
      namesGiven(fn, given, lens, extra);
  if ((callee.isMemberExpression() || callee.isOptionalMemberExpression()) && callee.node.computed) {
    const table = behindName(at(callee.get('object') as NodePath), lens.load);
    return table.path.isObjectExpression() ? tableFunctions(table.path, table.script, given) : [];
  }
  const target = functionAsked(at(callee), lens);
  const tells = given.some((one) => speaksOfFields(one, lens));
  if (target && (tells || given.length === 0))
    return [{ fn: target.path, script: target.script, origin: target.origin, given: names(target.names) }];
  // a hook that is handed a function runs it with the values
  if (
    !t.isIdentifier(callee.node) ||
    !/^use[A-Z]/.test(callee.node.name) ||
    /^use(State|Effect|Memo|Callback|Ref|Reducer)$/.test(callee.node.name)
  )
    return [];
  const handed = given.flatMap(({ path }) =>
    path.isObjectExpression()
      ? path
          .get('properties')
          .flatMap((property) =>
            property.isObjectProperty()
              ? [property.get('value') as NodePath]
              : property.isObjectMethod()
                ? [property as NodePath]
                : [],
          )
      : [path],
  );
  return handed.flatMap((path) => {
    const behind = behindName(at(path), lens.load);
    const fn = behind.path;
    if (!fn.isFunction() || fn.node.async) return [];
    return [{ fn, script: behind.script, origin: fn.node, given: (own: NodePath<t.Function>) => firstIsValues(own) }];
  });
}

/**
 * The names of a function whose first parameter stands for all values.
 * @param group the group that holds them, with a dot behind it; nothing where the form itself does
 */
function firstIsValues(fn: NodePath<t.Function>, group = ''): Names {
  const names = new Map<unknown, Meaning>();
  const [first] = fn.node.params;
  const whole: Meaning = group === '' ? { kind: 'values' } : { kind: 'field', name: group.slice(0, -1) };
  if (t.isIdentifier(first)) names.set(fn.scope.getOwnBinding(first.name), whole);
  if (t.isObjectPattern(first))
    for (const property of first.properties)
      if (t.isObjectProperty(property) && t.isIdentifier(property.key) && t.isIdentifier(property.value))
        names.set(fn.scope.getOwnBinding(property.value.name), {
          kind: 'field',
          name: group + property.key.name,
        });
  return names;
}

/** The functions of a table that is asked by a field's name. */
function tableFunctions(table: NodePath<t.ObjectExpression>, script: Script, given: readonly Asked[]): Called[] {
  return table.get('properties').flatMap((property): Called[] => {
    if (!property.isObjectProperty() && !property.isObjectMethod()) return [];
    const { key } = property.node;
    const name = t.isIdentifier(key) ? key.name : t.isStringLiteral(key) ? key.value : undefined;
    const fn = property.isObjectMethod() ? property : bare(property.get('value') as NodePath);
    if (name === undefined || !fn.isFunction()) return [];
    const names = (own: NodePath<t.Function>): Names => {
      const known = new Map<unknown, Meaning>();
      own.node.params.forEach((parameter, index) => {
        const argument = given[index];
        if (!t.isIdentifier(parameter)) return;
        const ofField = !argument || (argument.path.isMemberExpression() && argument.path.node.computed);
        const meaning: Meaning = ofField ? { kind: 'field', name } : { kind: 'code', at: argument };
        known.set(own.scope.getOwnBinding(parameter.name), meaning);
      });
      return known;
    };
    return [{ fn, script, origin: fn.node, given: names }];
  });
}

/** Whether an argument has to do with the form's fields. */
function speaksOfFields(argument: Asked, lens: RuleLens): boolean {
  if (standsForValues(argument, lens) || fieldAt(argument, lens) !== undefined) return true;
  const { path } = argument;
  if (path.isObjectExpression())
    return path
      .get('properties')
      .some(
        (property) =>
          property.isObjectProperty() && speaksOfFields({ ...argument, path: property.get('value') as NodePath }, lens),
      );
  if (path.isMemberExpression() && path.node.computed)
    return standsForValues({ ...argument, path: path.get('object') }, lens);
  return false;
}
