import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Field, Rule } from '../form/model.js';
import { functionAsked } from '../rules/called-functions.js';
import { rulesOfFunction, rulesOfStatements, rulesOfValue } from '../rules/code.js';
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
import { ruleKindOf } from '../rules/native.js';
import { bare, behindName } from '../source/behind-names.js';
import type { LoadScript } from '../source/project-files.js';
import type { Script } from '../source/script.js';
import { blockingVariables } from './blocking-conditions.js';
import { spanOf } from './code.js';
import { earliest, isIn, momentInHook, momentOf, momentOfFunction, type Moment } from './rule-moments.js';
import { holderOf, type Lens } from './value-tracing.js';

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

/** How a reader's own lens tells rules from other code. */
export function ruleLens(
  lens: Lens,
  isValues: (path: NodePath) => boolean,
  fields: readonly Pick<Field, 'name' | 'kind' | 'type' | 'role'>[],
  load: LoadScript,
): RuleLens {
  // status that is kept beside the fields is none of them
  const own = fields.filter(({ role }) => role === 'field');
  const kinds = new Map(own.map(({ name, kind, type }) => [name, bareKind(kind, type)]));
  return {
    fieldOf: (path) => {
      const field = lens.fieldOf(path);
      return field !== undefined && kinds.has(holderOf(field)) ? field : undefined;
    },
    isValues,
    kindOf: (field) => kinds.get(field),
    fields: [...kinds.keys()],
    status: fields.filter(({ role }) => role === 'status').map(({ name }) => name),
    changes: (callee) => lens.changesOf(callee).some((field) => kinds.has(field)),
    load,
  };
}

/** A number field whose value is text counts as text. */
function bareKind(kind: Field['kind'], type: string | undefined): string {
  if (type === 'string') return 'text';
  return type !== undefined && /^number\b/.test(type) ? 'number' : kind;
}

/** The rules that a component states in code, wherever it does so. */
export function rulesInCode(site: RuleSite, functions: readonly RuleFunction[] = ruleFunctions(site)): Rule[] {
  const stated: { rule: StatedRule; moment: Moment; by?: RuleFunction }[] = [];
  for (const found of functions) {
    const inside = isIn(found.fn, site.component);
    const own = found.calls.length
      ? found.calls.map((call) => momentInHook(call, found, site) ?? momentOf(call, site))
      : inside
        ? [momentOfFunction(found.fn, site)]
        : [];
    const moment = earliest(own);
    for (const rule of found.rules) stated.push({ rule, moment, by: found });
  }
  for (const rule of rulesWhileRendering(site)) stated.push({ rule, moment: 'change' });
  const kept: typeof stated = [];
  for (const one of stated) {
    const known = kept.find(({ rule }) => isSame(rule, one.rule));
    if (known) known.moment = earliest([known.moment, one.moment]);
    else kept.push(one);
  }
  return kept.map(({ rule, moment, by }) => ruleOf(rule, moment, by));
}

function isSame(a: StatedRule, b: StatedRule): boolean {
  return (
    a.at.node === b.at.node &&
    (a.key === b.key || a.key === undefined || b.key === undefined) &&
    a.message === b.message &&
    a.fields.join() === b.fields.join() &&
    JSON.stringify(a.constraint) === JSON.stringify(b.constraint)
  );
}

function ruleOf(rule: StatedRule, moment: Moment, by: RuleFunction | undefined): Rule {
  // a member of the group that holds the values goes by its own name
  const names = (field: string): boolean => field === rule.key || field.endsWith(`.${rule.key ?? ''}`);
  const own = rule.key !== undefined && !rule.fields.some(names);
  // the field that bears the message stands first
  const { key } = rule;
  const fields =
    key === undefined || own
      ? rule.fields
      : [...rule.fields.filter(names), ...rule.fields.filter((field) => !names(field))];
  const constraint: StatedRule['constraint'] =
    rule.constraint.kind === 'equal' && rule.constraint.to === fields[0]
      ? { kind: 'equal', to: fields[1] ?? '' }
      : rule.constraint;
  return {
    fields,
    kind: rule.constraint.kind === 'custom' ? 'custom' : ruleKindOf(rule.constraint),
    condition: rule.condition,
    message: rule.message,
    ...(rule.computed ? { computed: true } : {}),
    moment,
    stated: 'code',
    span: spanOf(rule.script.file, rule.at),
    constraint,
    ...(rule.guards.length ? { guards: rule.guards } : {}),
    ...(own && rule.key !== undefined ? { key: rule.key } : {}),
    ...(rule.key === undefined ? {} : { keyed: true }),
    ...(by ? { statedIn: { fn: spanOf(by.script.file, by.fn), piece: spanOf(by.script.file, rule.piece) } } : {}),
  };
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
  component.traverse({
    CallExpression(call) {
      for (const { fn, script: of, origin, given } of calledFunctions(call, site)) add(fn, of, given(fn), call, origin);
    },
  });
  for (const { fn, script: of, origin, names, call } of askedByReducer(site)) add(fn, of, names, call, origin);
  component.traverse({
    Function(fn) {
      if (
        fn.node !== component.node &&
        ![...found.values()].some((one) => one.fn.node === fn.node) &&
        !calledInPlace(fn)
      )
        add(fn, script, new Map(), undefined);
    },
  });
  return [...found.values()];
}

/** Functions that a reducer asks about the values: the group that holds them, or the new state as a whole. */
function askedByReducer({ reducer, lens }: RuleSite): (Omit<Called, 'given'> & {
  names: Names;
  call: NodePath<t.CallExpression>;
})[] {
  const found: ReturnType<typeof askedByReducer> = [];
  reducer?.fn.traverse({
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

/** A function that another one runs on every item of a list: what it gives is no message. */
function calledInPlace(fn: NodePath): boolean {
  const call = fn.parentPath;
  if (!call?.isCallExpression() || fn.listKey !== 'arguments') return false;
  const { callee } = call.node;
  return (
    t.isMemberExpression(callee) &&
    t.isIdentifier(callee.property) &&
    /^(map|filter|find|some|every|reduce|sort|flatMap)$/.test(callee.property.name)
  );
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

/** Rules whose messages are worked out while rendering: `const placeError = place ? '' : 'Where?'`. */
function rulesWhileRendering({ component, script, lens }: RuleSite): StatedRule[] {
  const found: StatedRule[] = [];
  if (!component.isFunction()) return found;
  const body = component.get('body') as NodePath;
  if (!body.isBlockStatement()) return found;
  const branches = body.get('body').filter((statement) => statement.isIfStatement() && !returns(statement));
  found.push(...rulesOfStatements(branches, script, lens));
  for (const statement of body.get('body')) {
    if (!statement.isVariableDeclaration()) continue;
    for (const declarator of statement.get('declarations')) {
      const value = declarator.get('init') as NodePath;
      const { id } = declarator.node;
      if (!value.node || !t.isIdentifier(id) || bare(value).isFunction() || bare(value).isCallExpression()) continue;
      found.push(
        ...rulesOfValue({ path: value, script }, fieldNamedBy(id.name, lens), lens).filter(
          ({ fields }) => fields.length > 0 && isErrorName(id.name),
        ),
      );
    }
  }
  return [...found, ...rulesBesideMessages(body, script, lens, blockingVariables(component))];
}

/** Whether a statement of a component ends it early. */
function returns(statement: NodePath): boolean {
  let found = false;
  statement.traverse({
    Function: (inner) => inner.skip(),
    ReturnStatement() {
      found = true;
    },
  });
  return found;
}

/** Words by which variables and elements for messages are known. */
export const errorWords = /err|problem|invalid|warn|message|fault|complaint|wrong|hint|issue|missing|alert|danger/i;

function isErrorName(name: string): boolean {
  return errorWords.test(name);
}

/** The field that a variable's name speaks of: `placeError`, `errorForPlace`. */
export function fieldNamedBy(name: string, lens: RuleLens): string | undefined {
  const plain = name
    .replace(/(Error|Problem|Message|Warning|Hint|Issue|Invalid)s?$/, '')
    .replace(/^(error|problem|message)(For|Of|In)?/, '');
  const lower = plain.charAt(0).toLowerCase() + plain.slice(1);
  return lens.kindOf(lower) === undefined ? undefined : lower;
}

/**
 * Conditions that stand right beside a message in the markup: `{weight > 2000 && <span class="warning">…</span>}`, or
 * `{tooHeavy && <small>…</small>}` where the same condition keeps the form from being sent.
 */
function rulesBesideMessages(
  body: NodePath,
  script: Script,
  lens: RuleLens,
  blocking: ReadonlySet<unknown>,
): StatedRule[] {
  const found: StatedRule[] = [];
  body.traverse({
    JSXExpressionContainer(container) {
      const value = container.get('expression') as NodePath;
      if (!value.isLogicalExpression({ operator: '&&' })) return;
      const shown = bare(value.get('right'));
      const test = bare(value.get('left'));
      const blocks = test.isIdentifier() && blocking.has(test.scope.getBinding(test.node.name));
      if (!shown.isJSXElement() || (!isErrorElement(shown.node) && !blocks)) return;
      const key = blocks ? fieldNamedBy(test.node.name, lens) : undefined;
      found.push(...rulesOfValue({ path: value, script }, key, lens, blocks));
    },
  });
  return found;
}

function isErrorElement(element: t.JSXElement): boolean {
  return element.openingElement.attributes.some(
    (attribute) =>
      t.isJSXAttribute(attribute) &&
      t.isJSXIdentifier(attribute.name) &&
      /^(className|role|id)$/.test(attribute.name.name) &&
      t.isStringLiteral(attribute.value) &&
      errorWords.test(attribute.value.value),
  );
}
