import type { Code, Hole, Span } from '../../form/code.js';
import { codeText, type CodePrinter } from '../../form/code-text.js';
import { fieldsOf, type Field, type FormModel } from '../../form/model.js';
import type { NewValue } from '../../form/uses.js';
import type { Rule } from '../../form/rules.js';
import { formMatch, type FormMatch } from './form-match.js';
import type { Caught } from './caught.js';

/** A form before and after a rewrite, each as its reader saw it. */
export interface TwoModels {
  before: FormModel;
  after: FormModel;
  /** Text of a file before the rewrite. */
  textBefore(file: string): string;
  textAfter(file: string): string;
  to: string;
}

/**
 * Whether the form that came out is the one that went in: the same fields with the same starts, controls, rules with
 * their messages, changes.
 */
export function differences(models: TwoModels): Caught[] {
  const match = formMatch(models.before, models.after);
  return [
    ...fieldDifferences(models, match),
    ...controlDifferences(models, match),
    ...ruleDifferences(models, match),
    ...changeDifferences(models, match),
    ...newlyUnclear(models),
  ];
}

function caught(span: Span, what: string, why: string): Caught {
  return { check: 'equality', span, what, why };
}

function fieldDifferences({ before, after }: TwoModels, match: FormMatch): Caught[] {
  const edited = new Set(before.controls.map((control) => /^[^.[]+/.exec(control.field)?.[0] ?? control.field));
  return fieldsOf(before).flatMap((field): Caught[] => {
    const other = match.field(field.name);
    if (!other) {
      if (!edited.has(field.name) || match.inside(field.name)) return [];
      const left = after.fields.map(({ name }) => name).join(', ') || 'no fields';
      return [caught(field.declared, field.name, `the field is not found in the result, which has ${left}`)];
    }
    const [one, two] = [startOf(field), startOf(other)];
    if (one === undefined || two === undefined || one === two) return [];
    return [
      caught(field.declared, field.name, `it would start as ${other.initial.text}, not as ${field.initial.text}`),
    ];
  });
}

/** A start as far as two readers say it alike; undefined where the code does not say it. */
function startOf({ initial, kind }: Field): string | undefined {
  if (kind === 'group' || kind === 'list of rows') return undefined;
  const text = plain(initial.text).replace(/^\(?\)?=>/, '');
  return text === '' || text === 'undefined' || !/^(?:['"`].*['"`]|-?[\d.]+|true|false|null|\[\]|\{\})$/.test(text)
    ? undefined
    : text.replace(/^["`](.*)["`]$/, "'$1'");
}

function plain(text: string): string {
  return text
    .replace(/\s+/g, '')
    .replace(/;$/, '')
    .replace(/^\((.*)\)$/, '$1');
}

function controlDifferences({ before, after }: TwoModels, match: FormMatch): Caught[] {
  const left = after.controls.map(
    (control) => `${match.nameBefore(control.field)} ${control.element} ${control.type ?? ''}`,
  );
  const known = new Set(
    fieldsOf(before)
      .filter(({ name }) => match.field(name))
      .map(({ name }) => name),
  );
  return before.controls.flatMap((control): Caught[] => {
    const index = left.indexOf(`${control.field} ${control.element} ${control.type ?? ''}`);
    if (index >= 0) left.splice(index, 1);
    // a component of the project is read as a control by some readers only
    return index >= 0 || !known.has(control.field) || /^[A-Z]/.test(control.element)
      ? []
      : [
          caught(
            control.span,
            `control of ${control.field}`,
            `<${control.element}> would not be tied to ${control.field} any more`,
          ),
        ];
  });
}

/**
 * Rules that the target states in its own way. Those that stay code keep their text, which conservation looks after;
 * their messages in a template are text as well.
 */
function ruleDifferences({ before, after, to, textAfter }: TwoModels, match: FormMatch): Caught[] {
  // a directive of the project that hands the class's validators on to a control, or to the form
  const handedOn = (field: string | undefined): boolean =>
    after.controls.some(
      ({ field: name, span }) =>
        (field === undefined || match.nameBefore(name) === field) &&
        /\[checked(?:Later)?By\]/.test(textAfter(span.file).slice(span.start, span.end)),
    ) ||
    (field === undefined && /<form[^>]*\[checked(?:Later)?By\]/.test(textAfter(after.template?.file ?? after.file)));
  const intoData = to === 'declared-schema';
  const said = ({ fields, kind, message, constraint }: Rule, named: (name: string) => string): string =>
    intoData
      ? `${named(fields[0] ?? '')}: ${(message ?? '').replace(/\$\{[^}]*\}/g, '…')}`
      : `${named(fields[0] ?? '')}: ${kind} ${constraint && 'value' in constraint ? limitOf(constraint.value) : ''}`;
  const left = after.rules.map((rule) => said(rule, match.nameBefore));
  return before.rules.flatMap((rule): Caught[] => {
    // what stays code beside the schema keeps its message there
    const restated = intoData
      ? rule.message !== undefined && !textAfter(after.file).includes(rule.message)
      : rule.stated !== 'code';
    if (!restated || !rule.fields.every((name) => match.field(name))) return [];
    const index = left.indexOf(said(rule, (name) => name));
    if (index >= 0 && !intoData) left.splice(index, 1);
    if (index < 0 && handedOn(rule.fields.length === 1 ? rule.fields[0] : undefined)) return [];
    const words = rule.message === undefined ? rule.condition : `with “${rule.message}”`;
    return index >= 0 ? [] : [caught(rule.span, rule.condition, `the rule ${words} would be lost`)];
  });
}

/** A limit, or a pattern, as it is written with and without the marks of an expression. */
function limitOf(value: string): string {
  return plain(value)
    .replace(/^\/(.*)\/$/, '$1')
    .replace(/^\^?(.*?)\$?$/, '$1');
}

/** A place where a field gets a value that is not simply what its control gives. */
interface Change {
  field: string;
  value: string;
  span: Span;
}

function changeDifferences({ before, after, textBefore, textAfter }: TwoModels, match: FormMatch): Caught[] {
  const old = changesOf(before, textBefore, (name) => name);
  const now = changesOf(after, textAfter, match.nameBefore);
  const keysOf = (changes: readonly Change[]): Set<string> =>
    new Set(changes.map(({ field, value }) => `${field} ${value}`));
  const [oldKeys, newKeys] = [keysOf(old), keysOf(now)];
  const told = new Set(now.map(({ field }) => field));
  const missing = old.filter(({ field, value }) => match.field(field) && !newKeys.has(`${field} ${value}`));
  const strange = now.filter(
    ({ field, value }) => !oldKeys.has(`${field} ${value}`) && old.some((one) => one.field === field),
  );
  if (after.approach === 'dom-values') return [];
  return missing.flatMap(({ field, value, span }): Caught[] => {
    const instead = strange.find((one) => one.field === field);
    if (told.has(field) && !instead) return [];
    return [
      caught(
        span,
        textBefore(span.file).slice(span.start, span.end),
        instead ? `${field} would get ${instead.value} here, not ${value}` : `${field} would not get ${value} any more`,
      ),
    ];
  });
}

function changesOf(model: FormModel, textOf: (file: string) => string, named: (name: string) => string): Change[] {
  // the page resets what it keeps by itself
  if (model.approach === 'dom-values') return [];
  const printer = printerOf(model, textOf, named);
  const starts = new Map(model.fields.map((field) => [field.name, startOf(field)]));
  const found: Change[] = [];
  for (const use of model.uses) {
    const assignments =
      use.kind === 'set' || use.kind === 'made-handler'
        ? use.assignments
        : use.kind === 'set-named'
          ? [...use.choices, ...use.rest]
          : [];
    for (const { field, value } of assignments) {
      const text = valueText(value, starts.get(field), printer);
      if (text !== undefined) found.push({ field: named(field), value: text, span: use.span });
    }
  }
  return found;
}

/** What a change gives a field, in words that do not depend on the approach; undefined for what a control gives. */
function valueText(value: NewValue, start: string | undefined, printer: CodePrinter): string | undefined {
  if (value.kind === 'initial') return start;
  if (value.kind === 'from-previous') return undefined;
  const text = (value.operator ?? '') + plain(codeText(value.code, printer)).replace(/"/g, "'");
  return /^(?:['`].*['`]|-?[\d.]+|true|false|null|\[\]|\{\})$/.test(text) ? text : undefined;
}

function printerOf(model: FormModel, textOf: (file: string) => string, named: (name: string) => string): CodePrinter {
  const printer: CodePrinter = {
    textOf,
    uses: model.uses,
    use: (use) => (use.kind === 'read' ? `§${named(use.field)}` : undefined),
    hole: (hole) => holeText(hole, named, (code) => codeText(code, printer)),
  };
  return printer;
}

function holeText(hole: Hole, named: (name: string) => string, print: (code: Code) => string): string | undefined {
  const key = 'shorthand' in hole && hole.shorthand !== undefined ? `${hole.shorthand}: ` : '';
  switch (hole.kind) {
    case 'previous':
      return `${key}§${named(hole.field)}`;
    case 'text':
      return key + hole.text;
    case 'given':
      return key + print({ ...hole.code, holes: hole.code.holes.filter((inner) => inner !== hole) }) + hole.suffix;
    default:
      return undefined;
  }
}

/** Places that the target's reader does not understand, where this one understood all. */
function newlyUnclear({ before, after }: TwoModels): Caught[] {
  if (before.unclear.length) return [];
  // a setter that was handed on before still is
  const handed = before.uses.some(({ kind }) => kind === 'hand-on' || kind === 'hand-on-all');
  return after.unclear
    .filter(({ why }) => !handed || !/handed on|no plain change/.test(why))
    .map(({ what, why }) =>
      caught({ ...before.span, end: before.span.start }, what, `the result would not be understood: ${why}`),
    );
}
