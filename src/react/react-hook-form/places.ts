import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import { quoted } from '../../source/style.js';
import { wholeLines } from '../../source/removal.js';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { keyText, typedAs, valuesWith } from '../package-leaving/apart.js';
import {
  asAttributes,
  commentsIn,
  depthOf,
  isSeenAt,
  nameIn,
  referencesTo,
  reindented,
  sayName,
  says,
  saysAt,
  stays,
  textIn,
} from '../package-leaving/leaving.js';
import type { MemberPlace } from '../package-leaving/members.js';
import { attributeOf, isTested, nameText, tiedBy } from '../package-leaving/ties.js';
import { shownWhen } from '../package-leaving/shown.js';
import { pascal } from '../form-names.js';
import { functionOf } from '../components.js';
import { relative } from '../package-leaving/sending.js';
import { callIn, runOf } from '../package-leaving/turns.js';
import type { FormNames, OwnRules, TakenApart } from './form.js';

/** Members that are status, the names they get and what they need. */
const held: Readonly<Record<string, { name: keyof FormNames; need: string }>> = {
  'formState.isSubmitting': { name: 'submitting', need: 'submitting' },
  'formState.isDirty': { name: 'dirty', need: 'dirty' },
  'formState.isValid': { name: 'valid', need: 'valid' },
  'formState.isSubmitted': { name: 'submitted', need: 'submitted' },
  'formState.submitCount': { name: 'attempts', need: 'attempts' },
};

/** Says what a member is without the package, at each place that takes it. */
export function sayMember(apart: TakenApart, { member, path }: MemberPlace): void {
  const { leaving, names, needs } = apart;
  const known = held[member];
  if (known) {
    needs.add(known.need);
    sayName(leaving, path, names[known.name]);
    return;
  }
  const done = calls[member]?.(apart, path) ?? false;
  const around = path.parentPath?.isCallExpression() && path.key === 'callee' ? path.parentPath : path;
  if (!done)
    stays(leaving, around, `${member.replace('formState.', '')} of the package is not said here without it yet`);
}

type Say = (apart: TakenApart, path: NodePath) => boolean;

function callOf(path: NodePath): NodePath<t.CallExpression> | undefined {
  return path.parentPath?.isCallExpression() && path.key === 'callee' ? path.parentPath : undefined;
}

/** The field that an argument names. */
function fieldIn({ fields }: TakenApart, name: NodePath | undefined): string | undefined {
  return name?.isStringLiteral() && fields.includes(name.node.value) ? name.node.value : undefined;
}

/** Values that a call asks for by their names: one, several, or all of them. */
export function valuesAsked(apart: TakenApart, [first, ...more]: (NodePath | undefined)[]): string | undefined {
  const { names } = apart;
  if (!first) return names.values;
  if (more.length) return undefined;
  if (first.isArrayExpression()) {
    const fields = first.get('elements').map((one) => fieldIn(apart, one as NodePath));
    return fields.every((one) => one !== undefined)
      ? `[${fields.map((one) => `${names.values}.${one}`).join(', ')}]`
      : undefined;
  }
  const field = fieldIn(apart, first);
  return field === undefined ? undefined : `${names.values}.${field}`;
}

const calls: Readonly<Record<string, Say>> = {
  'formState.errors': sayError,
  'formState.touchedFields'(apart, path) {
    const asked = memberAround(path);
    if (!asked || asked.key === undefined || !apart.fields.includes(asked.key) || !isTested(asked.member)) return false;
    if (!isSeenAt(apart.leaving, path, apart.names.touched)) return false;
    apart.needs.add('touched');
    says(apart.leaving, asked.member, `${apart.names.touched}.${asked.key}`);
    return true;
  },
  register: sayRegistered,
  control(apart, path) {
    // components and hooks that are given it are said as a whole
    const at = attributeOf(path);
    if (at?.name === 'control' && (tagOf(at.element) === 'Controller' || apart.watchers.has(tagOf(at.element))))
      return true;
    const property = path.parentPath;
    const call = property?.isObjectProperty() ? property.parentPath.parentPath : undefined;
    return call?.isCallExpression() === true && t.isIdentifier(call.node.callee, { name: 'useWatch' });
  },
  handleSubmit(apart, path) {
    const call = callOf(path);
    if (!call) return false;
    const [given, refused, ...more] = call.get('arguments') as NodePath[];
    if (given?.node !== apart.send?.given.node || more.length) return false;
    if (refused && !sayRefused(apart, refused)) return false;
    apart.needs.add('handleSubmit');
    if (attributeOf(call)?.name === 'onSubmit') {
      if (!isSeenAt(apart.leaving, path, apart.names.handleSubmit)) return false;
      says(apart.leaving, call, apart.names.handleSubmit);
      return true;
    }
    const declarator = call.parentPath;
    if (declarator.isVariableDeclarator() && given) return sayDeclared(apart, declarator, given);
    // `(event) => void handleSubmit(send)(event)`
    const outer = callOf(call);
    if (!outer || outer.node.arguments.length !== 1) return false;
    says(apart.leaving, call, apart.names.handleSubmit);
    return true;
  },
  watch: sayAsked,
  getValues: sayAsked,
  setValue: saySet,
  reset(apart, path) {
    const call = callOf(path);
    if (!call) return false;
    const [next, ...more] = call.get('arguments') as NodePath[];
    if (more.length || !isSeenAt(apart.leaving, path, apart.names.reset)) return false;
    apart.needs.add('reset').add(next ? 'resetTo' : 'resetBack');
    apart.leaving.turns.push({ path: call, does: 'sets' });
    if (!path.isIdentifier({ name: apart.names.reset })) says(apart.leaving, path, apart.names.reset);
    return true;
  },
  setError(apart, path) {
    const call = callOf(path);
    const [name, given] = (call?.get('arguments') ?? []) as NodePath[];
    const message = given && memberNamed(given, 'message');
    if (!call || !name || !message) return false;
    const { names, needs, leaving } = apart;
    if (name.isStringLiteral() && /^root(\.|$)/.test(name.node.value)) {
      needs.add('failure');
      says(leaving, call, () => `${names.setFailure}(${textIn(leaving, message)})`);
      return true;
    }
    const field = fieldIn(apart, name);
    if (name.isStringLiteral() && field === undefined) return false;
    needs.add('errors').add('setErrors');
    const key = (): string => (field === undefined ? `[${textIn(leaving, name)}]` : keyText(field));
    says(leaving, call, () => {
      const text = textIn(leaving, message);
      const pair = key() === text ? text : `${key()}: ${text}`;
      return `${names.setErrors}((old) => ({ ...old, ${pair} }))`;
    });
    return true;
  },
  clearErrors(apart, path) {
    const call = callOf(path);
    const [name, ...more] = (call?.get('arguments') ?? []) as NodePath[];
    if (!call || more.length) return false;
    const { names, needs, leaving } = apart;
    if (name?.isStringLiteral() && /^root(\.|$)/.test(name.node.value)) {
      needs.add('failure');
      says(leaving, call, `${names.setFailure}(${quoted('', leaving.context.style)})`);
      return true;
    }
    const field = fieldIn(apart, name);
    if (name && field === undefined) return false;
    needs.add('errors').add('setErrors');
    says(
      leaving,
      call,
      name ? `${names.setErrors}((old) => ({ ...old, ${keyText(field ?? '')}: undefined }))` : `${names.setErrors}({})`,
    );
    return true;
  },
  trigger(apart, path) {
    const call = callOf(path);
    const field = fieldIn(apart, call?.get('arguments')[0]);
    const alone =
      call?.parentPath.isExpressionStatement() === true ||
      call?.parentPath.isUnaryExpression({ operator: 'void' }) === true;
    if (!call || field === undefined || call.node.arguments.length > 1 || !alone) return false;
    apart.needs.add('errors').add('recheck');
    apart.leaving.turns.push({ path: call, does: 'reads' });
    says(apart.leaving, call, `${apart.names.recheck}(${apart.names.values}, ${nameText(apart, field)})`);
    return true;
  },
};

/** What is done where something is wrong: a function that asks nothing of the package. */
function sayRefused(apart: TakenApart, given: NodePath): boolean {
  const { leaving } = apart;
  const fn = functionOf(given);
  if (!fn || fn.node.async || fn.node.params.length) return false;
  const body = fn.get('body') as NodePath;
  if (fn.node !== given.node) apart.refused = () => `${textIn(leaving, given)}();`;
  else if (body.isBlockStatement()) return false;
  else apart.refused = () => `${textIn(leaving, body)};`;
  return true;
}

/** `const send = handleSubmit(async (values) => …)`: what sends gets a name of its own, and the form calls by the old one. */
function sayDeclared(apart: TakenApart, declarator: NodePath<t.VariableDeclarator>, given: NodePath): boolean {
  const { leaving, names, sendName } = apart;
  const id = declarator.get('id') as NodePath;
  const init = declarator.get('init') as NodePath;
  if (!id.isIdentifier({ name: names.handleSubmit }) || !given.isArrowFunctionExpression() || sendName === undefined)
    return false;
  const references = id.scope.getBinding(id.node.name)?.referencePaths ?? [];
  if (!references.every((one) => attributeOf(one)?.name === 'onSubmit')) return false;
  says(leaving, id, sendName);
  says(leaving, init, () => textIn(leaving, given));
  return true;
}

function sayAsked(apart: TakenApart, path: NodePath): boolean {
  const call = callOf(path);
  if (!call) return false;
  const text = valuesAsked(apart, call.get('arguments') as NodePath[]);
  if (text === undefined || !isSeenAt(apart.leaving, call, apart.names.values)) return false;
  const declarator = call.parentPath;
  const field = fieldIn(apart, call.get('arguments')[0]);
  if (declarator.isVariableDeclarator() && t.isIdentifier(declarator.node.id) && field !== undefined)
    apart.watched.set(declarator.node.id.name, field);
  apart.leaving.turns.push({ path: call, does: 'reads' });
  says(apart.leaving, call, text);
  return true;
}

/** Which message an error has, by what is asked of it. */
function sayError(apart: TakenApart, path: NodePath): boolean {
  const { leaving, names, needs, fields } = apart;
  const own = memberAround(path);
  if (!own || !isSeenAt(leaving, path, names.errors)) return false;
  const { key, member } = own;
  if (key === 'root') {
    const inner = memberAround(member);
    const whole = inner && inner.key !== 'message' ? inner.member : member;
    needs.add('failure');
    return sayMessage(apart, whole, names.failure);
  }
  if (key !== undefined && !fields.includes(key)) return false;
  needs.add('errors');
  const text =
    key === undefined
      ? `${names.errors}[${textIn(leaving, { node: (member.node as t.MemberExpression).property })}]`
      : `${names.errors}.${key}`;
  return sayMessage(apart, member, text);
}

/** The member that is asked of a path, with its name; the name is undefined where it is worked out. */
function memberAround(path: NodePath): { key: string | undefined; member: NodePath } | undefined {
  const member = path.parentPath;
  const node = member?.node;
  if (!member || path.key !== 'object' || !(t.isMemberExpression(node) || t.isOptionalMemberExpression(node)))
    return undefined;
  if (node.computed) return { key: t.isStringLiteral(node.property) ? node.property.value : undefined, member };
  return t.isIdentifier(node.property) ? { key: node.property.name, member } : undefined;
}

function sayMessage(apart: TakenApart, error: NodePath, text: string): boolean {
  const asked = memberAround(error);
  if (asked?.key === 'message') {
    says(apart.leaving, asked.member, text);
    return true;
  }
  if (asked || !isTested(error)) return false;
  says(apart.leaving, error, text);
  return true;
}

/** Notes that a field is registered at a place, with the rules that are stated there. */
export function registers(
  apart: TakenApart,
  { field, rules, at, element, numeric }: Omit<OwnRules, 'shownWhen' | 'at'> & { at: NodePath },
): void {
  const { leaving, schema } = apart;
  if (!rules && !schema) return;
  const ignored = schema && rules?.get('properties').find(({ node }) => !aboutValues(node));
  // the package asks its schema alone
  if (ignored) stays(leaving, ignored, 'the schema checks in place of this rule, which the package passes over');
  const when = shownWhen(apart, element);
  if (when) apart.rules.push({ field, rules, at: at.node.start ?? 0, shownWhen: when, numeric, element });
  else stays(leaving, rules ?? at, 'when it is shown is no plain condition');
}

function aboutValues(node: t.Node): boolean {
  return (
    t.isObjectProperty(node) && t.isIdentifier(node.key) && /^(?:valueAsNumber|deps|onChange)$/.test(node.key.name)
  );
}

/** `{...register('town', rules)}`: the attributes of a controlled element. */
function sayRegistered(apart: TakenApart, path: NodePath): boolean {
  const { leaving } = apart;
  const call = callOf(path);
  const spread = call?.parentPath;
  const element = spread?.parentPath?.parentPath;
  if (!call || !spread?.isJSXSpreadAttribute() || !element?.isJSXElement()) return false;
  const tag = tagOf(element);
  const [name, rules, ...more] = call.get('arguments') as (NodePath | undefined)[];
  const field = fieldIn(apart, name);
  if (field === undefined || more.length || !/^(input|select|textarea)$/.test(tag)) return false;
  if (rules && !rules.isObjectExpression()) return false;
  const own = new Set(attributesOf(element).map((one) => one.name));
  if (['onChange', 'onBlur', 'checked', 'ref', 'defaultValue', 'defaultChecked'].some((one) => own.has(one)))
    return false;
  const further = rules && memberNamed(rules, 'onChange');
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
  registers(apart, { field, rules, at: path, element, numeric });
  const change = besides && nameIn(leaving, `change${pascal(field)}`, `set${pascal(field)}Value`);
  const tiedPlain = (): string[] | undefined =>
    tiedBy(apart, { element, tag, field, at: path }, own, apart.needs.has('handleBlur'));
  if (tiedPlain() === undefined) return true;
  if (besides && change !== undefined) {
    const calls = (): string => changeCall(tiedPlain() ?? []);
    const told = (): string[] => [...commentsIn(leaving, rules.node, [further.node]), `${calls()};`, ...besides()];
    apart.besides.set(field, { name: change, tag, lines: told });
  }
  const tied = (): string[] | undefined =>
    tiedPlain()?.map((one) => (change !== undefined && one.startsWith('onChange=') ? `onChange={${change}}` : one));
  says(leaving, spread, () =>
    asAttributes(leaving, spread, [...(own.has('name') ? [] : [`name="${field}"`]), ...(tied() ?? [])]),
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

/** Calls of `setValue` one after the other: one change of all that they set. */
function saySet(apart: TakenApart, path: NodePath): boolean {
  const { leaving, names, needs } = apart;
  const call = callOf(path);
  const first = call && setPair(apart, call);
  if (!call || !first || !isSeenAt(leaving, call, names.values)) return false;
  const statement = call.parentPath;
  const run = statement.isExpressionStatement() ? runOf(statement, (one) => setIn(apart, one)) : [];
  if (run.length && run[0]?.statement.node !== statement.node) return true;
  const sets = run.length ? run.map(({ set }) => set) : [first];
  const checked = sets.flatMap(({ checks, field }) => (checks ? [field] : []));
  const pairs = (): string => sets.map(({ pair }) => pair()).join(', ');
  leaving.turns.push({ path: call, does: checked.length ? 'whole' : 'sets' });
  if (!checked.length) {
    says(leaving, call, () => `${names.setValues}((old) => ({ ...old, ${pairs()} }))`);
  } else {
    if (!run.length) return false;
    needs.add('errors').add('recheck');
    const { newline, semicolon } = leaving.context.style;
    const next = leaving.context.freeName('next', 'nextValues');
    says(leaving, statement, () =>
      [
        `const ${typedAs(next, apart.type)} = ${valuesWith(apart, pairs())}${semicolon}`,
        `${names.setValues}(${next})${semicolon}`,
        `${names.recheck}(${next}, ${checked.map((name) => nameText(apart, name)).join(', ')})${semicolon}`,
      ].join(newline + depthOf(leaving, statement)),
    );
  }
  for (const { statement: other } of run.slice(1)) {
    const { start, end } = wholeLines(leaving.script.text, { start: other.node.start ?? 0, end: other.node.end ?? 0 });
    saysAt(leaving, start, end, '');
  }
  return true;
}

/** What a statement sets that does nothing else. */
function setIn(apart: TakenApart, statement: NodePath): SetPair | undefined {
  const call = callIn(statement);
  if (!call) return undefined;
  const { callee } = call.node;
  const isSet = apart.form.taken.places.some(({ member, path: at }) => member === 'setValue' && at.node === callee);
  return isSet ? setPair(apart, call) : undefined;
}

interface SetPair {
  field: string;
  pair(): string;
  checks: boolean;
}

function setPair(apart: TakenApart, call: NodePath<t.CallExpression>): SetPair | undefined {
  const [name, value, options, ...more] = call.get('arguments') as (NodePath | undefined)[];
  const field = fieldIn(apart, name);
  if (field === undefined || !value || more.length) return undefined;
  const flags = options?.isObjectExpression() ? options.node.properties : [];
  if (options && !options.isObjectExpression()) return undefined;
  const isOn = (flag: string): boolean | undefined => {
    const found = flags.find((one) => t.isObjectProperty(one) && t.isIdentifier(one.key, { name: flag }));
    if (!found) return false;
    return t.isObjectProperty(found) && t.isBooleanLiteral(found.value) ? found.value.value : undefined;
  };
  const checks = isOn('shouldValidate');
  if (
    checks === undefined ||
    flags.length !== ['shouldValidate', 'shouldDirty', 'shouldTouch'].filter((one) => isOn(one)).length
  )
    return undefined;
  const pair = (): string => {
    const text = textIn(apart.leaving, value);
    return keyText(field) === text ? text : `${keyText(field)}: ${text}`;
  };
  return { field, pair, checks };
}
