import { fieldNamed, type FormModel } from '../../form/model.js';
import { codeText, type CodePrinter } from '../../form/code-text.js';
import {
  isControlUse,
  type Assignment,
  type HandOnAllUse,
  type MadeHandlerUse,
  type SetAllUse,
  type SetNamedUse,
  type SetUse,
  type Use,
} from '../../form/uses.js';
import type { Hole } from '../../form/code.js';
import { laidOut } from '../../source/layout.js';
import { movedLines } from '../../source/moved-lines.js';
import { indentAt, quoted } from '../../source/style.js';
import { isOneBlock } from '../handed-functions.js';
import { stepArguments } from '../step-functions.js';
import { type Draft, namesOf, valueName, initialText } from './draft.js';

/** What takes the place of a hole in moved code; undefined leaves its text. */
export function holeText(hole: Hole, draft: Draft): string | undefined {
  const keyed = (text: string): string =>
    hole.kind !== 'returned' && hole.shorthand !== undefined && hole.shorthand !== text
      ? `${hole.shorthand}: ${text}`
      : text;
  switch (hole.kind) {
    case 'previous':
      return keyed(valueName(draft, hole.field));
    case 'given': {
      const text =
        codeText({ ...hole.code, holes: hole.code.holes.filter((inner) => inner !== hole) }, draft.printer) ||
        'undefined';
      return keyed(hole.wrap ? `(${text})${hole.suffix}` : text + hole.suffix);
    }
    case 'text':
      return keyed(hole.text);
    case 'returned':
      return codeText(hole.value, draft.printer);
    case 'previous-all':
      return keyed(holderName(draft));
    case 'captured':
      return undefined;
    default: {
      const never: never = hole;
      return never;
    }
  }
}

/** A name for the previous value that stands nowhere in a text. */
function previousName(text: string): string {
  return ['prev', 'previous', 'before'].find((name) => !new RegExp(`\\b${name}\\b`).test(text)) ?? 'previousValue';
}

function setterCall({ field, value }: Assignment, draft: Draft): string {
  draft.used.setters.add(field);
  const { setter } = namesOf(draft, field);
  if (value.kind === 'initial') return `${setter}(${initialText(fieldNamed(draft.model, field), draft)})`;
  if (value.kind === 'value') return `${setter}(${codeText(value.code, draft.printer) || 'undefined'})`;
  // a function that is handed over as it stands
  if (value.whole && value.body.start === value.whole.start && value.body.end === value.whole.end)
    return `${setter}(${codeText(value.whole, draft.printer)})`;
  const source = draft.context.script(value.body.file).text.slice(value.body.start, value.body.end);
  const name = value.parameter ?? previousName(source);
  const ownOnly = value.reads.every((read) => read === field);
  const printer: CodePrinter = {
    ...draft.printer,
    hole(hole) {
      if (hole.kind === 'previous' && hole.field === field && ownOnly)
        return hole.shorthand === undefined ? name : `${hole.shorthand}: ${name}`;
      if (hole.kind === 'returned') return hole.unchanged ? name : codeText(hole.value, printer);
      if (hole.kind === 'given') return codeText(hole.code, printer) ? holeText(hole, draft) : undefined;
      return holeText(hole, draft);
    },
  };
  const text = codeText(value.body, printer);
  if (!ownOnly && !value.block) return `${setter}(${text})`;
  const body =
    value.block && !isOneBlock(text)
      ? blockText(text, draft, value.body)
      : /^\{/.test(text) && !value.block
        ? `(${text})`
        : text;
  return `${setter}((${name}) => ${body})`;
}

/** Statements of a reducer's case as the body of a function. */
function blockText(statements: string, draft: Draft, at: { file: string; start: number }): string {
  const { style } = draft.context;
  const old = indentAt(draft.context.script(at.file).text, at.start);
  const lines = movedLines(
    statements,
    (line, index) => style.indent + (index > 0 && line.startsWith(old) ? line.slice(old.length) : line),
  );
  return `{${style.newline}${lines}${style.newline}}`;
}

/** What takes the place of a use of the form; undefined leaves its text. */
export function textOfUse(use: Use, draft: Draft): string | undefined {
  if (isControlUse(use)) return undefined;
  switch (use.kind) {
    case 'read': {
      const name = valueName(draft, use.field);
      return use.key === undefined ? name : pair(use.key, name);
    }
    case 'read-all':
      if (use.listed) return draft.model.fields.map(({ name }) => valueName(draft, name)).join(', ');
      draft.used.whole = true;
      if (draft.model.holder) {
        for (const field of draft.model.fields) draft.used.values.add(field.name);
        return undefined;
      }
      return `{ ${draft.model.fields.map((field) => pair(field.name, valueName(draft, field.name))).join(', ')} }`;
    case 'set':
      return setText(use, draft);
    case 'set-named':
      return namedText(use, draft);
    case 'made-handler':
      return madeText(use, draft);
    case 'set-all':
      return allText(use, draft);
    case 'depend':
      return undefined;
    case 'hand-on': {
      draft.used.setters.add(use.field);
      const { setter } = namesOf(draft, use.field);
      return use.shorthand === undefined ? setter : `${use.shorthand}: ${setter}`;
    }
    case 'hand-on-all':
      return wholeSetterText(use, draft);
    default: {
      const never: never = use;
      return never;
    }
  }
}

/** The name of the object that is made of the variables. */
function holderName(draft: Draft): string {
  draft.used.whole = true;
  for (const field of draft.model.fields) valueName(draft, field.name);
  return draft.model.holder?.name ?? '';
}

/** New values worked out together, and each of them given to its variable. */
function allText(use: SetAllUse, draft: Draft): string {
  const { style } = draft.context;
  const name = nextName(use, draft);
  const code = codeText(use.from?.body ?? use.code, draft.printer);
  const stepped = use.step && stepCall(use.step, stepArguments(use, draft.printer), draft);
  const value =
    stepped ??
    (use.merge ? `{ ...${holderName(draft)}, ${/^\w+$/.test(code) ? `...${code}` : `...(${code})`} }` : code);
  const [only, ...others] = use.fields ?? [];
  if (only !== undefined && !others.length) {
    draft.used.setters.add(only);
    return `${namesOf(draft, only).setter}(${value}.${only})`;
  }
  const type = draft.model.holder?.type;
  const lines = [
    `const ${name}${draft.model.typescript && type !== undefined ? `: ${type}` : ''} = ${bare(value)}`,
    ...(use.fields ?? draft.model.fields.map((field) => field.name)).map((field) => {
      draft.used.setters.add(field);
      return `${namesOf(draft, field).setter}(${name}.${field})`;
    }),
  ];
  const indent = indentAt(draft.context.script(use.span.file).text, use.span.start);
  const source = draft.context.script(use.span.file).text;
  const alone = source.slice(source.lastIndexOf('\n', use.span.start - 1) + 1, use.span.start).trim() === '';
  if (use.statement) return lines.join(alone ? `${style.semicolon}${style.newline}${indent}` : '; ');
  const inner = lines.map((line) => `${indent}${style.indent}${line}${style.semicolon}${style.newline}`).join('');
  return `{${style.newline}${inner}${indent}}`;
}

function stepCall({ name, takesValues }: NonNullable<SetAllUse['step']>, given: string[], draft: Draft): string {
  return `${name}(${[...(takesValues ? [holderName(draft)] : []), ...given].join(', ')})`;
}

/** An expression without the parentheses that an arrow function needs around an object. */
function bare(text: string): string {
  return /^\(\{[\s\S]*\}\)$/.test(text) ? text.slice(1, -1) : text;
}

/** The name of the new values: one that stands nowhere in the file, another one for each change of the same function. */
function nextName(use: SetAllUse, draft: Draft): string {
  const text = draft.context.script(use.span.file).text;
  const before = draft.model.uses.filter(
    (other) =>
      other.kind === 'set-all' &&
      other.span.start < use.span.start &&
      (other.within === undefined || use.within === undefined || other.within.end > use.span.start),
  ).length;
  const wished =
    ['next', 'nextValues', 'newValues'].find((name) => !new RegExp(`\\b${name}\\b`).test(text)) ?? 'nextOnes';
  return before ? `${wished}${before + 1}` : wished;
}

/** A function that gives every variable its value, in the place of the setter of one object. */
function wholeSetterText(use: HandOnAllUse, draft: Draft): string {
  const { style } = draft.context;
  const source = draft.context.text(use.span.file);
  const indent = indentAt(source, use.span.start);
  const lines = draft.model.fields.map(({ name }) => {
    draft.used.setters.add(name);
    return `${indent}${style.indent}${namesOf(draft, name).setter}(next.${name})${style.semicolon}`;
  });
  const type = draft.model.typescript && !use.typed ? `: ${draft.model.holder?.type ?? 'unknown'}` : '';
  const text = [`(next${type}) => {`, ...lines, `${indent}}`].join(style.newline);
  return use.shorthand === undefined ? text : `${use.shorthand}: ${text}`;
}

/** A property of an object, in short where its key and its value are one name. */
export function pair(key: string, value: string): string {
  return key === value ? key : `${key}: ${value}`;
}

function setText(use: SetUse, draft: Draft): string {
  const { style } = draft.context;
  const calls = use.assignments.map((assignment) => setterCall(assignment, draft));
  const [first] = calls;
  if (calls.length === 1 && first !== undefined) return reindented(first, draft, use.span);
  const source = draft.context.script(use.span.file).text;
  const indent = indentAt(source, use.span.start);
  const alone = source.slice(source.lastIndexOf('\n', use.span.start - 1) + 1, use.span.start).trim() === '';
  if (use.statement) return calls.join(alone ? `${style.semicolon}${style.newline}${indent}` : '; ');
  if (use.arrowBody) {
    if (!calls.length) return '{}';
    const lines = calls.map((call) => `${indent}${style.indent}${call}${style.semicolon}${style.newline}`).join('');
    return `{${style.newline}${lines}${indent}}`;
  }
  return calls.length ? `(${calls.join(', ')})` : 'undefined';
}

/** Lines after the first one of a text that came from elsewhere, at the depth of the place it goes to. */
function reindented(text: string, draft: Draft, span: { file: string; start: number }): string {
  if (!text.includes('\n') || draft.model.files.length === 0) return text;
  const indent = indentAt(draft.context.script(span.file).text, span.start);
  const depths: number[] = [];
  movedLines(text, (line, index) => {
    if (index && line.trim()) depths.push(/^\s*/.exec(line)?.[0].length ?? 0);
    return line;
  });
  if (Math.min(...depths) >= indent.length) return text;
  return movedLines(text, (line, index) => (index ? indent + line : line));
}

/** A table of the setters, from which the one is taken that the key names: it keeps key and value typed together. */
function tableText(use: SetNamedUse, type: string, draft: Draft): string {
  const { style } = draft.context;
  const indent = indentAt(draft.context.script(use.span.file).text, use.span.start);
  const name = draft.context.freeName('setters', 'settersOf', 'fieldSetters');
  const lead = `const ${name}: { [Name in keyof ${type}]: (value: ${type}[Name]) => void } = `;
  const items = draft.model.fields.map((field) => {
    draft.used.setters.add(field.name);
    return { lead: '', value: pair(field.name, namesOf(draft, field.name).setter) };
  });
  const table = laidOut({ open: '{', close: '}', items }, style, indent, indent.length + lead.length);
  return [
    `${lead}${table}${style.semicolon}`,
    `${indent}${name}[${codeText(use.key, draft.printer)}](${codeText(use.value, draft.printer)})`,
  ].join(style.newline);
}

/** Whether a table of setters can take a change's place: key and value are typed together. */
export function keepsTypes(use: SetNamedUse, { typescript }: FormModel): boolean {
  return use.typedBy !== undefined && use.statement !== undefined && !use.rest.length && typescript;
}

function namedText(use: SetNamedUse, draft: Draft): string {
  if (use.typedBy !== undefined && keepsTypes(use, draft.model))
    return `${tableText(use, use.typedBy, draft)}${draft.context.style.semicolon}`;
  const { style } = draft.context;
  const indent = indentAt(draft.context.script(use.span.file).text, use.span.start);
  const step = style.indent;
  const cases = use.choices.map((choice) => {
    const call = narrowed(choice, setterCall(choice, draft), draft);
    return [
      `${indent}${step}case ${quoted(choice.field, style)}:`,
      `${indent}${step}${step}${call}${style.semicolon}`,
      `${indent}${step}${step}break${style.semicolon}`,
    ].join(style.newline);
  });
  const rest = use.rest.map((assignment) => `${indent}${setterCall(assignment, draft)}${style.semicolon}`);
  const text = [`switch (${codeText(use.key, draft.printer)}) {`, ...cases, `${indent}}`, ...rest].join(style.newline);
  return use.arrowBody ? `{ ${text} }` : text;
}

/** A value of which only some texts are allowed is checked for them: the name that was computed let any text through. */
function narrowed({ field, value }: Assignment, call: string, draft: Draft): string {
  const { type } = fieldNamed(draft.model, field);
  const texts = type?.split('|').map((one) => one.trim()) ?? [];
  const given = value.kind === 'value' ? codeText(value.code, draft.printer) : '';
  if (!draft.model.typescript || texts.length < 2 || !texts.every((one) => /^(['"])[^'"]*\1$/.test(one))) return call;
  if (!/^[\w.]+$/.test(given)) return call;
  const { style } = draft.context;
  const test = texts.map((one) => `${given} === ${quoted(one.slice(1, -1), style)}`).join(' || ');
  return `if (${test}) ${call}`;
}

function madeText(use: MadeHandlerUse, draft: Draft): string {
  const { style } = draft.context;
  const calls = use.assignments.map((assignment) => setterCall(assignment, draft));
  if (calls.length === 1) return `${use.parameters} => ${calls[0] ?? ''}`;
  const indent = indentAt(draft.context.script(use.span.file).text, use.span.start);
  const lines = calls.map((call) => `${indent}${style.indent}${call}${style.semicolon}${style.newline}`).join('');
  return `${use.parameters} => {${style.newline}${lines}${indent}}`;
}
