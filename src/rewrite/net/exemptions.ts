import * as t from '@babel/types';
import { spanOfNode, type Span } from '../../form/code.js';
import { tokensOf } from '../../source/tokens.js';
import { approachWords, type ApproachWords } from './approach-words.js';
import type { PlannedStep } from './caught.js';
import { goneNames } from './gone-names.js';
import { idleSpans } from './idle-code.js';
import { isScript, type PlacedToken } from './placed-token.js';
import { wiringSpans, type Wiring } from './wiring.js';

type Exempt = (token: PlacedToken, goneAltogether: boolean) => boolean;

/** What may go, by the place where it stands. */
export function exemptions(step: PlannedStep): Exempt {
  const { model, plan, files, sources } = step;
  const words = approachWords(model.approach);
  const { stated } = approachWords(step.to);
  const gone = goneNames(step);
  const wiring = wiringSpans(step);
  const retired = plan.ledger.filter(({ entry }) => entry === 'retired');
  const plainState = ['field-state', 'object-state', 'class-state'].includes(model.approach);
  const support = model.declarations.filter(({ role }) => role !== 'state' || !plainState);
  const declared = [...support, ...retired].map(({ span }) => span);
  const stateLines = model.declarations.filter(({ role }) => role === 'state').map(({ span }) => span);
  // where values are declared stands code of the author's: what they begin as
  const starts = model.declarations.filter(({ role }) => plainState && role === 'state').map(({ span }) => span);
  // of a reducer outside of the component only what is dispatched can run, and that is a value of a change
  const outside = declared.filter((span) => model.approach === 'reducer' && !holds(model.span, span));
  // what a case does moves word for word into a function of all values
  const steps = model.steps?.functions.map(({ body }) => body) ?? [];
  const stepHoles = steps.flatMap(({ file, holes }) => holes.map(({ start, end }) => ({ file, start, end })));
  const takenOver = plan.ledger.filter((entry) => entry.takenOver).map(({ span }) => span);
  const idle = [...new Set(files.map(({ file }) => file))].flatMap((file) => idleSpans(file, step));
  const bound = boundAttributes(step);
  const within = (token: PlacedToken, spans: readonly Span[]): boolean => spans.some((span) => holds(span, token));
  const fieldNames = new Set(model.fields.flatMap(({ name }) => name.split(/[.[\]]+/)));
  const results = files.map(({ after }) => after ?? '').join('\n');
  const typesSaid = new Set(
    model.fields.flatMap(({ type }) => (type !== undefined && results.includes(`: ${type}`) ? [type] : [])),
  );
  const texts = files.map(({ file, before }) => (before === null ? '' : sources.text(file))).join('\n');
  const payload = payloadNames(step, wiring);
  const actionName = remembered((value) => isActionName(value, texts));
  const actionKey = remembered((value) => isActionKey(value, texts));
  const imports = importSpans(step);
  const changes = model.uses.flatMap(({ kind, span }) => (kind === 'set' || kind === 'made-handler' ? [span] : []));
  const rules = ruleSpans(step);
  return (token, goneAltogether) => {
    const { kind, value } = token;
    if (within(token, steps)) return within(token, stepHoles);
    // a rule that becomes data says its message again; that it asks for the same is looked at by the equality of rules
    if ((kind !== 'text' || !rules.messages.has(value)) && within(token, rules.conditions)) return true;
    if (kind === 'name' && (!goneAltogether || gone.helpers.has(value)) && within(token, rules.functions)) return true;
    if (within(token, imports)) return true;
    // of a schema its messages are told again, and starts and rules are compared
    if (token.file.endsWith('.json')) return !(goneAltogether && kind === 'text' && rules.messages.has(value));
    if (kind === 'name' && (gone.own.has(value) || words.names.has(value))) return true;
    if (stated.has(value)) return true;
    // what a class does is said again word for word
    const verbatim = model.approach === 'class-state';
    // a value that a change looks at is no key of it
    const asked = kind === 'name' && /^\w+$/.test(value) && within(token, changes);
    const read = asked && isBehindDot(token, sources.text(token.file));
    if (kind === 'name' && fieldNames.has(value) && !goneAltogether && !verbatim && !read) return true;
    if (kind === 'operator' && words.operators.has(value) && isWiring(token, sources.text(token.file), verbatim))
      return true;
    if (kind === 'cast' && isPageCast(token, words, sources.text(token.file))) return true;
    // the type that a start is given is said of its value in the result
    if (kind === 'cast' && typesSaid.has(value) && within(token, declared.concat(stateLines))) return true;
    if (kind === 'text' && (fieldNames.has(value) || words.texts.has(value) || actionName(value))) return true;
    if (within(token, takenOver)) return true;
    if (within(token, idle) || within(token, wiring.holes)) return true;
    if (within(token, wiring.values)) return false;
    if (within(token, bound) || within(token, outside)) return true;
    if (within(token, wiring.calls)) return !(read && fieldNames.has(value));
    if (within(token, starts) && (gone.helpers.has(value) || payload.has(value))) return true;
    // a constant that all fields begin as is told field by field, and starts are compared
    if (value === model.holder?.initial && !model.holder.start && within(token, starts)) return true;
    // a start that is spread into the one of all fields is told field by field
    const isSpread = /\.\.\.\s*$/.test(sources.text(token.file).slice(Math.max(0, token.start - 20), token.start));
    if (isSpread && !model.holder?.start && !goneAltogether && within(token, starts)) return true;
    // the second argument of a reducer that begins with what a function gives
    if (model.approach === 'reducer' && /^(?:null|undefined)$/.test(value) && within(token, stateLines)) return true;
    if (!within(token, declared)) return false;
    return !goneAltogether || gone.helpers.has(value) || payload.has(value) || actionKey(value);
  };
}

/** Names by which a change hands its values to the holder; those in the values are the author's. */
function payloadNames({ files, sources }: PlannedStep, wiring: Wiring): Set<string> {
  const names = new Set<string>();
  for (const { file, before } of files) {
    if (before === null) continue;
    for (const token of tokensOf(file, sources.text(file))) {
      const place = { file, ...token };
      if (token.kind !== 'name' || !wiring.calls.some((span) => holds(span, place))) continue;
      if (!wiring.values.some((span) => holds(span, place))) names.add(token.value);
    }
  }
  return names;
}

/** An operator that tells a tick box from other controls, or spreads the values before. */
function isWiring({ value, start }: PlacedToken, text: string, verbatim: boolean): boolean {
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
function isBehindDot({ start, value }: PlacedToken, text: string): boolean {
  if (new RegExp(`\\b${value}\\s*:\\s*[\\w$.]+$`).test(text.slice(Math.max(0, start - 120), start))) return false;
  let at = start - 1;
  while (/\s/.test(text.charAt(at))) at--;
  return text.charAt(at) === '.';
}

/** A cast that says what kind of element the page gave. */
function isPageCast({ value, start }: PlacedToken, { casts }: ApproachWords, text: string): boolean {
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
    sources
      .script(file)
      .ast.program.body.flatMap((node) => (t.isImportDeclaration(node) ? [spanOfNode(file, node)] : [])),
  );
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

/** A name of an object that holds the names of actions. */
function isActionKey(value: string, texts: string): boolean {
  return /^\w+$/.test(value) && new RegExp(`(?:\\bcase\\s+|===?\\s*)(?:[\\w$]+\\.)+${value}\\b`).test(texts);
}
