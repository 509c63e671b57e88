import { stepWords, type Step } from './steps.js';
import type { Seen, Trace } from './trace.js';

/** One step of both versions. `difference` says in a sentence what differs; null where nothing does. */
export interface ComparedStep {
  step: Step;
  words: string;
  before: Seen;
  after: Seen;
  same: boolean;
  difference: string | null;
}

export interface Comparison {
  same: boolean;
  steps: ComparedStep[];
  renders: { before: number | null; after: number | null };
  /** Complaints of the framework that only one version makes. */
  complaints: { before: string[]; after: string[] };
}

/** A complaint without the names that code has for what it asks. */
function plainComplaint(text: string): string {
  return text.replace(/(?:[\w$]+(?:\.|\?\.))*[\w$]+ is not (a function|iterable)/g, 'something is not $1');
}

function missingFrom(list: readonly string[], other: readonly string[]): string[] {
  const left = [...other];
  return list.filter((entry) => {
    const index = left.indexOf(entry);
    if (index < 0) return true;
    left.splice(index, 1);
    return false;
  });
}

function quotedList(entries: readonly string[]): string {
  if (!entries.length) return 'nothing';
  const shown = entries
    .slice(0, 3)
    .map((entry) => `«${entry}»`)
    .join(', ');
  return entries.length > 3 ? `${shown} and ${entries.length - 3} more` : shown;
}

function listDifference(what: string, before: readonly string[], after: readonly string[]): string | undefined {
  if (before.join('\n') === after.join('\n')) return undefined;
  const gone = missingFrom(before, after);
  const come = missingFrom(after, before);
  if (!gone.length && !come.length) return `the order of ${what} differs`;
  return `before ${what === 'text' ? 'shows' : `has ${what}`} ${quotedList(gone)}, after ${what === 'text' ? 'shows' : `has ${what}`} ${quotedList(come)}`;
}

function bareText(lines: readonly string[]): string {
  return lines.join('').replace(/\s+/g, '');
}

/** The members of an object's text, such as `{ row: "B", kilos: 3 }`; undefined where it is no such text. */
function membersOf(text: string): string[] | undefined {
  const inner = /^\{ (.*) \}$/s.exec(text)?.[1];
  if (inner === undefined) return undefined;
  const members = [''];
  let depth = 0;
  let quoted = false;
  for (const [at, letter] of [...inner].entries()) {
    if (letter === '"' && inner[at - 1] !== '\\') quoted = !quoted;
    if (!quoted && /[[{(]/.test(letter)) depth += 1;
    if (!quoted && /[\]})]/.test(letter)) depth -= 1;
    if (!quoted && depth === 0 && letter === ',') members.push('');
    else members[members.length - 1] += letter;
  }
  return members.map((member) => member.trim());
}

/** Of one call with one object, only the members that differ; undefined where more than that does. */
function memberDifference(gone: readonly string[], come: readonly string[]): string | undefined {
  const [one, other] = [gone, come].map((calls) => /^([\w.]+)\((.*)\)$/s.exec(calls[0] ?? ''));
  if (gone.length !== 1 || come.length !== 1 || !one || !other || one[1] !== other[1]) return undefined;
  const [before, after] = [membersOf(one[2] ?? ''), membersOf(other[2] ?? '')];
  if (!before || !after) return undefined;
  const [left, right] = [missingFrom(before, after), missingFrom(after, before)];
  return `${one[1] ?? ''} is called with ${quotedList(left)} before and ${quotedList(right)} after`;
}

/** What differs between two looks, in a sentence without the step; undefined where a person would notice nothing. */
export function differenceOf(before: Seen, after: Seen): string | undefined {
  if (before.trouble !== after.trouble)
    return `before ${before.trouble ?? 'this can be done'}, after ${after.trouble ?? 'this can be done'}`;
  if (before.controls.length !== after.controls.length) {
    const labels = (seen: Seen): string[] => seen.controls.map((control) => control.label);
    return `before has ${before.controls.length} controls, after ${after.controls.length} (${quotedList([...missingFrom(labels(before), labels(after)), ...missingFrom(labels(after), labels(before))])})`;
  }
  for (const [index, one] of before.controls.entries()) {
    const other = after.controls[index];
    if (!other) continue;
    const name = one.label || `control ${index + 1}`;
    if (one.value !== other.value) return `${name} holds «${one.value}» before and «${other.value}» after`;
    if (one.checked !== other.checked)
      return `${name} is ${one.checked ? 'ticked' : 'not ticked'} before and ${other.checked ? 'ticked' : 'not ticked'} after`;
    if (one.disabled !== other.disabled)
      return `${name} is ${one.disabled ? 'disabled' : 'enabled'} before and ${other.disabled ? 'disabled' : 'enabled'} after`;
    if (one.label !== other.label) return `a control is called «${one.label}» before and «${other.label}» after`;
  }
  const buttons = (seen: Seen): string[] =>
    seen.buttons.map(({ label, disabled }) => `${label}${disabled ? ' (disabled)' : ''}`);
  const buttonsDiffer = listDifference('buttons', buttons(before), buttons(after));
  if (buttonsDiffer !== undefined) return buttonsDiffer;
  if (bareText(before.text) !== bareText(after.text))
    return listDifference('text', before.text, after.text) ?? 'the text differs';
  if (before.leftPage !== after.leftPage)
    return before.leftPage
      ? 'before lets the browser leave the page, after does not'
      : 'before stays on the page, after lets the browser leave it';
  const calls = (seen: Seen): string[] =>
    seen.calls.map(({ name, arguments: given }) => `${name}(${given.join(', ')})`);
  const [callsBefore, callsAfter] = [calls(before), calls(after)];
  if (callsBefore.join('\n') !== callsAfter.join('\n')) {
    const gone = missingFrom(callsBefore, callsAfter);
    const come = missingFrom(callsAfter, callsBefore);
    if (!gone.length && !come.length) return 'the same calls are made in another order';
    return memberDifference(gone, come) ?? `before calls ${quotedList(gone)}, after calls ${quotedList(come)}`;
  }
  const classes = listDifference('classes', before.classes, after.classes);
  if (classes !== undefined) return classes;
  const aria = listDifference('roles and states', before.aria, after.aria);
  if (aria !== undefined) return aria;
  if (before.focus !== after.focus)
    return `the focus is ${before.focus ? `in ${before.focus}` : 'nowhere'} before and ${after.focus ? `in ${after.focus}` : 'nowhere'} after`;
  return undefined;
}

function complaintsOf(trace: Trace): Set<string> {
  return new Set(trace.steps.flatMap(({ seen }) => seen.complaints));
}

/** Compares two traces of the same steps. New complaints of the framework are a difference, too. */
export function compareTraces(before: Trace, after: Trace): Comparison {
  const steps = before.steps.map(({ step, seen }, index): ComparedStep => {
    const other = after.steps[index]?.seen ?? seen;
    const difference = differenceOf(seen, other);
    const words = stepWords(step);
    const sentence =
      difference === undefined ? null : 'look' in step ? `at ${words}: ${difference}` : `after ${words}: ${difference}`;
    return { step, words, before: seen, after: other, same: sentence === null, difference: sentence };
  });
  const [old, now] = [complaintsOf(before), complaintsOf(after)];
  const only = (some: ReadonlySet<string>, others: ReadonlySet<string>): string[] => {
    const known = new Set([...others].map(plainComplaint));
    return [...some].filter((text) => !known.has(plainComplaint(text)));
  };
  const complaints = { before: only(old, now), after: only(now, old) };
  return {
    same: steps.every(({ same }) => same) && !complaints.after.length,
    steps,
    renders: { before: before.renders, after: after.renders },
    complaints,
  };
}
