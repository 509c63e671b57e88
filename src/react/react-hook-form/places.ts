import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import { quoted } from '../../source/style.js';
import { tagOf } from '../jsx-controls.js';
import { keyText } from '../package-leaving/apart.js';
import { isSeenAt, sayName, says, stays, textIn } from '../package-leaving/leaving.js';
import { callOf, type MemberPlace } from '../package-leaving/members.js';
import { attributeOf, heldBy, isTested, nameText } from '../package-leaving/ties.js';
import { functionOf } from '../components.js';
import { groupsOf, isField } from '../package-leaving/nested.js';
import { shownWhen } from '../package-leaving/shown.js';
import { errorOf, fieldIn, ownFieldIn, type FormNames, type TakenApart } from './form.js';
import { sayRowErrors } from './row-errors.js';
import { memberAround, sayMessage } from './messages.js';
import { sayRegistered } from './registered.js';
import { saySet } from './setters.js';

/** Members that are status, the names they get and what they need. */
const held: Readonly<Record<string, { name: keyof FormNames; need: string }>> = {
  'formState.isSubmitting': { name: 'submitting', need: 'submitting' },
  'formState.isDirty': { name: 'dirty', need: 'dirty' },
  'formState.isValid': { name: 'valid', need: 'valid' },
  'formState.isSubmitted': { name: 'submitted', need: 'submitted' },
  'formState.isSubmitSuccessful': { name: 'succeeded', need: 'succeeded' },
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
  const own = ownFieldIn(apart, first);
  if (own) return heldBy(apart, own);
  const [list, index] = wholeRow(apart, first) ?? [];
  return list === undefined || !index ? undefined : `${names.values}.${list}[${textIn(apart.leaving, index)}]`;
}

/** The row that a name spells: `lines.${index}`. */
function wholeRow({ fields }: TakenApart, name: NodePath): [string, NodePath] | undefined {
  if (!name.isTemplateLiteral()) return undefined;
  const [lead, rest, ...more] = name.node.quasis.map(({ value }) => value.cooked ?? '');
  const [index] = name.get('expressions') as NodePath[];
  const list = /^([\w$]+)\.$/.exec(lead ?? '')?.[1];
  return index && rest === '' && !more.length && list !== undefined && fields.includes(list)
    ? [list, index]
    : undefined;
}

const calls: Readonly<Record<string, Say>> = {
  'formState.errors': sayError,
  'formState.touchedFields'(apart, path) {
    const asked = memberAround(path);
    if (!asked || asked.key === undefined || !apart.fields.includes(asked.key) || !isTested(asked.member)) return false;
    if (groupsOf(apart).includes(asked.key) || apart.rows.has(asked.key)) return false;
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
    return (
      call?.isCallExpression() === true &&
      t.isIdentifier(call.node.callee) &&
      /^use(?:Watch|FieldArray|Controller|FormState)$/.test(call.node.callee.name)
    );
  },
  handleSubmit(apart, path) {
    const call = callOf(path);
    if (!call) return false;
    const [given, refused, ...more] = call.get('arguments') as NodePath[];
    if (given?.node !== apart.send?.given.node || more.length) return false;
    if (refused && !sayRefused(apart, refused)) return false;
    apart.needs.add('handleSubmit');
    const event = attributeOf(call)?.name;
    if (event === 'onSubmit' || event === 'onClick') {
      if (!isSeenAt(apart.leaving, path, apart.names.handleSubmit)) return false;
      if (event === 'onClick') apart.needs.add('submit by click');
      says(apart.leaving, call, apart.names.handleSubmit);
      return true;
    }
    const declarator = call.parentPath;
    if (declarator.isVariableDeclarator() && given) return sayDeclared(apart, declarator, given);
    // `(event) => void handleSubmit(send)(event)`
    const outer = callOf(call);
    if (!outer || outer.node.arguments.length > 1) return false;
    if (!outer.node.arguments.length) apart.needs.add('submit alone');
    // it sends the values of its view
    apart.leaving.turns.push({ path: call, does: 'reads' });
    says(apart.leaving, call, apart.names.handleSubmit);
    return true;
  },
  watch: sayAsked,
  getValues(apart, path) {
    // what a view asks by it is as old as the view
    return !isStale(apart, path) && sayAsked(apart, path);
  },
  setValue(apart, path) {
    // what sets the state is the same at every view
    if (isFollowed(path) && isSeenAt(apart.leaving, path, apart.names.setValues)) {
      says(apart.leaving, path, apart.names.setValues);
      return true;
    }
    return saySet(apart, path);
  },
  reset(apart, path) {
    if (isFollowed(path)) {
      apart.needs.add('reset stays');
      sayName(apart.leaving, path, apart.names.reset);
      return true;
    }
    const call = callOf(path);
    if (!call) return false;
    const [next, ...more] = call.get('arguments') as NodePath[];
    if (more.length || !isSeenAt(apart.leaving, path, apart.names.reset)) return false;
    apart.needs.add('reset').add(next ? 'resetTo' : 'resetBack');
    apart.leaving.turns.push({ path: call, does: 'sets' });
    if (!path.isIdentifier({ name: apart.names.reset })) says(apart.leaving, path, apart.names.reset);
    return true;
  },
  setFocus(apart, path) {
    const call = callOf(path);
    const [name, ...more] = (call?.get('arguments') ?? []) as NodePath[];
    if (!call || more.length || fieldIn(apart, name) === undefined) return false;
    apart.needs.add('focusField');
    sayName(apart.leaving, path, apart.names.focusField);
    return true;
  },
  resetField(apart, path) {
    const call = callOf(path);
    const [name, ...more] = (call?.get('arguments') ?? []) as NodePath[];
    const field = fieldIn(apart, name);
    // a list would need new keys, and a value inside of another one another name
    if (!call || more.length || field === undefined || field.includes('.') || apart.kinds.get(field) === 'rows')
      return false;
    apart.needs.add('reset field');
    apart.leaving.turns.push({ path: call, does: 'sets' });
    sayName(apart.leaving, path, apart.names.resetField);
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
    const fields = call && triggered(apart, call);
    if (!call || !fields) return false;
    const { needs, leaving, names } = apart;
    const alone = call.parentPath.isExpressionStatement() || call.parentPath.isUnaryExpression({ operator: 'void' });
    const awaited = call.parentPath.isAwaitExpression() ? call.parentPath : undefined;
    if (!alone && !awaited) return false;
    needs.add('errors').add('recheck');
    if (awaited && !awaited.parentPath.isExpressionStatement()) needs.add('recheck answers');
    leaving.turns.push({ path: call, does: 'reads' });
    says(leaving, awaited ?? call, `${names.recheck}(${[names.values, ...fields].join(', ')})`);
    return true;
  },
};

/** The fields that a call checks, as arguments: one, several, or all of them. */
function triggered(apart: TakenApart, call: NodePath<t.CallExpression>): string[] | undefined {
  const [given, ...more] = call.get('arguments') as (NodePath | undefined)[];
  if (more.length) return undefined;
  if (!given) {
    const plain = !groupsOf(apart).length && !apart.rows.size && !apart.lists.size;
    return plain ? apart.fields.map((name) => nameText(apart, name)) : undefined;
  }
  const names = given.isArrayExpression() ? given.get('elements') : [given];
  const fields = names.map((one) => fieldIn(apart, one as NodePath));
  return fields.every((one) => one !== undefined) ? fields.map((one) => nameText(apart, one)) : undefined;
}

/** Whether an effect, or a function that is kept, follows a value: it stands in the list of what that asks for. */
function isFollowed({ parentPath: list }: NodePath): boolean {
  const call = list?.isArrayExpression() && list.key === 1 ? list.parentPath : undefined;
  const callee = call?.isCallExpression() ? call.node.callee : undefined;
  const name = t.isMemberExpression(callee) ? callee.property : callee;
  return t.isIdentifier(name) && /^use(?:(?:Layout)?Effect|Callback|Memo)$/.test(name.name);
}

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
  if (!call || asksUnset(apart, call)) return false;
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

/**
 * Whether a view asks for a value without following it: the package draws nothing anew when that changes. Where the value is
 * shown at a time when its own control is not, it changes at no such time.
 */
function isStale(apart: TakenApart, path: NodePath): boolean {
  const { leaving, form } = apart;
  const call = callOf(path);
  const fn = path.findParent((one) => one.isFunction());
  if (!call || fn?.node !== leaving.site.component.path.node) return false;
  const [name] = call.get('arguments') as (NodePath | undefined)[];
  const field = name?.isStringLiteral() ? name.node.value : undefined;
  const isFollowed = form.taken.places.some(({ member, path: other }) => {
    const asked = callOf(other)?.get('arguments')[0] as NodePath | undefined;
    return member === 'watch' && (!asked || (asked.isStringLiteral() && asked.node.value === field));
  });
  const controls = form.taken.places.filter(({ member, path: other }) => {
    const asked = callOf(other)?.get('arguments')[0] as NodePath | undefined;
    return member === 'register' && asked?.isStringLiteral() === true && asked.node.value === field;
  });
  const isAlways = (one: NodePath): boolean => shownWhen(apart, one)?.length === 0;
  return (
    !isFollowed &&
    (field === undefined || !controls.length || controls.some((one) => isAlways(one.path)) || isAlways(path))
  );
}

/** Whether a view asks for a value that the form only has when its control is there, and may see that it is none yet. */
function asksUnset({ unset, leaving }: TakenApart, call: NodePath<t.CallExpression>): boolean {
  const fn = call.findParent((one) => one.isFunction());
  if (!unset.size || fn?.node !== leaving.site.component.path.node) return false;
  const asked = call.get('arguments')[0] as NodePath | undefined;
  if (asked && !asked.isStringLiteral()) return true;
  const pair = asked?.isStringLiteral() ? unset.get(asked.node.value) : undefined;
  if (asked && pair === undefined) return false;
  const { parent } = call;
  const other =
    t.isBinaryExpression(parent, { operator: '===' }) && t.isStringLiteral(parent.right) ? parent.right : undefined;
  return other === undefined || pair?.endsWith(`: '${other.value}'`) !== false;
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
  if (key !== undefined && (apart.lists.has(key) || apart.rows.has(key))) return sayRowErrors(apart, key, member);
  const inner = key === undefined ? undefined : nestedError(apart, key, member);
  if (inner) return sayMessage(apart, inner.member, errorOf(apart, { field: inner.field }), inner.field);
  // what is kept of values inside of another one has their names, and nothing has its own
  const groups = groupsOf(apart);
  if (key === undefined ? groups.length > 0 : groups.includes(key)) return false;
  const text =
    key === undefined
      ? `${names.errors}[${textIn(leaving, { node: (member.node as t.MemberExpression).property })}]`
      : `${names.errors}.${key}`;
  return sayMessage(apart, member, text, key ?? '');
}

/** What is asked of the errors of a value that holds others: `errors.place?.town`. */
function nestedError(
  apart: TakenApart,
  field: string,
  path: NodePath,
): { field: string; member: NodePath } | undefined {
  const asked = memberAround(path);
  if (asked?.key === undefined) return undefined;
  const name = `${field}.${asked.key}`;
  return isField(apart, name) ? { field: name, member: asked.member } : nestedError(apart, name, asked.member);
}
