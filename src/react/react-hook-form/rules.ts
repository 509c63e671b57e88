import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { memberNamed } from '../../source/behind-names.js';
import { quoted } from '../../source/style.js';
import { functionOf } from '../components.js';
import { keptMember } from '../package-leaving/nested.js';
import { attributesOf } from '../jsx-controls.js';
import { returnedBy } from '../package-leaving/sending.js';
import { inAnd, negated, otherwise, standingFor, turnedRound } from '../package-leaving/conditions.js';
import { commentsIn, stays, textIn } from '../package-leaving/leaving.js';
import { rowName } from '../package-leaving/rows.js';
import type { OwnRules, TakenApart } from './form.js';

/** What is asked of a value, and what is said where it is not so. */
interface Asked {
  /** The condition under which the value is wrong. */
  wrong: string;
  message: string;
  /** The rule has no message: it is told by its name. */
  silent?: boolean;
}

/** A function that answers with what is wrong, in place of a condition. */
interface Answered {
  call: string;
}

type Step = Asked | Answered;

/** The value of a field as the function that checks says it: that of a row is asked of the row. */
function valueOf({ names }: TakenApart, { field, row }: OwnRules): string {
  return row ? `row.${row.key}` : `${names.values}.${field}`;
}

/** The statements that check one field, message by message in the order of the package. */
export function checkLines(whole: TakenApart, own: OwnRules): string[] {
  if (!own.rules) return [];
  const apart: TakenApart = { ...whole, leaving: own.leaving };
  // they are told where it is done
  if (memberNamed(own.rules, 'onChange')) return ruleLines(apart, { ...own, rules: own.rules });
  const bodies: t.Node[] = [];
  t.traverseFast(own.rules.node, (node) => {
    if (t.isArrowFunctionExpression(node) && t.isBlockStatement(node.body)) bodies.push(node);
  });
  return [...commentsIn(apart.leaving, own.rules.node, bodies), ...ruleLines(apart, { ...own, rules: own.rules })];
}

/** A field with rules that are stated where it is registered. */
type Ruled = OwnRules & { rules: NodePath<t.ObjectExpression> };

function ruleLines(apart: TakenApart, own: Ruled): string[] {
  const steps = stepsOf(apart, own);
  const [first] = steps;
  if (!first) return [];
  const target = own.row ? `errors[${rowName(apart, own.row)}]` : `errors${keptMember(apart, own.field)}`;
  const when = own.shownWhen.map((text) => inAnd(text())).join(' && ');
  const [only] = own.shownWhen;
  const gate = own.shownWhen.length === 1 && only ? only() : when;
  if (steps.length === 1 && 'wrong' in first) {
    const isSaid = when === '' || first.wrong.startsWith(`${when} && `);
    const whole = isSaid ? first.wrong : `${when} && ${inAnd(first.wrong)}`;
    return [`if (${whole}) {`, `  ${target} = ${first.message};`, '}'];
  }
  const lines: string[] = [];
  steps.forEach((step, index) => {
    const lead = index === 0 ? '' : '} else ';
    if ('wrong' in step) lines.push(`${lead}if (${step.wrong}) {`, `  ${target} = ${step.message};`);
    else lines.push(`${lead}{`, ...answered(step, own, target).map((line) => `  ${line}`));
  });
  lines.push('}');
  const body = 'wrong' in first ? lines : answered(first, own, target);
  return gate === '' ? body : [`if (${gate}) {`, ...body.map((line) => `  ${line}`), '}'];
}

function answered({ call }: Answered, { field }: Ruled, target: string): string[] {
  const name = `${field.replace(/\W/g, '')}Answer`;
  return [`const ${name} = ${call};`, `if (typeof ${name} === 'string') ${target} = ${name};`];
}

function stepsOf(apart: TakenApart, own: Ruled): Step[] {
  const value = valueOf(apart, own);
  const kind = own.numeric ? 'number' : own.row ? own.row.kind : apart.kinds.get(own.field);
  const empty =
    kind === 'number'
      ? `Number.isNaN(${value})`
      : kind === 'list' || kind === 'rows'
        ? `${value}.length === 0`
        : kind === 'other'
          ? emptyOther(apart, own.field, value)
          : `!${value}`;
  const steps: Step[] = [];
  const required = ruleOf(apart, own, 'required');
  if (required) steps.push({ wrong: empty, ...saidOf(required) });
  const filled = (condition: string): string =>
    required || kind === 'flag' || kind === 'other'
      ? condition
      : `${kind === 'number' ? `!${empty}` : kind === 'rows' ? `${value}.length > 0` : value} && ${condition}`;
  const number = kind === 'text' ? `Number(${value})` : value;
  const limits: [string, (limit: string) => string][] = [
    ['max', (limit) => `${number} > ${limit}`],
    ['min', (limit) => `${number} < ${limit}`],
    ['maxLength', (limit) => `${value}.length > ${limit}`],
    ['minLength', (limit) => `${value}.length < ${limit}`],
    ['pattern', (limit) => `!${limit}.test(${value})`],
  ];
  for (const [name, wrong] of limits) {
    const rule = ruleOf(apart, own, name);
    if (!rule) continue;
    const odd = oddLimit(name, rule.limit, kind, own);
    if (odd !== undefined) stays(apart.leaving, own.rules, odd);
    else if (rule.limit === undefined) stays(apart.leaving, own.rules, `${name} has no limit that is told`);
    else steps.push({ wrong: filled(wrong(rule.limit)), ...saidOf(rule) });
  }
  const validate = memberNamed(own.rules, 'validate');
  if (validate) {
    const members = validate.isObjectExpression() ? validate.get('properties') : [];
    for (const { node } of members) if (!t.isSpreadElement(node)) namedNoMore(apart, node.key);
    const functions = validate.isObjectExpression() ? members.map((one) => memberOf(one)) : [validate];
    for (const one of functions) {
      const step = one && validated(apart, own, one);
      if (step) steps.push(step);
      else stays(apart.leaving, one ?? validate, 'how it checks is not told, or takes time');
    }
  }
  if (apart.typed.has(own.field) && (validate || !steps.every((step) => 'wrong' in step && step.silent)))
    stays(apart.leaving, own.rules, 'the page asks which rule is broken, and not all of them are told by their names');
  if (apart.silent.has(own.field) && (apart.worded.has(own.field) || apart.worded.has('')))
    stays(apart.leaving, own.rules, 'a rule has no message of its own, and the page shows the one that there is');
  for (const property of own.rules.node.properties) {
    const name = t.isObjectProperty(property) && t.isIdentifier(property.key) ? property.key.name : '';
    if (!known.has(name))
      stays(apart.leaving, own.rules, `the option ${name} of a field is not said without the package yet`);
  }
  return steps;
}

function saidOf({ message, silent }: { message: string; silent?: boolean }): Omit<Asked, 'wrong'> {
  return silent === undefined ? { message } : { message, silent };
}

/** Why a limit is asked in another way than by a number, a length or a pattern; undefined where it is not. */
function oddLimit(
  name: string,
  limit: string | undefined,
  kind: string | undefined,
  { element }: OwnRules,
): string | undefined {
  const type = element && attributesOf(element).find((one) => one.name === 'type')?.text;
  if (
    /^(?:min|max)$/.test(name) &&
    (/^(?:date|time|month|week|datetime-local)$/.test(type ?? '') || /^['"`]/.test(limit ?? ''))
  )
    return `${name} compares days or times here`;
  if (/Length$|^pattern$/.test(name) && kind !== 'text' && !(kind === 'rows' && name !== 'pattern'))
    return `${name} looks at texts alone`;
  return name === 'pattern' && /\/[a-z]*[gy][a-z]*$/.test(limit ?? '')
    ? 'its pattern remembers where it was'
    : undefined;
}

/** The name of one rule among several goes: what it asks says enough. */
function namedNoMore({ leaving }: TakenApart, { start, end }: t.Node): void {
  const span = { file: leaving.script.file, start: start ?? 0, end: end ?? 0 };
  if (leaving.ledger.some((one) => one.span.start === span.start)) return;
  const what = leaving.script.text.slice(span.start, span.end);
  leaving.ledger.push({ entry: 'retired', span, what, why: 'a rule needs no name of its own', takenOver: true });
}

/** Whether a value that begins as nothing is still none: a number may be zero. */
function emptyOther({ leaving }: TakenApart, field: string, value: string): string {
  const type = new RegExp(`\\b${field}\\??\\s*:\\s*([^;,\\n]+)`).exec(leaving.script.text)?.[1] ?? '';
  return /number/.test(type) ? `${value} === null` : `!${value}`;
}

const known = new Set([
  'required',
  'min',
  'max',
  'minLength',
  'maxLength',
  'pattern',
  'validate',
  'valueAsNumber',
  'deps',
  'onChange',
]);

function memberOf(property: NodePath): NodePath | undefined {
  if (property.isObjectMethod()) return property;
  return property.isObjectProperty() ? (property.get('value') as NodePath) : undefined;
}

/** A rule with its limit and message; undefined where it is not stated. */
function ruleOf(
  apart: TakenApart,
  { rules, field }: Ruled,
  name: string,
): { limit: string | undefined; message: string; silent?: boolean } | undefined {
  const given = memberNamed(rules, name);
  if (!given) return undefined;
  const { leaving } = apart;
  // what has no message is told by the name of its rule, where nobody shows one
  const silent = (limit: string | undefined): ReturnType<typeof ruleOf> => {
    apart.silent.add(field);
    return { limit, message: quoted(name, leaving.context.style), silent: true };
  };
  if (name === 'required' && given.isBooleanLiteral({ value: true })) return silent(undefined);
  if (given.isNumericLiteral() || given.isRegExpLiteral()) return silent(textIn(leaving, given));
  if (given.isBooleanLiteral({ value: false }) || given.isStringLiteral({ value: '' })) return undefined;
  if (given.isObjectExpression()) {
    const [limit, message] = [memberNamed(given, 'value'), memberNamed(given, 'message')];
    if (!message || !limit) {
      stays(leaving, given, 'it has no message of its own');
      return undefined;
    }
    return { limit: textIn(leaving, limit), message: textIn(leaving, message) };
  }
  if (
    name === 'required' &&
    (given.isStringLiteral() || given.isTemplateLiteral() || given.isIdentifier() || given.isMemberExpression())
  )
    return { limit: undefined, message: textIn(leaving, given) };
  stays(leaving, given, 'it has no message of its own');
  return undefined;
}

/** What a function of the author’s asks of a value. */
function validated(apart: TakenApart, own: OwnRules, given: NodePath): Step | undefined {
  const { names, leaving } = apart;
  const value = valueOf(apart, own);
  const fn = given.isObjectMethod() ? undefined : functionOf(given);
  if (!fn || fn.node.async || fn.node.params.length > 2) return undefined;
  if (fn.node !== given.node) {
    if (!returnedBy(fn).every((one) => isAnswer(one))) return undefined;
    const asks = fn.node.params.length > 1 ? `${value}, ${names.values}` : value;
    return given.isIdentifier() ? { call: `${given.node.name}(${asks})` } : undefined;
  }
  const body = fn.get('body') as NodePath;
  const [first, second] = fn.get('params') as (NodePath | undefined)[];
  if ((first && !first.isIdentifier()) || (second && !second.isIdentifier())) return undefined;
  const isCondition =
    body.isConditionalExpression() ||
    (body.isLogicalExpression({ operator: '||' }) && isFlag(body.get('left') as NodePath));
  if (!isCondition) {
    if (!returnedBy(fn).every((one) => isAnswer(one))) return undefined;
    const asks = second ? `${value}, ${names.values}` : first ? value : '';
    return { call: `(${textIn(leaving, given)})(${asks})` };
  }
  const stands = new Map<string, string>();
  if (first?.isIdentifier()) stands.set(first.node.name, value);
  if (second?.isIdentifier()) stands.set(second.node.name, names.values);
  const said = (path: NodePath): string => standingFor(apart, path, stands, fn);
  const turned = (path: NodePath<t.BinaryExpression>): void => turnedRound(apart.leaving, path);
  if (body.isLogicalExpression()) {
    const [left, right] = [body.get('left') as NodePath, body.get('right') as NodePath];
    return isText(right) ? { wrong: negated(left, said, turned), message: said(right) } : undefined;
  }
  if (!body.isConditionalExpression()) return undefined;
  const [test, yes, no] = [
    body.get('test') as NodePath,
    body.get('consequent') as NodePath,
    body.get('alternate') as NodePath,
  ];
  for (const [from, to] of [
    [test.node.end, yes.node.start],
    [yes.node.end, no.node.end],
  ])
    otherwise(
      apart.leaving,
      [from, isText(no) && from === yes.node.end ? no.node.start : to],
      body.node,
      'it is a condition of its own',
    );
  if (isText(yes) && isRight(no)) return { wrong: said(test), message: said(yes) };
  if (isText(no) && isRight(yes)) return { wrong: negated(test, said, turned), message: said(no) };
  return undefined;
}

function isText(path: NodePath): boolean {
  return path.isTemplateLiteral() || (path.isStringLiteral() && path.node.value !== '');
}

/** Whether what a function gives is a message, or says that nothing is wrong: an answer of false has no message. */
function isAnswer(path: NodePath): boolean {
  if (path.isConditionalExpression())
    return isAnswer(path.get('consequent') as NodePath) && isAnswer(path.get('alternate') as NodePath);
  // what holds is right, or the message of another function
  if (path.isLogicalExpression({ operator: '||' })) return isAnswer(path.get('right') as NodePath);
  return isText(path) || isRight(path) || path.isNullLiteral();
}

/** Whether an expression is true or false, and never a message. */
function isFlag(path: NodePath): boolean {
  if (path.isLogicalExpression()) return isFlag(path.get('left') as NodePath) && isFlag(path.get('right') as NodePath);
  if (path.isUnaryExpression({ operator: '!' })) return true;
  if (path.isBinaryExpression()) return /^(?:[=!]==?|[<>]=?|in|instanceof)$/.test(path.node.operator);
  const callee = path.isCallExpression() ? path.node.callee : undefined;
  const called = t.isMemberExpression(callee) ? callee.property : callee;
  return (
    t.isIdentifier(called) &&
    /^(?:test|includes|startsWith|endsWith|every|some|has|is[A-Z]\w*|isNaN|Boolean)$/.test(called.name) &&
    (t.isMemberExpression(callee) || /^(?:isNaN|Boolean)$/.test(called.name))
  );
}

function isRight(path: NodePath): boolean {
  return path.isBooleanLiteral({ value: true }) || path.isIdentifier({ name: 'undefined' });
}
