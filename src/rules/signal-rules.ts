import * as t from '@babel/types';
import type { Constraint } from '../form/rules.js';
import type { Script } from '../source/script.js';

/** A rule of a schema function, as its call states it. */
export interface SignalRule {
  /** Keys from the schema's root to the field, or to the group it is about. */
  path: string[];
  constraint: Constraint;
  message: string | undefined;
  /** It counts only under a condition. */
  conditional: boolean;
  start: number;
  end: number;
  script: Script;
}

/** A function that states rules, and where it stands. */
export interface SchemaFunction {
  fn: t.ArrowFunctionExpression | t.FunctionExpression | t.FunctionDeclaration;
  script: Script;
}

/** A call of a schema function that states no rule for one path. */
export interface OtherCall {
  what: string;
  start: number;
  end: number;
  script: Script;
}

/** What a schema function states. */
export interface StatedRules {
  rules: SignalRule[];
  others: OtherCall[];
  disabled: { path: string[]; start: number; end: number; script: Script }[];
}

const plain: Record<string, 'required' | 'email'> = { required: 'required', email: 'email' };
const limited: Record<string, 'min' | 'max' | 'min-length' | 'max-length'> = {
  min: 'min',
  max: 'max',
  minLength: 'min-length',
  maxLength: 'max-length',
};
const others =
  /^(apply|applyEach|applyWhen|applyWhenValue|hidden|disabled|readonly|debounce|metadata|validateTree|validateAsync|validateHttp|validateStandardSchema)$/;

/** The keys that a chain of members spells behind a name; undefined where it begins with another one. */
function pathBehind(node: t.Node | undefined, root: string): string[] | undefined {
  if (t.isIdentifier(node, { name: root })) return [];
  if (!t.isMemberExpression(node)) return undefined;
  const inner = pathBehind(node.object, root);
  const { property, computed } = node;
  const key = computed ? (t.isStringLiteral(property) ? property.value : undefined) : nameOf(property);
  return inner && key !== undefined ? [...inner, key] : undefined;
}

function nameOf(node: t.Node): string | undefined {
  return t.isIdentifier(node) ? node.name : undefined;
}

/**
 * Reads the rules of a schema function; those of the rows of a list stand under its path with `[]` behind it.
 * @param functionOf the function that an argument of `applyEach` is, handed over in place or by a name
 * @param within path of what the function is about
 * @returns its rules, and what it states besides
 */
export function readSignalRules(
  { fn, script }: SchemaFunction,
  functionOf: (node: t.Node | undefined, script: Script) => SchemaFunction | undefined,
  within: readonly string[] = [],
): StatedRules {
  const found: StatedRules = { rules: [], others: [], disabled: [] };
  const [parameter] = fn.params;
  const root = t.isIdentifier(parameter) ? parameter.name : '';
  const statements: t.Node[] = t.isBlockStatement(fn.body) ? fn.body.body : [fn.body];
  for (const statement of statements) {
    const node = t.isExpressionStatement(statement) ? statement.expression : statement;
    const place = { start: node.start ?? 0, end: node.end ?? 0, script };
    const call = t.isCallExpression(node) ? node : undefined;
    const called = t.isIdentifier(call?.callee) ? call.callee.name : '';
    const rule = call && ruleOf(call, root, script);
    const [target, second] = call?.arguments ?? [];
    const path = /^(disabled|applyEach)$/.test(called) ? pathBehind(target, root) : undefined;
    const each = called === 'applyEach' && path ? functionOf(second, script) : undefined;
    const last = path?.at(-1);
    if (rule) found.rules.push({ ...rule, path: [...within, ...rule.path], ...place });
    else if (path && called === 'disabled') found.disabled.push({ path: [...within, ...path], ...place });
    else if (path && each && last !== undefined && each.fn.params.length) {
      const inner = readSignalRules(each, functionOf, [...within, ...path.slice(0, -1), `${last}[]`]);
      found.rules.push(...inner.rules);
      found.others.push(...inner.others);
      found.disabled.push(...inner.disabled);
    } else found.others.push({ what: script.text.slice(place.start, place.end).split('\n')[0] ?? '', ...place });
  }
  return found;
}

function ruleOf(
  node: t.CallExpression,
  root: string,
  script: Script,
): Omit<SignalRule, 'start' | 'end' | 'script'> | undefined {
  const called = t.isIdentifier(node.callee) ? node.callee.name : '';
  const [target, second, third] = node.arguments;
  const path = pathBehind(target, root);
  if (!path || others.test(called)) return undefined;
  const code = script.text.slice(node.start ?? 0, node.end ?? 0);
  const value = second ? script.text.slice(second.start ?? 0, second.end ?? 0) : '';
  const own = plain[called];
  const kind = limited[called];
  if (own) return { path, constraint: { kind: own }, ...configOf(second) };
  if (kind && second) return { path, constraint: { kind, value }, ...configOf(third) };
  if (called === 'pattern' && second)
    return { path, constraint: { kind: 'pattern', form: 'expression', value }, ...configOf(third) };
  const list = ofList(value.replace(/\s+/g, ' ').replaceAll('"', "'"));
  if (called === 'validate' && list) return { path, constraint: list, message: undefined, conditional: false };
  const longest = /^\(\{ value \}\) => \(value\(\)\.length > ([\w.]+) \? maxLengthError\(\1\) : undefined\)$/.exec(
    value.replace(/\s+/g, ' '),
  )?.[1];
  if (called === 'validate' && longest !== undefined)
    return { path, constraint: { kind: 'max-length', value: longest }, message: undefined, conditional: false };
  return { path, constraint: { kind: 'custom', code, async: false }, message: undefined, conditional: false };
}

/** A rule of a list as `signalRuleText` states it. */
function ofList(text: string): Constraint | undefined {
  if (text === rowsAreThere) return { kind: 'required' };
  const fewest = /^\(\{ value \}\) => \(value\(\)\.length && value\(\)\.length < ([\w.]+) \? minLengthError/.exec(
    text,
  )?.[1];
  return fewest === undefined ? undefined : { kind: 'min-length', value: fewest };
}

/** That a list has rows, which a required rule of the package does not look at. */
const rowsAreThere = "({ value }) => (value().length ? undefined : { kind: 'required' })";

/** The message and the condition that a rule is given. */
function configOf(node: t.Node | undefined): { message: string | undefined; conditional: boolean } {
  if (!t.isObjectExpression(node)) return { message: undefined, conditional: node !== undefined };
  let message: string | undefined;
  let conditional = false;
  for (const property of node.properties) {
    const key = t.isObjectProperty(property) ? nameOf(property.key) : undefined;
    if (key === 'message' && t.isObjectProperty(property) && t.isStringLiteral(property.value))
      message = property.value.value;
    else conditional = true;
  }
  return { message, conditional };
}

/** What a rule's text needs to know of its field. */
export interface RuledField {
  /** Expression of the field's path: `path.town`. */
  path: string;
  /** The value is true or false. */
  boolean: boolean;
  /** It is a list of rows, whose rules in a class look at how many there are. */
  list?: boolean;
  /** Its control keeps people from typing more than a longest length. */
  limitsTyping: boolean;
}

/** A constraint as calls of a schema function, and the functions they need; undefined where there is none. */
export function signalRuleText(
  constraint: Constraint,
  { path, boolean, list = false, limitsTyping }: RuledField,
): { text: string; needs: string[] } | undefined {
  const call = (name: string, ...given: string[]): { text: string; needs: string[] } => ({
    text: `${name}(${[path, ...given].join(', ')})`,
    needs: [name],
  });
  if (list && constraint.kind === 'required') return call('validate', rowsAreThere);
  // an empty list is not too short for the rule of a class
  if (list && constraint.kind === 'min-length')
    return {
      ...call(
        'validate',
        `({ value }) => (value().length && value().length < ${constraint.value} ? minLengthError(${constraint.value}) : undefined)`,
      ),
      needs: ['validate', 'minLengthError'],
    };
  switch (constraint.kind) {
    case 'required':
      // false counts as missing here, which it does not for the rule
      return boolean ? undefined : call('required');
    case 'required-true':
      return boolean ? call('required') : undefined;
    case 'email':
      return call('email');
    case 'min':
    case 'max':
      return call(constraint.kind, constraint.value);
    case 'min-length':
      return call('minLength', constraint.value);
    case 'max-length': {
      if (limitsTyping) return call('maxLength', constraint.value);
      // maxLength() would keep people from typing what the rule only complains about
      const { value } = constraint;
      return {
        ...call('validate', `({ value }) => (value().length > ${value} ? maxLengthError(${value}) : undefined)`),
        needs: ['validate', 'maxLengthError'],
      };
    }
    case 'pattern':
      return constraint.form === 'text'
        ? patternCall(constraint.value, call)
        : /^\/.*\/[dimsuv]*$/.test(constraint.value)
          ? call('pattern', constraint.value)
          : undefined;
    case 'above':
    case 'below':
    case 'integer':
    case 'not-blank':
    case 'present':
    case 'one-of':
    case 'equal':
    case 'custom':
      return undefined;
    default: {
      const never: never = constraint;
      return never;
    }
  }
}

/** A pattern that is a text has to match from end to end. */
function patternCall<T>(text: string, call: (name: string, given: string) => T): T | undefined {
  const whole = `${text.startsWith('^') ? '' : '^'}${text}${text.endsWith('$') ? '' : '$'}`;
  try {
    return call('pattern', String(new RegExp(whole)));
  } catch {
    return undefined;
  }
}

/** The kind under which an error is kept, told by the key that validators of a class give it. */
export function errorKind(key: string): string {
  return { minlength: 'minLength', maxlength: 'maxLength' }[key] ?? key;
}
