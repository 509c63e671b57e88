import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { expressionTypes } from '../../source/expression-types.js';
import type { Script } from '../../source/script.js';
import type { FunctionPath } from '../components.js';
import { pascal } from '../form-names.js';
import { nameIn, stays, type Leaving } from './leaving.js';
import { startValues, type StartValue } from './fields.js';

/** What a value is by what it begins as. */
export type Kind = 'text' | 'list' | 'flag' | 'number' | 'rows' | 'other';

/** The names that the parts of any form get in its component. */
export interface PlainNames {
  values: string;
  setValues: string;
  errors: string;
  setErrors: string;
  touched: string;
  setTouched: string;
  submitting: string;
  setSubmitting: string;
  attempts: string;
  setAttempts: string;
  dirty: string;
  valid: string;
  change: string;
  handleChange: string;
  handleBlur: string;
  handleSubmit: string;
  reset: string;
  check: string;
  /** What the values begin as, where the first view tells it, or a reset anew. */
  first: string;
  setFirst: string;
  /** What runs when a field counts as left. */
  left: string;
}

/** A form of a package while it is taken apart. */
export interface Apart {
  leaving: Leaving;
  names: PlainNames;
  fields: string[];
  kinds: Map<string, Kind>;
  /** What each field begins as. */
  starts: Map<string, { path: NodePath; script: Script }>;
  /** Lists of rows, with what the values of a row are. */
  rows: Map<string, Map<string, Kind>>;
  /** Names of the functions that change the rows of lists, by what they do to which. */
  rowFunctions: Map<string, string>;
  /** What the form turns out to need of its component. */
  needs: Set<string>;
  /** Tags of the controls that share a handler, for the type of its event. */
  changed: Set<string>;
  left: Set<string>;
  /** The function that sends, as it is given. */
  send: { given: NodePath; fn: FunctionPath | undefined } | undefined;
  /** The name under which it is called, where it stands in a constant of its own from now on. */
  sendName?: string | undefined;
  /** What is sent, where that is more than the values: an expression for it. */
  sent?: string | undefined;
  /** Nothing ever tells an error. */
  errorless?: boolean;
  /** The function that sends comes from outside, and may look at the event as well. */
  sendsEvent?: boolean;
  /** Whether the function that sends, where it has another name for the values, says the component’s by now. */
  ownName?: boolean;
  /**
   * The call that changes the values.
   * @param next all values as they are to be
   * @param name an expression for the name of the field that changes
   */
  changes(next: string, name: string): string;
  /** What a control for numbers gives, by the element of the event; undefined where that is not told. */
  numberOf(target: string, field: string): string | undefined;
  /** What a control shows of a value, where that is more than the value itself. */
  shownValue?(held: string, field: string): string;
  /** A list with a value, or without it, as its box is checked; undefined where its order is not told. */
  listWith(list: string, value: string, checked: string, box: NodePath<t.JSXElement>): string | undefined;
}

/**
 * The parts of any form, with the names that its component already had for them.
 * @param added values that it begins with besides, as its controls tell them
 */
export function apartOf(
  leaving: Leaving,
  start: NodePath | undefined,
  made: NodePath,
  locals: ReadonlyMap<string, string>,
  added: readonly StartValue[] = [],
):
  | Omit<
      Apart,
      'send' | 'sendName' | 'sent' | 'errorless' | 'sendsEvent' | 'ownName' | 'changes' | 'numberOf' | 'listWith'
    >
  | undefined {
  const told = !start && added.length ? [] : startValues(start, leaving.site);
  const values = told && [...told, ...added];
  if (!values) {
    stays(leaving, start ?? made, 'what it begins as is no object that could be followed');
    return undefined;
  }
  return {
    leaving,
    names: plainNames(leaving, locals),
    fields: values.map(({ name }) => name),
    kinds: new Map(values.map(({ name, path, script }) => [name, kindIn(path, script)])),
    starts: new Map(values.map(({ name, path, script }) => [name, { path, script }])),
    rows: new Map(),
    rowFunctions: new Map(),
    needs: new Set(),
    changed: new Set(),
    left: new Set(),
  };
}

/** A name for a member of the package: the one it had in the component, or a wished one. */
export function namedAs(leaving: Leaving, local: string | undefined, ...wished: [string, ...string[]]): string {
  return local !== undefined && nameIn(leaving, local) === local ? local : nameIn(leaving, ...wished);
}

function plainNames(leaving: Leaving, locals: ReadonlyMap<string, string>): PlainNames {
  const named = (member: string, ...wished: [string, ...string[]]): string =>
    namedAs(leaving, locals.get(member), ...wished);
  const values = named('values', 'values', 'formValues');
  const errors = named('errors', 'errors', 'formErrors');
  const touched = named('touched', 'touched', 'touchedFields');
  const submitting = named('isSubmitting', 'isSubmitting', 'isSending');
  return {
    values,
    setValues: nameIn(leaving, `set${pascal(values)}`, 'setFormValues'),
    errors,
    setErrors: named('setErrors', `set${pascal(errors)}`, 'setFormErrors'),
    touched,
    setTouched: named('setTouched', `set${pascal(touched)}`, 'setTouchedFields'),
    submitting,
    setSubmitting: named('setSubmitting', `set${pascal(submitting)}`, 'setIsSending'),
    attempts: named('submitCount', 'submitCount', 'attempts'),
    setAttempts: nameIn(leaving, 'setSubmitCount', 'setAttempts'),
    dirty: named('dirty', 'dirty', 'isChanged'),
    valid: named('isValid', 'isValid', 'isRight'),
    change: nameIn(leaving, 'change', 'changeValues'),
    handleChange: named('handleChange', 'handleChange', 'handleInput'),
    handleBlur: named('handleBlur', 'handleBlur', 'handleLeft'),
    handleSubmit: named('handleSubmit', 'handleSubmit', 'submitForm', 'handleSend'),
    reset: named('resetForm', 'resetForm', 'resetValues'),
    check: nameIn(leaving, 'check', 'checkValues', 'checkAll'),
    first: nameIn(leaving, 'firstValues', 'valuesAtFirst'),
    setFirst: nameIn(leaving, 'setFirstValues', 'setValuesAtFirst'),
    left: nameIn(leaving, 'leave', 'fieldLeft'),
  };
}

/** What a value is by its expression, or by the type that its file says it has. */
export function kindIn(path: NodePath, script: Script): Kind {
  const kind = kindOf(path.node);
  if (kind !== 'other') return kind;
  const type = expressionTypes(script).typeOf(path);
  const told = type === undefined ? undefined : kindsByType[type];
  return told ?? kind;
}

const kindsByType: Readonly<Record<string, Kind>> = {
  string: 'text',
  boolean: 'flag',
  number: 'number',
  'string[]': 'list',
};

function kindOf(node: t.Node): Kind {
  if (t.isTSAsExpression(node)) return kindOf(node.expression);
  if (t.isLogicalExpression(node) && node.operator !== '&&') return kindOf(node.right);
  if (t.isConditionalExpression(node)) {
    const [yes, no] = [kindOf(node.consequent), kindOf(node.alternate)];
    return yes === no ? yes : 'other';
  }
  if (t.isStringLiteral(node) || t.isTemplateLiteral(node)) return 'text';
  if (t.isArrayExpression(node)) return node.elements.every((one) => !one || t.isStringLiteral(one)) ? 'list' : 'other';
  if (t.isBooleanLiteral(node)) return 'flag';
  return t.isNumericLiteral(node) ? 'number' : 'other';
}

/** A key of an object. */
export function keyText(name: string): string {
  return /^[\w$]+$/.test(name) ? name : `'${name}'`;
}

/**
 * A value of an object of values as a pair: `town: next`, and `place: { ...values.place, town: next }` for `place.town`.
 * @param of the object whose other values stay
 */
export function pairOf(field: string, next: string, of: string): string {
  const [head = '', ...rest] = field.split('.');
  if (rest.length) return `${keyText(head)}: { ...${of}.${head}, ${pairOf(rest.join('.'), next, `${of}.${head}`)} }`;
  return keyText(field) === next ? next : `${keyText(field)}: ${next}`;
}

/** A new object of values in which some are another. */
export function valuesWith({ names }: Pick<Apart, 'names'>, parts: string): string {
  return `{ ...${names.values}, ${parts} }`;
}

/** A parameter with its type, where there is one. */
export function typedAs(name: string, type: string | undefined): string {
  return type === undefined ? name : `${name}: ${type}`;
}
