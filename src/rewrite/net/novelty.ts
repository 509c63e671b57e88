import * as t from '@babel/types';
import { parseScript, type Script } from '../../source/script.js';
import { madeUpObjects } from './made-up-objects.js';
import { said } from './said.js';
import { turnedRound } from './turned-round.js';
import type { Caught, PlannedStep } from './caught.js';

/**
 * What the result says that nobody wrote: an expression that differs from the author's in an operator or a literal
 * alone, and an object of some of the fields, where no object and no change of the
 * original takes just these together. A field that was forgotten, or put in the place of another, shows there.
 */
export function madeUp(step: PlannedStep): Caught[] {
  return [...madeUpObjects(step), ...alteredExpressions(step), ...looserComparisons(step)];
}

/** Comparisons that take other types for equal, where the author's do not. */
function looserComparisons({ model, files, sources }: PlannedStep): Caught[] {
  // what was data becomes code
  if (model.approach === 'declared-schema') return [];
  const count = (script: Script): number => {
    let found = 0;
    t.traverseFast(script.ast, (node) => {
      if (t.isBinaryExpression(node) && /^[!=]=$/.test(node.operator)) found += 1;
    });
    return found;
  };
  return files.flatMap(({ file, before, after }): Caught[] => {
    if (before === null || after === null || !/\.[cm]?[jt]sx?$/.test(file)) return [];
    const parsed = parseScript(file, after);
    const all = model.files.filter((one) => /\.[cm]?[jt]sx?$/.test(one)).map((one) => count(sources.script(one)));
    const known = Math.max(
      count(sources.script(file)),
      all.reduce((sum, one) => sum + one, 0),
    );
    if (!parsed.ok || count(parsed.script) <= known) return [];
    const span = { ...model.span, end: model.span.start };
    return [{ check: 'conservation', span, what: model.component, why: 'nobody compared by == or != here' }];
  });
}

/** Expressions that say almost what the author's do. */
function alteredExpressions({ model, files, sources }: PlannedStep): Caught[] {
  // what was data becomes code
  if (model.approach === 'declared-schema') return [];
  const known = new Map<string, Set<string>>();
  const turned = new Set<string>();
  const isScript = (file: string): boolean => /\.[cm]?[jt]sx?$/.test(file);
  for (const file of new Set([...model.files, ...files.flatMap((one) => (one.before === null ? [] : [one.file]))]))
    if (isScript(file)) {
      for (const { skeleton, whole } of expressionsOf(sources.script(file)))
        known.set(skeleton, (known.get(skeleton) ?? new Set()).add(whole));
      for (const one of turnedRound(sources.script(file))) turned.add(one);
    }
  // what switches a control off is told from the other side
  const switching = model.controls.map(({ binding }) => {
    const { usableWhile, text = '' } = binding?.disabled ?? {};
    return text.replaceAll('§', usableWhile?.again?.parameter ?? '§').replace(/\s+/g, '');
  });
  const limits = new Set([...model.files].flatMap((file) => (isScript(file) ? limitsOf(sources.script(file)) : [])));
  const found: Caught[] = [];
  for (const { file, before, after } of files) {
    if (before === null || after === null || !isScript(file)) continue;
    const parsed = parseScript(file, after);
    if (!parsed.ok) continue;
    const ruled =
      model.approach === 'signal-model'
        ? ruleConditions(parsed.script)
        : model.approach === 'react-hook-form'
          ? beyondLimits(parsed.script, limits)
          : [];
    for (const { skeleton, whole, text, at } of expressionsOf(parsed.script)) {
      if (ruled.some(({ start, end }) => start <= at && end > at)) continue;
      const authors = known.get(skeleton);
      if (!authors || authors.has(whole) || turned.has(whole)) continue;
      if (switching.includes(text.replace(/\s+/g, ''))) continue;
      found.push({
        check: 'conservation',
        span: { ...model.span, end: model.span.start },
        what: text,
        why: `nobody wrote “${text}”, only much the same with another operator or value`,
      });
    }
  }
  return found;
}

/** Conditions under which a value is wrong: what a rule of a schema says by its name alone. */
function ruleConditions({ ast }: Script): { start: number; end: number }[] {
  const found: { start: number; end: number }[] = [];
  t.traverseFast(ast, (node) => {
    if (!t.isIfStatement(node) || !t.isExpressionStatement(node.consequent)) return;
    const { expression } = node.consequent;
    if (t.isCallExpression(expression) && t.isIdentifier(expression.callee, { name: 'wrong' }))
      found.push({ start: node.test.start ?? 0, end: node.test.end ?? 0 });
  });
  return found;
}

/** The limits that rules of a package state by their names: `min: { value: 1, … }`. */
function limitsOf({ ast, text }: Script): string[] {
  const found: string[] = [];
  t.traverseFast(ast, (node) => {
    if (!t.isObjectProperty(node) || !t.isIdentifier(node.key) || !/^(?:min|max)(?:Length)?$/.test(node.key.name))
      return;
    const { value } = node;
    const own = t.isObjectExpression(value)
      ? value.properties.find((one) => t.isObjectProperty(one) && t.isIdentifier(one.key, { name: 'value' }))
      : undefined;
    const limit = t.isObjectProperty(own) ? own.value : value;
    found.push(text.slice(limit.start ?? 0, limit.end ?? 0));
  });
  return found;
}

/** Comparisons with a limit that a rule stated by its name. */
function beyondLimits({ ast, text }: Script, limits: ReadonlySet<string>): { start: number; end: number }[] {
  const found: { start: number; end: number }[] = [];
  t.traverseFast(ast, (node) => {
    if (!t.isBinaryExpression(node) || !/^[<>]$/.test(node.operator)) return;
    if (limits.has(text.slice(node.right.start ?? 0, node.right.end ?? 0)))
      found.push({ start: node.start ?? 0, end: node.end ?? 0 });
  });
  return found;
}

interface Expression {
  /** With marks in the place of operators and literals. */
  skeleton: string;
  whole: string;
  text: string;
  at: number;
}

/** The expressions of a script in which an operator or a literal can be wrong. */
function expressionsOf(script: Script): Expression[] {
  const found: Expression[] = [];
  t.traverseFast(script.ast, (node) => {
    const telling =
      // sums get their parts from elsewhere: an action's payload, an argument
      (t.isBinaryExpression(node) && !/^[-+*/%]$/.test(node.operator)) ||
      t.isLogicalExpression(node) ||
      t.isConditionalExpression(node) ||
      (t.isCallExpression(node) &&
        t.isMemberExpression(node.callee) &&
        !/^use[A-Z]/.test(said(node.callee, true)) &&
        node.arguments.some((one) => t.isLiteral(one)));
    if (!telling) return;
    const skeleton = said(node, true);
    // what a control gives is narrowed to what its field can be
    if (t.isBinaryExpression(node) && /(^|\.)value$/.test(said(node.left, true))) return;
    if (!/[?#]/.test(skeleton) || skeleton.length > 200) return;
    const text = script.text
      .slice(node.start ?? 0, node.end ?? 0)
      .replace(/\s+/g, ' ')
      .slice(0, 60);
    found.push({ skeleton, whole: said(node, false), text, at: node.start ?? 0 });
  });
  return found;
}
