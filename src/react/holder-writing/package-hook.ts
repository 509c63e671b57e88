import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import { codeText } from '../../form/code-text.js';
import type { Span } from '../../form/code.js';
import type { SubmitCourse, SubmitHandler } from '../../form/life.js';
import type { FormModel } from '../../form/model.js';
import { isControlUse, type Use } from '../../form/uses.js';
import { leftByHand, placeByHand, type WriteContext } from '../../form/writing.js';
import type { Item } from '../../source/layout.js';
import { isBefore, missingDependencies, versionOf } from '../../source/packages.js';
import { wholeLines } from '../../source/removal.js';
import { movedLines } from '../../source/moved-lines.js';
import { indentAt } from '../../source/style.js';
import type { CallTable, OptionSends } from '../calls/table.js';
import type { HookFile } from '../form-hook/hook-file.js';
import { placeOfState } from '../state-edits.js';
import type { Draft, HookCall } from './draft.js';
import { writeHeldObject } from './write.js';

/** What a form that sends through a hook does at its submit. */
interface Sending {
  edits: RewritePlan['edits'];
  /** Members that the component takes, and options that the hook is given. */
  also: string[];
  options: NonNullable<HookCall['options']>;
  /** Code that moves to the hook's options. */
  moved: Span[];
  ledger: LedgerEntry[];
}

/** Writes a form whose values the hook of an npm package keeps; what it keeps besides stays the author’s own code. */
export function writePackageHook(model: FormModel, context: WriteContext, calls: CallTable): RewritePlan {
  const { from } = calls;
  if (!from) throw new Error(`${calls.hook} comes from no package`);
  const course = model.life?.().course;
  const obstacles = [...unsaid(model, context, calls), ...unsent(course, context, calls)];
  if (obstacles.length) return leftByHand(obstacles);
  const hook: HookFile = { file: '', name: calls.hook, calls, from: from.name, text: undefined };
  const sending = sendingBy(course, context, calls);
  const plan = writeHeldObject(
    model,
    context,
    hook,
    { also: sending.also, options: sending.options },
    { edits: sending.edits, lines: [], adds: [], moved: sending.moved },
  );
  if (plan.ledger.some(({ entry }) => entry === 'by-hand')) return plan;
  const missing = olderThan(calls, plan, model, context);
  if (missing) return leftByHand([missing]);
  return {
    ...plan,
    edits: [...plan.edits, ...sending.edits],
    ledger: [...plan.ledger, ...sending.ledger],
    dependencies: missingDependencies([from], model.file, context),
  };
}

/** A member that the project’s version of the package does not have yet, where the form would need it. */
function olderThan(
  { from, all, allSince }: CallTable,
  plan: RewritePlan,
  model: FormModel,
  context: WriteContext,
): LedgerEntry | undefined {
  const version = from && versionOf(from.name, model.file, context);
  if (version === undefined || allSince === undefined || !isBefore(version, allSince)) return undefined;
  const asks = plan.edits.some(({ text }) => new RegExp(`\\b${all ?? ''}\\b`).test(text));
  const why = `${from?.name ?? ''} has ${all ?? ''} from ${allSince} on, and this project has ${version}`;
  return asks ? { entry: 'by-hand', span: model.span, what: model.component, why } : undefined;
}

/** Changes that the hook’s members cannot say. */
function unsaid(model: FormModel, context: WriteContext, calls: CallTable): LedgerEntry[] {
  const { from } = calls;
  const name = from?.name ?? calls.hook;
  // a function that sets several values has to say their type
  const untyped =
    model.typescript &&
    (model.holder ? model.holder.type === undefined : !model.fields.some(({ typeWritten }) => typeWritten));
  const crowded = model.life?.().crowded ?? [];
  const isCrowded = ({ span }: Use): boolean =>
    crowded.some(({ file, start, end }) => span.file === file && span.start === start && span.end === end);
  const why = (use: Use): string | undefined => {
    if (isControlUse(use)) return undefined;
    if (calls.shown.by === 'call' && use.kind === 'read-all' && use.listed && !use.memo)
      return `${name} gives a new object of values at every view, so this would run every time`;
    if (calls.outdated && looksBack(use) && isCrowded(use))
      return `an earlier change comes before it in the same turn, and ${name} would build on the values of the last view`;
    if (calls.all === undefined && untyped && needsAll(use))
      return `${name} has no member that changes several values at once, and the values have no type of a name`;
    return undefined;
  };
  const nested = model.fields.filter((field) => field.name.includes('.') && !model.holder);
  return [
    ...model.uses.flatMap((use) => {
      const reason = why(use);
      return reason === undefined ? [] : [placeByHand(use.span, context, reason)];
    }),
    ...nested.map(({ declared }) => placeByHand(declared, context, `${name} takes a dot for a group of values`)),
  ];
}

/** Whether a change builds on the values before it. */
function looksBack(use: Use): boolean {
  if (use.kind === 'set-all') return use.merge || use.from !== undefined || use.step?.takesValues === true;
  if (use.kind !== 'set') return false;
  // an object that is written out is worked out where it stands
  const updater = use.whole !== undefined && use.whole.code !== use.whole.merges;
  return updater || use.assignments.some(({ value }) => value.kind === 'from-previous');
}

/** Whether a change is about several values where no statements of their own can stand. */
function needsAll(use: Use): boolean {
  if (use.kind === 'set-all' || use.kind === 'hand-on-all') return true;
  if (use.kind === 'set-named') return true;
  if (use.kind !== 'set') return use.kind === 'made-handler' && use.assignments.length > 1;
  if (use.whole) return true;
  return use.assignments.length > 1 && !use.resetsAll && !use.statement && !use.arrowBody;
}

/** A submit that the hook would have to take over, and cannot. */
function unsent(course: SubmitCourse | undefined, context: WriteContext, calls: CallTable): LedgerEntry[] {
  const { sends, from } = calls;
  if (sends?.by !== 'option' || !sends.asked) return [];
  const name = from?.name ?? calls.hook;
  const handler = course?.handler;
  if (!course) return [];
  if (!handler || (course.by !== 'form' && course.by !== 'button'))
    return [
      placeByHand(course.span, context, `${name} sends at a form’s submit or a click, to a function of the component`),
    ];
  if (handler.bound !== undefined)
    return [placeByHand(handler.given, context, `${name} calls it without the event: ${handler.bound}`)];
  return [];
}

/** How the submit goes through the hook; a handler that cannot be called without its event stays as it is. */
function sendingBy(course: SubmitCourse | undefined, context: WriteContext, calls: CallTable): Sending {
  const handler = course?.handler;
  const { sends } = calls;
  const none: Sending = { edits: [], also: [], options: () => [], moved: [], ledger: [] };
  // a click goes through the hook only where it has to be told what sends
  if (!course || !handler || !sends || (course.by !== 'form' && !(sends.by === 'option' && sends.asked))) return none;
  // a failure that the author leaves to the page reaches it only where nothing of the hook's catches it
  const bare = sends.by === 'option' && (course.by !== 'form' || (sends.waits && handler.mayFail));
  const member = bare ? (sends.byClick ?? sends.member) : sends.member;
  if (handler.bound !== undefined)
    return {
      ...none,
      ledger: [
        {
          entry: 'kept',
          span: handler.given,
          what: 'submit handler',
          why: handler.bound,
        },
      ],
    };
  const local = context.freeName(member, 'submitForm', 'sendForm');
  const { given } = handler;
  const isMoved = sends.by === 'option' && handler.name === undefined;
  const edits = isMoved ? [] : withoutEvent(handler, context);
  if (sends.by === 'member') {
    edits.push({ file: given.file, start: given.start, end: given.start, text: `${local}(` });
    edits.push({ file: given.file, start: given.end, end: given.end, text: ')' });
  } else {
    const prevents = course.by !== 'form' || (sends.prevents && !bare);
    edits.push({ ...given, text: prevents ? local : preventing(local, handler, context) });
  }
  // a button that does not say so sends, which a package may want to be said
  if (sends.by === 'option' && sends.typedButtons && !bare)
    for (const at of handler.untyped) edits.push({ file: given.file, start: at, end: at, text: ' type="submit"' });
  return {
    edits,
    also: [member === local ? local : `${member}: ${local}`],
    options: (draft) => (sends.by === 'option' ? [optionOf(sends, handler, draft)] : []),
    moved: isMoved ? [given] : [],
    ledger: [
      { entry: 'carried', span: given, what: 'submit handler', why: `${member} calls it` },
      ...handler.prevents.map((span): LedgerEntry => ({
        entry: 'retired',
        span,
        what: context.text(span.file).slice(span.start, span.end),
        why: `${member} does it`,
        takenOver: true,
      })),
    ],
  };
}

/** The option that takes the function that sends: the component's own, or the one that stood at the form. */
function optionOf({ option, waits }: OptionSends, handler: SubmitHandler, draft: Draft): Item {
  const { name, fn } = handler;
  const async = waits && !handler.async ? 'async ' : '';
  if (name === undefined) {
    const edits = [...withoutEvent(handler, draft.context), ...saidResult(handler, draft)];
    const holes = edits.map((edit) => ({ kind: 'text' as const, ...edit }));
    const code = { ...fn, holes: holes.sort((a, b) => a.start - b.start) };
    return { lead: `${option}: ${async}`, value: reindented(codeText(code, draft.printer), draft, fn) };
  }
  const call = handler.hoisted && async === '' ? name : `${async}() => ${name}()`;
  return { lead: call === option ? '' : `${option}: `, value: call };
}

/**
 * The result of a function that moves into the call which its members come from, where the compiler would look for it
 * there: a change that is a part of an expression.
 */
function saidResult({ fn, event }: SubmitHandler, { model, context }: Draft): RewritePlan['edits'] {
  const { file, start, end } = fn;
  const asks = model.uses.some(
    (use) => use.kind === 'set' && use.span.start > start && use.span.end < end && !use.statement && !use.arrowBody,
  );
  if (!model.typescript || !event?.enclosed || !asks) return [];
  const at = context.text(file).indexOf(')', event.span.end) + 1;
  return [{ file, start: at, end: at, text: ': Promise<void>' }];
}

/** Code of several lines that moves to an option of the hook, one step inside of the component. */
function reindented(text: string, draft: Draft, { file, start }: SubmitHandler['fn']): string {
  const { model, context } = draft;
  const source = context.text(file);
  const from = indentAt(source, start);
  const to = indentAt(source, placeOfState(model).start) + context.style.indent;
  return movedLines(text, (line, index) => (index && line.startsWith(from) ? to + line.slice(from.length) : line));
}

/** The handler of an event that only keeps the browser from leaving the page, and sends. */
function preventing(sender: string, { given }: SubmitHandler, context: WriteContext): string {
  const { indent: step, newline, semicolon } = context.style;
  const indent = indentAt(context.text(given.file), given.start);
  const lines = ['event.preventDefault()', `void ${sender}()`].map((line) => `${indent}${step}${line}${semicolon}`);
  return ['(event) => {', ...lines, `${indent}}`].join(newline);
}

/** A submit handler that is called without the event. */
function withoutEvent({ event, prevents, typed }: SubmitHandler, context: WriteContext): RewritePlan['edits'] {
  const lines = prevents.map((span) => {
    const text = context.text(span.file);
    const whole = wholeLines(text, span);
    // among others on its line, the space behind it goes along
    const end = whole.end === span.end ? span.end + (/^[ \t]*/.exec(text.slice(span.end))?.[0].length ?? 0) : whole.end;
    return { file: span.file, start: whole.start, end, text: '' };
  });
  return [
    ...(typed ? [{ ...typed, text: '' }] : []),
    ...(event ? [{ ...event.span, text: event.enclosed ? '' : '()' }] : []),
    ...lines,
  ];
}
