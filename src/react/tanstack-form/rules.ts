import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { functionOf } from '../components.js';
import { pascal } from '../form-names.js';
import { typedAs } from '../package-leaving/apart.js';
import { inAnd, negated, otherwise, standingFor, turnedRound } from '../package-leaving/conditions.js';
import { depthOf, reindented, says, stays, textIn } from '../package-leaving/leaving.js';
import { memberType } from '../package-leaving/starts.js';
import { relative } from '../package-leaving/sending.js';
import type { OwnField, Slot, TakenApart } from './form.js';

/** The statements that check one field by the rules of one slot. */
export function checkLines(apart: TakenApart, own: OwnField, slot: Slot): string[] {
  const rule = own.rules.get(slot);
  if (!rule) return [];
  const target = `errors.${own.name}`;
  const when = own.shownWhen.map((text) => inAnd(text())).join(' && ');
  const steps = stepsOf(apart, own, rule, slot);
  if (!steps) {
    stays(apart.leaving, rule, 'how it checks is not told, or takes time');
    return [];
  }
  if (typeof steps === 'string') {
    const answer = `${own.name.replace(/\W/g, '')}Answer`;
    const call = when === '' ? steps : `${when} ? ${steps} : undefined`;
    return [`const ${answer} = ${call};`, `if (${answer}) {`, `  ${target} = ${answer};`, '}'];
  }
  const [only] = steps;
  if (steps.length === 1 && only)
    return [
      `if (${when === '' ? only.wrong : `${when} && ${inAnd(only.wrong)}`}) {`,
      `  ${target} = ${only.message};`,
      '}',
    ];
  const body = steps.flatMap(({ wrong, message }, index) => [
    `${index === 0 ? '' : '} else '}if (${wrong}) {`,
    `  ${target} = ${message};`,
  ]);
  body.push('}');
  return when === '' ? body : [`if (${when}) {`, ...body.map((line) => `  ${line}`), '}'];
}

interface Step {
  wrong: string;
  message: string;
}

/** What a rule asks, as conditions with messages, or a call of a function that answers; undefined where it is not told. */
function stepsOf(apart: TakenApart, own: OwnField, rule: NodePath, slot: Slot): Step[] | string | undefined {
  const { names } = apart;
  const fn = functionOf(rule);
  if (!fn || fn.node.async || fn.node !== rule.node) return undefined;
  const given = givenNames(fn);
  if (!given) return undefined;
  const value = `${names.values}.${own.name}`;
  if (given.api)
    for (const reference of given.api.scope.getBinding(given.api.node.name)?.referencePaths ?? [])
      sayAsked(apart, reference);
  const body = fn.get('body') as NodePath;
  if (body.isBlockStatement()) return ruleFunction(apart, own, slot, body, given.value);
  const stands = new Map(given.value ? [[given.value.node.name, value]] : []);
  const steps: Step[] = [];
  return conditionsOf(apart, body, (path) => standingFor(apart, path, stands, fn), [], steps) ? steps : undefined;
}

/** The names under which a rule takes the value, and the field. */
export function givenNames(
  fn: NodePath<t.Function>,
): { value: NodePath<t.Identifier> | undefined; api: NodePath<t.Identifier> | undefined } | undefined {
  const [given, ...more] = fn.get('params') as NodePath[];
  if (!given) return { value: undefined, api: undefined };
  if (more.length || !given.isObjectPattern()) return undefined;
  const found: { value: NodePath<t.Identifier> | undefined; api: NodePath<t.Identifier> | undefined } = {
    value: undefined,
    api: undefined,
  };
  for (const property of given.get('properties')) {
    const local = property.isObjectProperty() ? (property.get('value') as NodePath) : undefined;
    const key = property.isObjectProperty() && t.isIdentifier(property.node.key) ? property.node.key.name : '';
    if (!local?.isIdentifier()) return undefined;
    if (key === 'value') found.value = local;
    else if (key === 'fieldApi') found.api = local;
    else return undefined;
  }
  return found;
}

/** `fieldApi.form.getFieldValue('zone')`: the value of another field, of the values that are checked. */
function sayAsked(apart: TakenApart, reference: NodePath): void {
  const { leaving, names, fields } = apart;
  const form = reference.parentPath;
  const member = form?.parentPath;
  const call = member?.parentPath;
  const isAsked =
    form?.isMemberExpression() === true &&
    t.isIdentifier(form.node.property, { name: 'form' }) &&
    member?.isMemberExpression() === true &&
    t.isIdentifier(member.node.property, { name: 'getFieldValue' }) &&
    call?.isCallExpression() === true;
  const [name, ...more] = isAsked ? (call.node as t.CallExpression).arguments : [];
  if (!isAsked || !t.isStringLiteral(name) || more.length || !fields.includes(name.value)) {
    stays(leaving, call ?? reference, 'it is not said without the package yet');
    return;
  }
  says(leaving, call, `${names.values}.${name.value}`);
}

/** Conditions of a choice between messages and nothing; false where it says something else. */
function conditionsOf(
  apart: TakenApart,
  path: NodePath,
  said: (path: NodePath) => string,
  guards: readonly string[],
  steps: Step[],
): boolean {
  if (path.isIdentifier({ name: 'undefined' })) return true;
  if (path.isStringLiteral() || path.isTemplateLiteral()) {
    steps.push({
      wrong: guards.map((one) => (guards.length > 1 ? inAnd(one) : one)).join(' && ') || 'true',
      message: said(path),
    });
    return true;
  }
  if (path.isConditionalExpression()) {
    const [test, yes, no] = [
      path.get('test') as NodePath,
      path.get('consequent') as NodePath,
      path.get('alternate') as NodePath,
    ];
    const isMessage = yes.isStringLiteral() || yes.isTemplateLiteral();
    otherwise(apart.leaving, [test.node.end, yes.node.start], path.node, 'it is a condition of its own');
    otherwise(apart.leaving, [yes.node.end, no.node.start], path.node, 'it is a condition of its own');
    // a message that was given leaves only the rest
    if (isMessage)
      return (
        conditionsOf(apart, yes, said, [...guards, said(test)], steps) && conditionsOf(apart, no, said, guards, steps)
      );
    if (!yes.isIdentifier({ name: 'undefined' })) return false;
    return conditionsOf(
      apart,
      no,
      said,
      [...guards, negated(test, said, (one) => turnedRound(apart.leaving, one))],
      steps,
    );
  }
  return false;
}

/** A rule of several statements, as a function of the component. */
function ruleFunction(
  apart: TakenApart,
  own: OwnField,
  slot: Slot,
  body: NodePath<t.BlockStatement>,
  value: NodePath<t.Identifier> | undefined,
): string {
  const { leaving, names, type, ruleFunctions } = apart;
  const name = `${slot === 'onBlur' ? 'left' : 'check'}${pascal(own.name)}`;
  const parameters = [
    typedAs(value?.node.name ?? 'value', type === undefined ? undefined : memberType(type, own.name, apart.leaving)),
    typedAs(names.values, type),
  ];
  const text = reindented(textIn(leaving, body), depthOf(leaving, body), '');
  ruleFunctions.push([
    '',
    `function ${name}(${parameters.join(', ')}) {`,
    ...relative(text, leaving.context.style.indent).map((line) => (line === '' ? '' : `  ${line}`)),
    '}',
  ]);
  return `${name}(${names.values}.${own.name}, ${names.values})`;
}
