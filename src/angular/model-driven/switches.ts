import * as t from '@babel/types';
import { decidingValue, negated } from '../switched.js';
import type { Place } from '../template-model.js';
import { controlPath, type Draft } from './bound-controls.js';
import type { Switch } from './switch.js';
import { walk } from '../../source/traverse.js';

/**
 * Finds the statements that do nothing but switch controls on and off by the value of another one:
 * `cause.valueChanges.subscribe((cause) => { if (cause === 'theft') police.enable(); else police.disable(); })`.
 */
export function findSwitches(draft: Draft): void {
  const { path } = draft.site.component;
  walk(path, {
    ExpressionStatement(statement) {
      const { expression } = statement.node;
      if (!t.isCallExpression(expression) || expression.arguments.length !== 1) return;
      const place = { start: statement.node.start ?? 0, end: statement.node.end ?? 0 };
      const followed = followedField(expression.callee, draft);
      const found = followed && switchesIn(expression.arguments[0], draft);
      if (!followed || !found?.length) return;
      const made = found.map((one): Switch => ({ ...one, ...followed, statement: place }));
      // code that begins several anew is more than a switch
      if (made.length > 1 && made.some(({ again }) => again)) return;
      // how it starts has to be what the condition says of the value that it starts with
      if (!made.every((one) => startsInStep(one, draft))) return;
      if (made.some(({ field }) => isSwitchedElsewhere(field, place, draft))) return;
      for (const one of made) draft.switches.set(one.field, one);
      // what begins a control anew stays code that follows the value
      if (made.some(({ again }) => again)) draft.skipped.push(place);
      else
        draft.retired.push({
          ...place,
          what: `the statement that switches ${made.map(({ field }) => field).join(', ')}`,
        });
      statement.skip();
    },
  });
}

function textOf(node: t.Node, { site }: Draft): string {
  return site.component.script.text.slice(node.start ?? 0, node.end ?? 0);
}

/** The field whose changes a call of `subscribe` follows to the end. */
function followedField(callee: t.Node, draft: Draft): Pick<Switch, 'of' | 'pipeline'> | undefined {
  if (!t.isMemberExpression(callee) || !t.isIdentifier(callee.property, { name: 'subscribe' })) return undefined;
  const text = textOf(callee.object, draft);
  const found = /^([\s\S]*)\.valueChanges(\s*\.pipe\(\s*takeUntil(?:Destroyed)?\([\w.]*(?:\(\))?\),?\s*\))?$/.exec(
    text,
  );
  const of = found && fieldOf((found[1] ?? '').replace(/\s+/g, ''), draft);
  return of == null ? undefined : { of, pipeline: found?.[2] ?? '' };
}

/** The control that an expression of the class stands for. */
function fieldOf(text: string, draft: Draft): string | undefined {
  const own = /^this\.(\w+)(?:\.(\w+))?$/.exec(text.replace(/[!?]/g, ''));
  const alias = draft.aliases.get(own?.[1] ?? '');
  const path = alias
    ? alias.controls
      ? own?.[2]
      : own?.[2] === undefined
        ? alias.field
        : undefined
    : text.startsWith('this.')
      ? controlPath(text, draft)
      : undefined;
  return path !== undefined && draft.controls.has(path) ? path : undefined;
}

/** The controls that a function of the new value only switches, each with the condition under which it can be used. */
function switchesIn(
  fn: t.Node | undefined,
  draft: Draft,
): Pick<Switch, 'field' | 'text' | 'again' | 'parameter'>[] | undefined {
  const [value, ...more] = t.isArrowFunctionExpression(fn) ? fn.params : [];
  if (!t.isArrowFunctionExpression(fn) || !t.isIdentifier(value) || more.length) return undefined;
  const names = new Map<string, string>();
  const statements: t.Node[] = t.isBlockStatement(fn.body) ? [...fn.body.body] : [fn.body];
  while (statements.length > 1) {
    const declared = statements.shift();
    const [one, ...others] = t.isVariableDeclaration(declared) ? declared.declarations : [];
    const field = one?.init ? fieldOf(textOf(one.init, draft).replace(/\s+/g, ''), draft) : undefined;
    if (!one || others.length || !t.isIdentifier(one.id) || field === undefined) return undefined;
    names.set(one.id.name, field);
  }
  const [last] = statements;
  const branch = t.isExpressionStatement(last) ? last.expression : last;
  if (!t.isIfStatement(branch) && !t.isConditionalExpression(branch)) return undefined;
  const test = conditionText(branch.test, value.name, draft);
  const [on, off] = [branch.consequent, branch.alternate].map((one) => switched(one ?? undefined, names, draft));
  if (test === undefined || !on || !off || on.size !== off.size) return undefined;
  const found: Pick<Switch, 'field' | 'text' | 'again' | 'parameter'>[] = [];
  for (const [field, one] of on) {
    const other = off.get(field);
    if (other?.on !== !one.on) return undefined;
    const [used, unused] = one.on ? [one, other] : [other, one];
    if (used.again) return undefined;
    const text = one.on ? test : negated(test);
    found.push({ field, text, parameter: value.name, ...(unused.again ? { again: unused.again } : {}) });
  }
  return found;
}

/** A condition that asks nothing but the value, which a sign stands for in it. */
function conditionText(test: t.Expression, name: string, draft: Draft): string | undefined {
  const places: number[] = [];
  let only = true;
  t.traverseFast(test, (node) => {
    if (t.isIdentifier(node, { name })) places.push(node.start ?? 0);
    else if (
      !t.isBinaryExpression(node) &&
      !t.isLogicalExpression(node) &&
      !t.isUnaryExpression(node) &&
      !t.isStringLiteral(node) &&
      !t.isNumericLiteral(node) &&
      !t.isBooleanLiteral(node) &&
      !t.isNullLiteral(node)
    )
      only = false;
  });
  if (!only || !places.length) return undefined;
  const start = test.start ?? 0;
  let text = textOf(test, draft);
  for (const place of places.sort((a, b) => b - a))
    text = text.slice(0, place - start) + decidingValue + text.slice(place - start + name.length);
  return text;
}

/** What a branch does to a control: it switches it on or off, and may begin it anew. */
interface Switched {
  on: boolean;
  again?: { given: string | undefined };
}

/** The controls that a branch switches, and whether on. */
function switched(
  branch: t.Node | undefined,
  names: ReadonlyMap<string, string>,
  draft: Draft,
): Map<string, Switched> | undefined {
  const found = new Map<string, Switched>();
  const begun = new Map<string, { given: string | undefined }>();
  const statements = t.isBlockStatement(branch) ? branch.body : branch ? [branch] : [];
  for (const statement of statements) {
    const call = t.isExpressionStatement(statement) ? statement.expression : statement;
    if (!t.isCallExpression(call) || !t.isMemberExpression(call.callee)) return undefined;
    const { object, property } = call.callee;
    const target = textOf(object, draft).replace(/\s+/g, '');
    const field = names.get(target) ?? fieldOf(target, draft);
    const method = t.isIdentifier(property) ? property.name : '';
    const [first, ...more] = call.arguments;
    if (field !== undefined && !more.length && isBegun(method, first) && !found.has(field)) {
      begun.set(field, { given: first && textOf(first, draft) });
      continue;
    }
    const options = call.arguments.every((one) => /^\{\s*emitEvent:\s*false,?\s*\}$/.test(textOf(one, draft)));
    if (field === undefined || found.has(field) || !/^(?:enable|disable)$/.test(method) || !options) return undefined;
    const again = begun.get(field);
    found.set(field, { on: method === 'enable', ...(again ? { again } : {}) });
  }
  return found.size && [...begun.keys()].every((field) => found.has(field)) ? found : undefined;
}

/** Whether a call gives a control the value that it begins with, or another one that is written there. */
function isBegun(method: string, given: t.Node | undefined): boolean {
  if (method === 'reset' && !given) return true;
  const plain =
    t.isStringLiteral(given) || t.isNumericLiteral(given) || t.isBooleanLiteral(given) || t.isNullLiteral(given);
  return /^(?:reset|setValue|patchValue)$/.test(method) && plain;
}

/** Whether a control is disabled at first exactly where the condition does not hold for the first value. */
function startsInStep({ field, of, text }: Switch, draft: Draft): boolean {
  const control = draft.controls.get(field);
  const initial = draft.controls.get(of)?.initial;
  if (!control) return false;
  const first = literalOf(initial);
  if (first === unknown) return false;
  const holds = valueOf(text, first);
  return holds !== undefined && holds === !control.disabled;
}

const unknown = Symbol('unknown');

function literalOf(node: t.Node | undefined): unknown {
  if (t.isStringLiteral(node) || t.isNumericLiteral(node) || t.isBooleanLiteral(node)) return node.value;
  return t.isNullLiteral(node) || node === undefined ? null : unknown;
}

/** What a plain comparison says of a value; undefined for other conditions. */
function valueOf(text: string, value: unknown): boolean | undefined {
  if (text === decidingValue) return Boolean(value);
  if (text === `!${decidingValue}`) return !value;
  const found = /^§ ([=!])==? (?:(['"])(.*)\2|(-?[\d.]+)|(true|false|null))$/.exec(text);
  if (!found) return undefined;
  const [, sign, , word, number, named] = found;
  const other: unknown =
    word ?? (number === undefined ? { true: true, false: false, null: null }[named ?? ''] : Number(number));
  return (value === other) === (sign === '=');
}

/** Whether other code of the class enables or disables a control as well. */
function isSwitchedElsewhere(field: string, { start, end }: Place, draft: Draft): boolean {
  const { text } = draft.site.component.script;
  const rest = text.slice(0, start) + text.slice(end);
  const key = field.split('.').at(-1) ?? field;
  return (
    new RegExp(`\\b${key}\\b['"\\])!?]*\\s*[?!]?\\.\\s*(?:enable|disable)\\(`).test(rest) ||
    /(?<!\w)this\.\w+\.(?:enable|disable)\(/.test(rest)
  );
}
