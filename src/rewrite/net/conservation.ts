import * as t from '@babel/types';
import type { Span } from '../../form/code.js';
import { applyEdits } from '../../source/edits.js';
import { parseScript } from '../../source/script.js';
import { tokensOf, type Token } from '../../source/tokens.js';
import { approachWords, type ApproachWords } from './approach-words.js';
import { bindingsOf, type Declared } from './bindings.js';
import type { Caught, PlannedStep } from './caught.js';
import { wiringSpans, type Wiring } from './wiring.js';

interface Placed extends Token {
  file: string;
}

/**
 * Names, literals and operators that the edits take away have to come back in the texts put in. What may go is what
 * the old approach itself needs: its state calls and setters, the wiring of its events, the names that only it knows.
 */
export function lostTokens(step: PlannedStep): Caught[] {
  const exempt = exemptions(step);
  const after = countsOf(tokensAfter(step));
  const lost = new Map<string, Placed[]>();
  const supply = new Map<string, number>();
  const add = (key: string, count: number): void => void supply.set(key, (supply.get(key) ?? 0) + count);
  const pieces = piecesOf(step).map(({ removed, written }) => ({
    gone: byKey(removed),
    come: byKey(underOldNames(written, step)),
  }));
  // only what some edit takes away more often than it puts it in can be lost
  const missed = new Set(
    pieces.flatMap(({ gone, come }) =>
      [...gone].flatMap(([key, tokens]) => (tokens.length > (come.get(key)?.length ?? 0) ? [key] : [])),
    ),
  );
  for (const { gone, come } of pieces) {
    for (const key of missed) {
      const all = gone.get(key) ?? [];
      const count = come.get(key)?.length ?? 0;
      if (!all.length && !count) continue;
      const own = all.filter((token) => !exempt(token, (after.get(key) ?? 0) === 0));
      const missing = Math.min(own.length - count, own.length);
      if (missing > 0) lost.set(key, [...(lost.get(key) ?? []), ...own.slice(0, missing)]);
      // what may go and is written anew here came from elsewhere
      else add(key, Math.max(0, count - own.length));
    }
  }
  // what one edit takes away another one may put in
  const caught = [...lost].flatMap(([key, tokens]) => told(tokens.slice(supply.get(key) ?? 0)));
  return joined(caught, step);
}

interface Piece {
  removed: Placed[];
  written: Placed[];
}

/** What each edit takes away, and what it puts in; a file that is new or goes is one piece. */
function piecesOf({ plan, files }: PlannedStep): Piece[] {
  return files.flatMap(({ file, change, before, after }): Piece[] => {
    // a script that is new is the tool's own: nothing of the author's stands in it
    if (before === null && isScript(file)) return [];
    const old = before === null ? [] : placedIn(file, before);
    const edits = plan.edits.filter((edit) => edit.file === file).sort((a, b) => a.start - b.start || a.end - b.end);
    if (change !== 'edit' || before === null || !edits.length)
      return [{ removed: old, written: after === null ? [] : placedIn(file, after) }];
    const now = placedIn(file, applyEdits(before, edits));
    let moved = 0;
    return edits.map(({ start, end, text }) => {
      const from = start + moved;
      moved += text.length - (end - start);
      return { removed: touching(old, start, end), written: touching(now, from, from + text.length) };
    });
  });
}

/** Tokens, in order, that lie in a stretch of the text or reach into it. */
function touching(tokens: readonly Placed[], from: number, to: number): Placed[] {
  let low = 0;
  for (let high = tokens.length; low < high;) {
    const middle = (low + high) >> 1;
    if ((tokens[middle]?.end ?? 0) <= from) low = middle + 1;
    else high = middle;
  }
  const found: Placed[] = [];
  for (let at = low; at < tokens.length; at++) {
    const token = tokens[at];
    if (!token || token.start >= to) break;
    if (token.end > from) found.push(token);
  }
  return found;
}

function placedIn(file: string, text: string): Placed[] {
  return tokensOf(file, text).flatMap((token) => (token.kind === 'type' ? [] : [{ ...token, file }]));
}

function byKey(tokens: readonly Placed[]): Map<string, Placed[]> {
  const found = new Map<string, Placed[]>();
  for (const token of tokens) found.set(keyOf(token), [...(found.get(keyOf(token)) ?? []), token]);
  return found;
}

function told(tokens: readonly Placed[]): Caught[] {
  return tokens.map((token) => ({
    check: 'conservation',
    span: { file: token.file, start: token.start, end: token.end },
    what: token.value,
    why: token.kind === 'cast' ? `the cast to ${token.value} would be lost` : `${shown(token)} would be lost`,
  }));
}

function shown({ kind, value }: Token): string {
  return kind === 'text' || kind === 'words' ? `“${value.replace(/\s+/g, ' ').trim().slice(0, 60)}”` : value;
}

function isOneOf({ name }: t.JSXAttribute, ...wanted: string[]): boolean {
  return t.isJSXIdentifier(name) && wanted.includes(name.name);
}

/** What only a class says: bound methods, values of before, values that a callback of `setState` was just given. */
function wornByClass(node: t.Node): t.Node[] {
  if (t.isExpressionStatement(node) && isBinding(node.expression)) return [node];
  if (t.isMemberExpression(node) && t.isIdentifier(node.object) && /^(?:prev|old|last)/.test(node.object.name))
    return [node.property];
  const called = t.isCallExpression(node) && t.isMemberExpression(node.callee) ? node.callee.property : undefined;
  if (!t.isCallExpression(node) || !t.isIdentifier(called, { name: 'setState' })) return [];
  const [, callback] = node.arguments;
  const found: t.Node[] = [];
  if (callback)
    t.traverseFast(callback, (inner) => {
      const state =
        t.isMemberExpression(inner) && t.isMemberExpression(inner.object) ? inner.object.property : undefined;
      if (t.isMemberExpression(inner) && t.isIdentifier(state, { name: 'state' })) found.push(inner.property);
    });
  return found;
}

/** `this.send = this.send.bind(this)` */
function isBinding(node: t.Expression): boolean {
  if (!t.isAssignmentExpression(node) || !t.isCallExpression(node.right)) return false;
  const { callee } = node.right;
  return t.isMemberExpression(callee) && t.isIdentifier(callee.property, { name: 'bind' });
}

function isHookCall(node: t.Node | null | undefined): node is t.CallExpression {
  return t.isCallExpression(node) && t.isIdentifier(node.callee) && /^use[A-Z]/.test(node.callee.name);
}

/** A name of an object that holds the names of actions. */
function isActionKey(value: string, texts: string): boolean {
  return /^\w+$/.test(value) && new RegExp(`(?:\\bcase\\s+|===?\\s*)(?:[\\w$]+\\.)+${value}\\b`).test(texts);
}

/** One entry for each line: what would be lost of it. */
function joined(caught: readonly Caught[], { sources }: PlannedStep): Caught[] {
  const lines = new Map<string, Caught & { values: Set<string> }>();
  for (const one of [...caught].sort((a, b) => a.span.start - b.span.start)) {
    const text = sources.text(one.span.file);
    const start = text.lastIndexOf('\n', one.span.start - 1) + 1;
    const end = text.indexOf('\n', one.span.start);
    const key = `${one.span.file}:${start}`;
    const value = one.why.replace(/ would be lost$/, '');
    const known = lines.get(key);
    if (known) known.values.add(value);
    else
      lines.set(key, {
        ...one,
        what: text.slice(start, end < 0 ? text.length : end).trim(),
        values: new Set([value]),
      });
  }
  return [...lines.values()].map(({ values, ...one }) => {
    const all = [...values];
    return { ...one, why: `${all.slice(0, 6).join(', ')}${all.length > 6 ? ', …' : ''} would be lost` };
  });
}

function keyOf(token: Token): string {
  const { kind, value } = token;
  // a single word may be a literal in code and a part of an expression in a template
  if (kind === 'text' && /^[\w$-]+$/.test(value)) return `name:${value}`;
  return `${kind === 'words' ? 'text' : kind}:${value}`;
}

function countsOf(tokens: readonly Token[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const token of tokens) counts.set(keyOf(token), (counts.get(keyOf(token)) ?? 0) + 1);
  return counts;
}

function tokensAfter(step: PlannedStep): Placed[] {
  const all = step.files.flatMap(({ file, before, after }) =>
    after === null || (before === null && isScript(file)) ? [] : placedIn(file, after),
  );
  return underOldNames(all, step);
}

/** Tokens in which a name that gave way to another one is called as it was. */
function underOldNames(tokens: readonly Placed[], { plan }: PlannedStep): Placed[] {
  const old = new Map([...(plan.renamed ?? [])].map(([from, to]) => [to, from]));
  return tokens.map((token) => ({ ...token, value: old.get(token.value) ?? token.value }));
}

type Exempt = (token: Placed, goneAltogether: boolean) => boolean;

/** What may go, by the place where it stands. */
function exemptions(step: PlannedStep): Exempt {
  const { model, plan, files, sources } = step;
  const words = approachWords(model.approach);
  const gone = goneNames(step);
  const wiring = wiringSpans(step);
  const retired = plan.ledger.filter(({ entry }) => entry === 'retired');
  const plainState = ['field-state', 'object-state', 'class-state'].includes(model.approach);
  const support = model.declarations.filter(({ role }) => role !== 'state' || !plainState);
  const declared = [...support, ...retired].map(({ span }) => span);
  // where values are declared stands code of the author's: what they begin as
  const starts = model.declarations.filter(({ role }) => plainState && role === 'state').map(({ span }) => span);
  // of a reducer outside of the component only what is dispatched can run, and that is a value of a change
  const outside = declared.filter((span) => model.approach === 'reducer' && !holds(model.span, span));
  const takenOver = plan.ledger.filter((entry) => entry.takenOver).map(({ span }) => span);
  const idle = [...new Set(files.map(({ file }) => file))].flatMap((file) => idleSpans(file, step));
  const bound = boundAttributes(step);
  const within = (token: Placed, spans: readonly Span[]): boolean => spans.some((span) => holds(span, token));
  const fieldNames = new Set(model.fields.flatMap(({ name }) => name.split(/[.[\]]+/)));
  const texts = files.map(({ file, before }) => (before === null ? '' : sources.text(file))).join('\n');
  const payload = payloadNames(step, wiring);
  const actionName = remembered((value) => isActionName(value, texts));
  const actionKey = remembered((value) => isActionKey(value, texts));
  const imports = importSpans(step);
  const changes = model.uses.flatMap(({ kind, span }) => (kind === 'set' || kind === 'made-handler' ? [span] : []));
  const rules = ruleSpans(step);
  return (token, goneAltogether) => {
    const { kind, value } = token;
    // a rule that becomes data says its message again; that it asks for the same is looked at by the equality of rules
    if ((kind !== 'text' || !rules.messages.has(value)) && within(token, rules.conditions)) return true;
    if (kind === 'name' && (!goneAltogether || gone.helpers.has(value)) && within(token, rules.functions)) return true;
    if (within(token, imports)) return true;
    // of a schema its messages are told again, and starts and rules are compared
    if (token.file.endsWith('.json')) return !(goneAltogether && kind === 'text' && rules.messages.has(value));
    if (kind === 'name' && (gone.own.has(value) || words.names.has(value))) return true;
    // what a class does is said again word for word
    const verbatim = model.approach === 'class-state';
    // a value that a change looks at is no key of it
    const asked = kind === 'name' && /^\w+$/.test(value) && within(token, changes);
    const read = asked && isBehindDot(token, sources.text(token.file));
    if (kind === 'name' && fieldNames.has(value) && !goneAltogether && !verbatim && !read) return true;
    if (kind === 'operator' && words.operators.has(value) && isWiring(token, sources.text(token.file), verbatim))
      return true;
    if (kind === 'cast' && isPageCast(token, words, sources.text(token.file))) return true;
    if (kind === 'text' && (fieldNames.has(value) || words.texts.has(value) || actionName(value))) return true;
    if (within(token, takenOver)) return true;
    if (within(token, idle) || within(token, wiring.holes)) return true;
    if (within(token, wiring.values)) return false;
    if (within(token, bound) || within(token, outside)) return true;
    if (within(token, wiring.calls)) return !(read && fieldNames.has(value));
    if (within(token, starts) && (gone.helpers.has(value) || payload.has(value))) return true;
    if (!within(token, declared)) return false;
    return !goneAltogether || gone.helpers.has(value) || payload.has(value) || actionKey(value);
  };
}

/** Names by which a change hands its values to the holder. */
function payloadNames({ files, sources }: PlannedStep, wiring: Wiring): Set<string> {
  const names = new Set<string>();
  for (const { file, before } of files) {
    if (before === null) continue;
    for (const token of tokensOf(file, sources.text(file))) {
      const place = { file, ...token };
      if (token.kind === 'name' && wiring.calls.some((span) => holds(span, place))) names.add(token.value);
    }
  }
  return names;
}

/** An operator that tells a tick box from other controls, or spreads the values before. */
function isWiring({ value, start }: Placed, text: string, verbatim: boolean): boolean {
  if (!/^[=!]==$|^[?:]$/.test(value)) return true;
  const line = text.slice(text.lastIndexOf('\n', start) + 1, (text.indexOf('\n', start) + 1 || text.length + 1) - 1);
  if (verbatim) return /prev(?:State|Props)/.test(line) || asksBefore(line, text);
  return /checkbox|Object\.is\(|prev(?:State|Props)|=== ['"]on['"]|\btype\b/.test(line);
}

/** Whether a line asks what a class is told of before its update. */
function asksBefore(line: string, text: string): boolean {
  const found = /componentDidUpdate\s*\(\s*(\w+)[^,)]*(?:,\s*(\w+))?/.exec(text);
  return [found?.[1], found?.[2]].some((name) => name !== undefined && new RegExp(`\\b${name}\\.`).test(line));
}

/** Answers about texts that were asked before. */
function remembered(ask: (value: string) => boolean): (value: string) => boolean {
  const known = new Map<string, boolean>();
  return (value) => {
    const answer = known.get(value) ?? ask(value);
    known.set(value, answer);
    return answer;
  };
}

/** Whether a name is asked of something: `slip.desk`, but not where a field is given the value that it has: `desk: slip.desk`. */
function isBehindDot({ start, value }: Placed, text: string): boolean {
  if (new RegExp(`\\b${value}\\s*:\\s*[\\w$.]+$`).test(text.slice(Math.max(0, start - 120), start))) return false;
  let at = start - 1;
  while (/\s/.test(text.charAt(at))) at--;
  return text.charAt(at) === '.';
}

/** A cast that says what kind of element the page gave. */
function isPageCast({ value, start }: Placed, { casts }: ApproachWords, text: string): boolean {
  return (
    casts.test(value) ||
    /\.(?:elements|namedItem\([^)]*\)|target|currentTarget|current)\s+as\s*$/.test(
      text.slice(Math.max(0, start - 200), start),
    )
  );
}

function holds(span: Span, { file, start, end }: Span): boolean {
  return span.file === file && span.start <= start && span.end >= end;
}

/** Attributes that tie the template's elements to the old approach. */
function boundAttributes({ model }: PlannedStep): Span[] {
  const spans = [
    ...model.controls.flatMap(({ binding }) => binding?.attributes ?? []),
    ...(model.template?.attributes ?? []),
    ...(model.template?.groups.flatMap(({ attributes }) => attributes) ?? []),
    ...(model.lists?.flatMap(({ attributes }) => attributes) ?? []),
  ];
  return spans.map((span) => ({ ...span, file: model.template?.file ?? span.file }));
}

/** Where rules stand that the target states in its own way: their conditions, and the functions around them. */
function ruleSpans({ model, plan, to, after, sources }: PlannedStep): {
  conditions: Span[];
  functions: Span[];
  messages: Set<string>;
} {
  // of a function's rules some move into data, and others stay the code they are
  const moved = (after?.rules ?? []).flatMap(({ stated, message }) => (stated === 'json-schema' ? [message] : []));
  const restated = model.rules.filter(
    ({ stated, message }) => stated !== 'code' || (to === 'declared-schema' && (!after || moved.includes(message))),
  );
  const conditions = restated.map((rule) => rule.statedIn?.piece ?? rule.span);
  const code = conditions.map(({ file, start, end }) => sources.text(file).slice(start, end)).join('\n');
  // what only such a rule asked goes along with it
  const helpers = plan.ledger.flatMap(({ entry, what, span }) =>
    entry === 'retired' && /^\w+$/.test(what) && new RegExp(`\\b${what}\\b`).test(code) ? [span] : [],
  );
  return {
    conditions: [...conditions, ...helpers],
    messages: new Set(restated.flatMap(({ message }) => message ?? [])),
    functions: restated.flatMap(({ statedIn }) => (statedIn ? [statedIn.fn] : [])),
  };
}

/** Import declarations: what they bring counts where it is used. */
function importSpans({ files, sources }: PlannedStep): Span[] {
  const scripts = files.filter(({ file, before }) => before !== null && isScript(file));
  return scripts.flatMap(({ file }) =>
    sources.script(file).ast.program.body.flatMap((node) => (t.isImportDeclaration(node) ? [spanOf(file, node)] : [])),
  );
}

function isScript(file: string): boolean {
  return /\.[cm]?[jt]sx?$/.test(file);
}

function spanOf(file: string, { start, end }: t.Node): Span {
  return { file, start: start ?? 0, end: end ?? 0 };
}

/**
 * Code that goes with the approach although no use speaks of it: what a reducer throws at actions it does not know,
 * names by which a holder is handed its values or gives them, options of a hook that nobody gives.
 */
function idleSpans(file: string, step: PlannedStep): Span[] {
  const { model, sources } = step;
  if (!isScript(file) || !step.files.some((change) => change.file === file && change.before !== null)) return [];
  const found: Span[] = [];
  const add = (node: t.Node): void => void found.push(spanOf(file, node));
  const own = new Set(model.names.map(({ name }) => name));
  t.traverseFast(sources.script(file).ast, (node) => {
    if (t.isVariableDeclarator(node) && t.isIdentifier(node.id) && isHookCall(node.init)) own.add(node.id.name);
    if (t.isFunction(node)) for (const one of node.params) if (t.isIdentifier(one)) own.add(one.name);
  });
  const isOwn = (node: t.Node): boolean => t.isIdentifier(node) && own.has(node.name);
  t.traverseFast(sources.script(file).ast, (node) => {
    if (t.isCallExpression(node) && isOwn(node.callee))
      for (const argument of node.arguments)
        if (t.isObjectExpression(argument))
          for (const one of argument.properties) if (t.isObjectProperty(one) && !one.shorthand) add(one.key);
    // the page takes in what is typed by itself
    if (step.to === 'dom-values' && t.isJSXAttribute(node) && isOneOf(node, 'value', 'checked', 'onChange')) add(node);
    if (model.approach === 'reducer' && t.isThrowStatement(node)) add(node);
    const key = t.isObjectProperty(node) && t.isIdentifier(node.key) ? node.key.name : '';
    if (model.framework === 'angular' && /^(?:nonNullable|static|updateOn)$/.test(key)) add(node);
    if (model.approach === 'class-state') for (const one of wornByClass(node)) add(one);
    if (model.approach !== 'own-hook') return;
    if (t.isOptionalCallExpression(node)) add(node);
    if (t.isObjectPattern(node)) for (const one of node.properties) if (t.isObjectProperty(one)) add(one.key);
    if (t.isMemberExpression(node) && t.isIdentifier(node.object) && isOwn(node.object)) add(node.property);
    if (!t.isCallExpression(node) || !isHookCall(node)) return;
    add(node.callee);
    for (const one of node.arguments)
      if (t.isObjectExpression(one)) for (const given of one.properties) if (t.isObjectProperty(given)) add(given.key);
  });
  return found;
}

/** Texts that only tell actions apart. */
function isActionName(value: string, texts: string): boolean {
  const quoted = `(['"\`])${value.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}\\1`;
  if (new RegExp(`\\bcase\\s+${quoted}|\\b(?:type|kind|action|does|do)\\s*(?::|===?)\\s*${quoted}`).test(texts))
    return true;
  // a constant that stands for an action's name
  return [...texts.matchAll(new RegExp(`(\\w+)\\s*[:=]\\s*${quoted}`, 'g'))].some(([, name]) =>
    new RegExp(`(?:\\bcase\\s+|===?\\s*)(?:[\\w$]+\\.)*${name}\\b`).test(texts),
  );
}

/**
 * Names that nothing in the result declares any more. `own`: they may go wherever they stand, because the form's state,
 * a parameter or the approach's own import is called so; `helpers`: only where a holder that goes speaks of them.
 */
function goneNames({ model, files, plan, sources }: PlannedStep): { own: Set<string>; helpers: Set<string> } {
  const words = approachWords(model.approach);
  const after = new Set<string>();
  const before: Declared[] = [];
  for (const change of files) {
    if (!isScript(change.file)) continue;
    const isOwnText = change.after !== null && change.before !== null;
    const parsed = isOwnText ? parseScript(change.file, change.after ?? '') : undefined;
    if (parsed?.ok) for (const { name } of bindingsOf(parsed.script)) after.add(name);
    if (change.before !== null) before.push(...bindingsOf(sources.script(change.file)));
  }
  const own = new Set(before.filter((one) => one.parameter).map(({ name }) => name));
  const named = new Set(model.names.map(({ name }) => name));
  if (model.holder?.initial !== undefined) named.add(model.holder.initial);
  if (model.framework === 'angular')
    for (const [, name] of sources.text(model.file).matchAll(/(\w+)\s*(?::\s*|=\s*inject\(\s*)\w*FormBuilder\b/g))
      own.add(name ?? '');
  // the whole of a hook, and what it gave, is told by the uses
  const all = model.approach === 'own-hook' || model.approach === 'dom-values' || model.approach === 'class-state';
  const isOwn = ({ name, imported, parameter }: Declared): boolean =>
    all || named.has(name) || parameter || (imported !== undefined && words.imports.test(imported));
  const helpers = new Set<string>();
  for (const one of before) {
    const removed =
      plan.deletes.includes(one.file) ||
      plan.edits.some(({ file, start, end }) => file === one.file && start <= one.start && end >= one.end);
    // what a hook declares takes other names where they are taken
    if (removed && (!after.has(one.name) || model.approach === 'own-hook')) (isOwn(one) ? own : helpers).add(one.name);
    if (one.imported !== undefined && words.imports.test(one.imported)) own.add(one.name);
    if (model.approach === 'dom-values' && one.ref) own.add(one.name);
  }
  return { own, helpers };
}
