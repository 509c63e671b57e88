import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Constraint, Guard } from '../form/rules.js';
import { bare, constantBehind } from '../source/behind-names.js';
import type { Script } from '../source/script.js';
import { brokenBy, guardOf, insideHelper, type Test } from './conditions.js';
import {
  fieldAt,
  keyAt,
  localValue,
  meaningOf,
  standsForValues,
  type Asked,
  type Names,
  type RuleLens,
} from './meanings.js';
import { walk } from '../source/traverse.js';

/** A rule as code states it. */
export interface StatedRule {
  /** The name its message is kept under; undefined where there is one message for the whole form. */
  key: string | undefined;
  fields: string[];
  constraint: Constraint;
  guards: Guard[];
  /** The whole condition as source text. */
  condition: string;
  /** The message; source text in the marks of a template where it is computed. */
  message: string;
  computed: boolean;
  script: Script;
  /** The condition, or the message where there is none. */
  at: NodePath;
  /** The statement or property that states it. */
  piece: NodePath;
}

export interface Condition extends Test {
  /** It comes from an earlier branch that was not taken; the names that got a message there. */
  earlier?: Set<string | undefined>;
  /** The condition as the source names it, where this is a part of what a helper asks. */
  told?: Condition;
}

export interface Context {
  tests: Condition[];
  names: Names;
  script: Script;
  key: string | undefined;
  piece: NodePath | undefined;
  /** The function whose result is looked at. */
  given: t.Node | undefined;
  /** The same code runs for several rows of a table. */
  repeats?: boolean;
  depth: number;
}

export interface Found extends StatedRule {
  /** The chain of branches it stands in, where its message is put over one that is there already. */
  over: NodePath | undefined;
  /** The function that gives the message as its result, where one does. */
  given: t.Node | undefined;
}

export interface Walk {
  lens: RuleLens;
  found: Found[];
  /** Functions that give some text whatever the values are: what they give is no message. */
  answering: Set<t.Node>;
}

/** An expression with what the names around it mean. */
export function asked(path: NodePath, context: Context): Asked {
  return { path, script: context.script, names: context.names };
}

/** Whether an expression is a text a person would read. */
export function isMessage(path: NodePath, context: Context, lens: RuleLens): boolean {
  const here = asked(path, context);
  const meaning = meaningOf(here);
  if (meaning) return meaning.kind === 'code' && isMessage(meaning.at.path, { ...context, ...meaning.at }, lens);
  if (path.isTemplateLiteral()) return path.node.quasis.some(({ value }) => /\p{L}/u.test(value.raw));
  if (path.isJSXElement()) return wordsOfElement(path.node) !== undefined;
  const constant = constantBehind(here, lens.load);
  if (typeof constant === 'string') return /\S/.test(constant);
  // a text that is looked up by its name
  if (!path.isCallExpression()) return false;
  const { callee, arguments: given } = path.node;
  return t.isIdentifier(callee) && /^(t|translate|msg|message|text)$/.test(callee.name) && t.isStringLiteral(given[0]);
}

/** The words of an element that holds nothing else. */
function wordsOfElement(element: t.JSXElement): string | undefined {
  const children = element.children.filter((child) => !t.isJSXText(child) || /\S/.test(child.value));
  const [only] = children;
  return children.length === 1 && t.isJSXText(only) ? only.value.replace(/\s+/g, ' ').trim() : undefined;
}

function textOf(path: NodePath, script: Script): string {
  return script.text.slice(path.node.start ?? 0, path.node.end ?? 0);
}

/** A template whose places are filled with constants that a function is given: `At least ${least} letters`. */
function filledText(path: NodePath<t.TemplateLiteral>, context: Context, lens: RuleLens): string | undefined {
  const parts = (path.get('expressions') as NodePath[]).map((part) => {
    const meaning = meaningOf(asked(part, context));
    return meaning?.kind === 'code' ? constantBehind(meaning.at, lens.load) : undefined;
  });
  if (parts.some((part) => part === undefined)) return undefined;
  return path.node.quasis.map(({ value }, index) => (value.cooked ?? '') + String(parts[index] ?? '')).join('');
}

function messageText(path: NodePath, context: Context, lens: RuleLens): { message: string; computed: boolean } {
  const meaning = meaningOf(asked(path, context));
  if (meaning?.kind === 'code') return messageText(bare(meaning.at.path), { ...context, ...meaning.at }, lens);
  const words = path.isJSXElement() ? wordsOfElement(path.node) : undefined;
  const constant = words ?? constantBehind(asked(path, context), lens.load);
  if (typeof constant === 'string') return { message: constant, computed: false };
  const whole = path.isTemplateLiteral() ? filledText(path, context, lens) : undefined;
  if (whole !== undefined) return { message: whole, computed: false };
  const text = textOf(path, context.script);
  return { message: path.isTemplateLiteral() ? text.slice(1, -1) : `\${${text}}`, computed: true };
}

/** Tests taken apart into single conditions that all have to hold. */
function conjuncts(tests: readonly Condition[]): Condition[] {
  return tests.flatMap((test): Condition[] => {
    const path = bare(test.path);
    const inner = (of: NodePath, negated: boolean): Condition => ({ ...test, path: of, negated });
    if (path.isUnaryExpression({ operator: '!' })) return conjuncts([inner(path.get('argument'), !test.negated)]);
    const joins = test.negated ? '||' : '&&';
    if (path.isLogicalExpression() && path.node.operator === joins)
      return conjuncts([inner(path.get('left'), test.negated), inner(path.get('right'), test.negated)]);
    return [{ ...test, path }];
  });
}

/** Conditions of which one is enough to break a rule. */
function disjuncts(test: Condition, lens: RuleLens, depth = 0): Condition[] {
  const path = bare(test.path);
  const joins = test.negated ? '&&' : '||';
  if (path.isUnaryExpression({ operator: '!' }))
    return disjuncts({ ...test, path: path.get('argument'), negated: !test.negated }, lens, depth);
  if (path.isLogicalExpression() && path.node.operator === joins)
    return [path.get('left'), path.get('right')].flatMap((of) => disjuncts({ ...test, path: of }, lens, depth));
  // `isBlank(town)` where that asks for one of two things: both go by the helper's name
  const inner = depth < 3 ? insideHelper({ ...test, path }, lens) : undefined;
  const behind = inner && bare(inner.path);
  if (!inner || !behind?.isLogicalExpression() || behind.node.operator !== joins) return [test];
  return disjuncts({ ...test, ...inner, told: test.told ?? test }, lens, depth + 1);
}

/** `!errors.place`: nothing is said of the field yet. */
function asksEarlierMessage(test: Condition, key: string | undefined): boolean {
  const { path } = test;
  if (!test.negated || key === undefined || !path.isMemberExpression()) return false;
  const property = path.get('property') as NodePath;
  const asks = path.node.computed ? keyAt({ ...test, path: property })?.name : (property.node as t.Identifier).name;
  return (
    asks === key &&
    t.isIdentifier(path.node.object) &&
    /err|problem|fault|found|invalid|message|complaint|wrong/i.test(path.node.object.name)
  );
}

function conditionText(tests: readonly Condition[]): string {
  return tests
    .map(({ told, ...own }) => {
      const test = told ?? own;
      const text = textOf(test.path, test.script).replace(/\s+/g, ' ');
      const whole = tests.length > 1 && (test.path.isLogicalExpression() || test.path.isConditionalExpression());
      if (!test.negated) return whole ? `(${text})` : text;
      const inner = test.path.isUnaryExpression({ operator: '!' }) ? test.path.get('argument') : undefined;
      if (inner) return textOf(inner, test.script).replace(/\s+/g, ' ');
      return /^[\w.]+$|\)$/.test(text) && !test.path.isBinaryExpression() && !test.path.isLogicalExpression()
        ? `!${text}`
        : `!(${text})`;
    })
    .join(' && ');
}

/** Where a message that a table holds is written. */
function placeOfMessage(message: NodePath, context: Context): { script: Script; at: NodePath } {
  const meaning = meaningOf(asked(message, context));
  return meaning?.kind === 'code'
    ? { script: meaning.at.script, at: meaning.at.path }
    : { script: context.script, at: message };
}

/** Tests that call a row's own function, as what that function gives. */
function spelledOut(tests: readonly Condition[], lens: RuleLens): Condition[] {
  return tests.map((test) => {
    const path = bare(test.path);
    if (path.isUnaryExpression({ operator: '!' }))
      return spelledOut([{ ...test, path: path.get('argument'), negated: !test.negated }], lens)[0] ?? test;
    const inner = insideHelper({ ...test, path }, lens) ?? localValue({ ...test, path });
    return inner ? { ...test, ...inner } : { ...test, path };
  });
}

/** Notes the rule that a message under conditions states. */
export function emit(message: NodePath, context: Context, walk: Walk, over: NodePath | undefined): void {
  const { lens } = walk;
  const { key } = context;
  const counted = context.tests.filter((test) => !(test.earlier?.has(key) ?? false));
  const parts = conjuncts(counted).filter((test) => !asksEarlierMessage(test, key));
  const keeps = conjuncts(counted).length > parts.length;
  const main = parts.at(-1);
  const last = counted.at(-1);
  const fields = fieldsOfTests(counted, lens);
  if (!main || !last || (!fields.length && key === undefined)) return;
  const texts = messageText(message, context, lens);
  const guards = parts.slice(0, -1).map((test) => guardOf(test, lens));
  const known = guards.flatMap((guard) => guard ?? []);
  const alternatives = disjuncts(main, lens);
  const ways = alternatives.map((test) => brokenBy(test, lens));
  const standard =
    known.length === guards.length && ways.every((way) => way !== undefined && way.constraints.length > 0);
  const said = (tests: readonly Condition[]): string =>
    conditionText(context.repeats ? spelledOut(tests, lens) : tests);
  const condition = said(context.repeats ? parts : counted);
  const place = context.repeats ? placeOfMessage(message, context) : { script: last.script, at: last.path };
  const base = {
    key,
    condition,
    ...texts,
    ...place,
    piece: context.piece ?? message,
    over: keeps ? undefined : over,
    given: context.given,
  };
  const asCode = (): Found => ({
    ...base,
    fields: fields.length ? fields : key === undefined ? [] : [key],
    guards: [],
    constraint: { kind: 'custom', code: condition, async: false },
  });
  if (!standard) {
    walk.found.push(asCode());
    return;
  }
  for (const [index, way] of ways.entries()) {
    const test = alternatives[index];
    if (!way || !test) continue;
    const own = alternatives.length > 1 ? said([...parts.slice(0, -1), test]) : condition;
    for (const constraint of way.constraints)
      walk.found.push({
        ...base,
        condition: own,
        fields: way.other === undefined ? [way.field] : [way.field, way.other],
        constraint,
        guards: known,
      });
  }
}

/** The fields that conditions look at, in order. */
function fieldsOfTests(tests: readonly Condition[], lens: RuleLens): string[] {
  const found: string[] = [];
  const look = (at: Asked, depth: number): void => {
    if (depth > 5) return;
    const visit = (path: NodePath): void => {
      if (path.parentPath?.isMemberExpression() === true && path.key === 'property' && !path.parentPath.node.computed)
        return;
      const here = { ...at, path };
      const field = fieldAt(here, lens);
      if (field !== undefined) {
        if (!found.includes(field)) found.push(field);
        return;
      }
      const meaning = meaningOf(here);
      if (meaning?.kind === 'code') look(meaning.at, depth + 1);
      else if (path.isIdentifier() && !standsForValues(here, lens)) {
        const declared = path.scope.getBinding(path.node.name)?.path;
        if (declared?.isVariableDeclarator() && declared.node.init && !declared.parentPath.parentPath?.isProgram())
          look({ ...at, path: declared.get('init') as NodePath }, depth + 1);
      }
    };
    visit(at.path);
    walk(at.path, { Identifier: visit, MemberExpression: visit, OptionalMemberExpression: visit });
  };
  for (const test of tests) look(test, 0);
  // a whole that one of its members was found of says nothing more
  return found.filter((field) => !found.some((other) => other !== field && other.startsWith(`${field}.`)));
}
