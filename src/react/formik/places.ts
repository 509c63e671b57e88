import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { callOf, type MemberPlace } from '../package-leaving/members.js';
import { otherwise } from '../package-leaving/conditions.js';
import {
  asAttributes,
  isSeenAt,
  referencesTo,
  sayName,
  says,
  stays,
  takeStatement,
  textIn,
} from '../package-leaving/leaving.js';
import { attributesOf, tagOf } from '../jsx-controls.js';
import { keyText } from '../package-leaving/apart.js';
import { groupsOf, isField, keptMember } from '../package-leaving/nested.js';
import { attributeOf, changeHandler, fieldNamed } from '../package-leaving/ties.js';
import { changeOf, formikTies, saySetter, tiedTo } from './changes.js';
import type { FormNames, TakenApart } from './form.js';

/** Members that are values or status, the names they get and what they need. */
const held: Readonly<Record<string, { name: keyof FormNames; need: string | undefined }>> = {
  values: { name: 'values', need: undefined },
  errors: { name: 'errors', need: 'errors' },
  touched: { name: 'touched', need: 'touched' },
  status: { name: 'status', need: 'status' },
  isSubmitting: { name: 'submitting', need: 'submitting' },
  submitCount: { name: 'attempts', need: 'attempts' },
  dirty: { name: 'dirty', need: 'dirty' },
  isValid: { name: 'valid', need: 'valid' },
};

/** Says what a member is without the package, at each place that takes it. */
export function sayMember(apart: TakenApart, place: MemberPlace): void {
  const { leaving, names, needs } = apart;
  const { member, path } = place;
  const known = held[member];
  if (known) {
    if (known.need) needs.add(known.need);
    if (member === 'errors') apart.asked.push({ gated: isGated(path, apart) });
    if (/^(?:errors|touched)$/.test(member) && groupsOf(apart).length) {
      if (sayInner(apart, path, names[known.name])) return;
      if (!asksPlainly(apart, path)) stays(leaving, path, 'it looks for what is kept of values inside of others');
    }
    sayName(leaving, path, names[known.name]);
    return;
  }
  const done = calls[member]?.(apart, path) ?? false;
  if (!done) stays(leaving, whole(path), `${member} of the package is not said here without it yet`);
}

/** Whether what is kept of the fields is asked for one that holds no others, or only how much there is of it. */
function asksPlainly(apart: TakenApart, path: NodePath): boolean {
  const { parentPath: around } = path;
  const node = around?.node;
  if ((t.isMemberExpression(node) || t.isOptionalMemberExpression(node)) && path.key === 'object')
    return !node.computed && t.isIdentifier(node.property) && !groupsOf(apart).includes(node.property.name);
  const isCounted =
    around?.isCallExpression() === true &&
    /^Object\.keys$/.test(around.get('callee').toString()) &&
    t.isMemberExpression(around.parent) &&
    t.isBinaryExpression(around.parentPath.parent) &&
    t.isNumericLiteral(around.parentPath.parent.right, { value: 0 });
  return isCounted;
}

/** What is kept of a field inside of another value has its name: `errors.place?.town` is `errors['place.town']`. */
function sayInner(apart: TakenApart, path: NodePath, held: string): boolean {
  let [member, field] = [path, ''];
  for (;;) {
    const around = member.parentPath;
    const node = around?.node;
    const isMember = t.isMemberExpression(node) || t.isOptionalMemberExpression(node);
    if (!around || !isMember || member.key !== 'object' || node.computed || !t.isIdentifier(node.property))
      return false;
    field = field === '' ? node.property.name : `${field}.${node.property.name}`;
    member = around;
    if (!field.includes('.') && !groupsOf(apart).includes(field)) return false;
    if (field.includes('.') && isField(apart, field)) break;
  }
  if (!isSeenAt(apart.leaving, path, held)) return false;
  says(apart.leaving, member, held + keptMember(apart, field));
  return true;
}

/** The call around a member, else the member. */
function whole(path: NodePath): NodePath {
  return path.parentPath?.isCallExpression() && path.key === 'callee' ? path.parentPath : path;
}

type Say = (apart: TakenApart, path: NodePath) => boolean;

/** Says a call in other words, where its arguments are as many as they may be. */
function sayCall(
  path: NodePath,
  apart: TakenApart,
  text: (call: NodePath<t.CallExpression>) => string | undefined,
): boolean {
  const call = callOf(path);
  if (!call) return false;
  const first = text(call);
  if (first === undefined) return false;
  says(apart.leaving, call, () => text(call) ?? first);
  return true;
}

/** Notes what a place does to the values, once. */
function note({ leaving }: TakenApart, path: NodePath, does: 'whole' | 'sets'): void {
  if (!leaving.turns.some((one) => one.path === path)) leaving.turns.push({ path, does });
}

/** Whether a handler may be handed over as it is: the control gives text, and says its name. */
function sayHandler(apart: TakenApart, path: NodePath, event: 'onChange' | 'onBlur'): boolean {
  const { leaving, names, needs } = apart;
  const call = callOf(path);
  const at = attributeOf(path);
  if (at?.name === event) {
    const field = fieldNamed(apart, at.element);
    const named = attributesOf(at.element).some(({ name }) => name === 'name');
    if (event === 'onBlur') {
      if (!named) return false;
      needs.add('touched').add('handleBlur');
      apart.left.add(tagOf(at.element));
      sayName(leaving, path, names.handleBlur);
      return true;
    }
    if (field === undefined) return false;
    const handler = changeHandler(apart, tiedTo(at.element, field, path));
    if (handler === undefined) return true;
    if (handler === names.handleChange) sayName(leaving, path, handler);
    else says(leaving, path, () => changeHandler(apart, tiedTo(at.element, field, path)) ?? '');
    return true;
  }
  if (!call) return false;
  if (event === 'onChange') return saySetter(apart, call);
  // `(event) => { handleBlur(event); … }`
  const [given, ...more] = call.get('arguments') as NodePath[];
  const fn = call.findParent((parent) => parent.isFunction());
  const outer = fn && attributeOf(fn);
  const [parameter] = fn?.isFunction() ? fn.node.params : [];
  if (!given?.isIdentifier() || more.length || !outer || outer.name !== event) return false;
  if (fieldNamed(apart, outer.element) === undefined || !t.isIdentifier(parameter, { name: given.node.name }))
    return false;
  needs.add('touched').add('handleBlur');
  apart.left.add(tagOf(outer.element));
  sayName(leaving, path, names.handleBlur);
  return true;
}

/** Whether a place sends the form: by its own event, by that of a button, or by a call. */
function sendsAt({ needs, leaving }: TakenApart, path: NodePath): boolean {
  const event = attributeOf(path)?.name;
  const call = callOf(path);
  if (event === 'onSubmit') return true;
  if (event === 'onClick') {
    needs.add('submit by click');
    return true;
  }
  const [given, ...more] = call?.node.arguments ?? [];
  if (!call || more.length || (given && !t.isIdentifier(given))) return false;
  needs.add(given ? 'submit by click' : 'submit alone');
  // it sends the values of its view
  leaving.turns.push({ path: call, does: 'reads' });
  return true;
}

const calls: Readonly<Record<string, Say>> = {
  handleChange: (apart, path) => sayHandler(apart, path, 'onChange'),
  handleBlur: (apart, path) => sayHandler(apart, path, 'onBlur'),
  handleSubmit(apart, path) {
    if (!sendsAt(apart, path)) return false;
    apart.needs.add('handleSubmit');
    sayName(apart.leaving, path, apart.names.handleSubmit);
    return true;
  },
  submitForm(apart, path) {
    // what waits for it would be told an answer
    const alone = callOf(path)?.parentPath;
    const isAlone = !alone || alone.isExpressionStatement() || alone.isArrowFunctionExpression();
    if (!isAlone || !sendsAt(apart, path)) return false;
    apart.needs.add('handleSubmit');
    sayName(apart.leaving, path, apart.names.handleSubmit);
    return true;
  },
  handleReset(apart, path) {
    const at = attributeOf(path)?.name;
    if (at === 'onClick') {
      apart.needs.add('reset').add('resetBack');
      says(apart.leaving, path, `() => ${apart.names.reset}()`);
      return true;
    }
    if (at !== 'onReset') return false;
    apart.needs.add('handleReset').add('reset').add('resetBack');
    sayName(apart.leaving, path, apart.names.handleReset);
    return true;
  },
  getFieldProps(apart, path) {
    const call = callOf(path);
    const spread = call?.parentPath;
    const element = spread?.parentPath?.parentPath;
    if (!call || !spread?.isJSXSpreadAttribute() || !element?.isJSXElement()) return false;
    const [given] = call.node.arguments;
    const named = t.isObjectExpression(given)
      ? given.properties.find((one) => t.isObjectProperty(one) && t.isIdentifier(one.key, { name: 'name' }))
      : undefined;
    const name = t.isStringLiteral(given)
      ? given.value
      : t.isObjectProperty(named) && t.isStringLiteral(named.value)
        ? named.value.value
        : undefined;
    if (name === undefined || !isField(apart, name)) return false;
    const own = new Set(attributesOf(element).map((one) => one.name));
    const clash = ['value', 'checked', 'onChange', 'onBlur'].find((one) => own.has(one));
    if (
      clash !== undefined &&
      !(
        clash === 'value' &&
        /^(checkbox|radio)$/.test(attributesOf(element).find((one) => one.name === 'type')?.text ?? '')
      )
    )
      return false;
    const tied = (): string[] | undefined => formikTies(apart, tiedTo(element, name, path), own);
    if (tied() === undefined) return true;
    says(apart.leaving, spread, () =>
      asAttributes(apart.leaving, spread, [...(own.has('name') ? [] : [`name="${name}"`]), ...(tied() ?? [])]),
    );
    return true;
  },
  setFieldValue(apart, path) {
    const call = callOf(path);
    return call !== undefined && saySetter(apart, call);
  },
  setFieldTouched: (apart, path) =>
    sayCall(path, apart, (call) => {
      const [name, isLeft, checks, ...more] = call.get('arguments') as (NodePath | undefined)[];
      const isTrue = !isLeft || isLeft.isBooleanLiteral({ value: true });
      const isChecked = !checks || checks.isBooleanLiteral({ value: true });
      if (!name?.isStringLiteral() || !isField(apart, name.node.value) || !isTrue || more.length) return undefined;
      if (!isChecked && !checks.isBooleanLiteral({ value: false })) return undefined;
      const { names, needs, leaving } = apart;
      needs.add('touched');
      if (!isChecked) return `${names.setTouched}((old) => ({ ...old, ${keyText(name.node.value)}: true }))`;
      needs.add('left');
      if (!leaving.turns.some((one) => one.path === call)) leaving.turns.push({ path: call, does: 'reads' });
      return `${names.left}(${textIn(leaving, name)})`;
    }),
  setValues(apart, path) {
    const [given] = (callOf(path)?.get('arguments') ?? []) as NodePath[];
    const made = given?.isFunction() ? madeOfValues(apart, given) : given;
    return sayCall(path, apart, (call) => {
      if (!made || call.node.arguments.length > 1) return undefined;
      note(apart, call, 'whole');
      return changeOf(apart, textIn(apart.leaving, made));
    });
  },
  setErrors: (apart, path) =>
    sayCall(path, apart, (call) => {
      const [next] = call.get('arguments') as NodePath[];
      if (!next) return undefined;
      apart.needs.add('setErrors').add('errors');
      return `${apart.names.setErrors}(${textIn(apart.leaving, next)})`;
    }),
  setFieldError: (apart, path) =>
    sayCall(path, apart, (call) => {
      const [name, message] = call.get('arguments') as NodePath[];
      if (!name?.isStringLiteral() || !message || !isField(apart, name.node.value)) return undefined;
      apart.needs.add('setErrors').add('errors');
      const pair = `${keyText(name.node.value)}: ${textIn(apart.leaving, message)}`;
      return `${apart.names.setErrors}((old) => ({ ...old, ${pair} }))`;
    }),
  setStatus: (apart, path) =>
    sayCall(path, apart, (call) => {
      const [next] = call.get('arguments') as (NodePath | undefined)[];
      apart.needs.add('status');
      return `${apart.names.setStatus}(${next ? textIn(apart.leaving, next) : 'undefined'})`;
    }),
  setSubmitting(apart, path) {
    const statement = callOf(path)?.parentPath;
    if (!apart.asksSubmitting && statement?.isExpressionStatement()) {
      otherwise(
        apart.leaving,
        [statement.node.start, statement.node.end],
        statement.node,
        'nothing asks whether it is being sent',
      );
      takeStatement(apart.leaving, statement);
      return true;
    }
    return sayCall(path, apart, (call) => {
      const [next] = call.get('arguments') as (NodePath | undefined)[];
      if (!next) return undefined;
      apart.needs.add('submitting');
      return `${apart.names.setSubmitting}(${textIn(apart.leaving, next)})`;
    });
  },
  resetForm(apart, path) {
    const call = callOf(path);
    if (!call) {
      if (attributeOf(path)?.name !== 'onClick') return false;
      apart.needs.add('reset').add('resetBack');
      says(apart.leaving, path, `() => ${apart.names.reset}()`);
      return true;
    }
    if (!isSeenAt(apart.leaving, path, apart.names.reset)) return false;
    apart.needs.add('reset');
    note(apart, call, 'sets');
    const [given, ...more] = call.get('arguments') as NodePath[];
    const [only, ...others] = given?.isObjectExpression() ? given.get('properties') : [];
    if (!given) apart.needs.add('resetBack');
    else {
      // what else it is given would be what the form begins as from now on
      if (more.length || others.length || !only?.isObjectProperty() || !t.isIdentifier(only.node.key)) return false;
      const { name } = only.node.key;
      if (name === 'status' && !apart.needs.has('resetTo')) apart.needs.add('status').add('firstStatus');
      else if (name === 'values' && !apart.needs.has('firstStatus')) apart.needs.add('resetTo');
      else return false;
      says(apart.leaving, given, () => textIn(apart.leaving, only.get('value') as NodePath));
    }
    if (!path.isIdentifier({ name: apart.names.reset })) says(apart.leaving, path, apart.names.reset);
    return true;
  },
};

/** What a function makes of the values of the view, said of the component’s: `(old) => ({ ...old, row: '' })`. */
function madeOfValues({ leaving, names }: TakenApart, fn: NodePath<t.Function>): NodePath | undefined {
  const [old, ...more] = fn.get('params') as NodePath[];
  const body = fn.get('body') as NodePath;
  if (fn.node.async || !old?.isIdentifier() || more.length || body.isBlockStatement()) return undefined;
  for (const reference of referencesTo(leaving, old)) sayName(leaving, reference, names.values);
  return body;
}

/** Whether an error is asked only where its field was left: `touched.town && errors.town`. */
function isGated(path: NodePath, apart: TakenApart): boolean {
  const { script } = apart.leaving;
  const member = path.parentPath;
  const node = member?.node;
  if (!member || !(t.isMemberExpression(node) || t.isOptionalMemberExpression(node)) || path.key !== 'object')
    return false;
  const key = script.text.slice(node.property.start ?? 0, node.property.end ?? 0);
  const name = key.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
  return isAskedBehind(member, new RegExp(`\\btouched(?:\\??\\.|\\?\\.\\[|\\[)${name}(?![\\w$])`), script.text);
}

/** Whether an expression is only looked at where another one holds: `a && b`, `a ? b : …`. */
export function isAskedBehind(path: NodePath, asked: RegExp, text: string): boolean {
  const holds = (test: t.Node): boolean => {
    const said = text.slice(test.start ?? 0, test.end ?? 0);
    return asked.test(said) && !said.includes('||') && !said.includes('!');
  };
  for (let at = path; at.parentPath && !at.parentPath.isStatement(); at = at.parentPath) {
    const { parentPath: parent, key: place } = at;
    if (parent.isLogicalExpression({ operator: '&&' }) && place === 'right' && holds(parent.node.left)) return true;
    if (parent.isConditionalExpression() && place === 'consequent' && holds(parent.node.test)) return true;
  }
  return false;
}
