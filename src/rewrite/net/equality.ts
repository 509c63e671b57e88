import type { Span } from '../../form/code.js';
import { codeText, type CodePrinter } from '../../form/code-text.js';
import { fieldsOf, isRowField, rowFieldParts, type Field, type FormModel } from '../../form/model.js';
import type { NewValue } from '../../form/uses.js';
import type { Rule } from '../../form/rules.js';
import { keepApart } from './approach-words.js';
import { formMatch, type FormMatch } from './form-match.js';
import { laidValues } from './laid-values.js';
import { lifeDifferences } from './same-life.js';
import type { Caught } from './caught.js';
import { askDifferences } from './same-asks.js';
import { resetDifferences } from './same-resets.js';
import { valueDifferences } from './same-values.js';
import { assignmentsOf, printerOf } from './told-changes.js';

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
  const texts = { before: models.textBefore, after: models.textAfter };
  return [
    ...fieldDifferences(models, match),
    ...controlDifferences(models, match),
    ...ruleDifferences(models, match),
    ...changeDifferences(models, match),
    ...valueDifferences(models, texts, match),
    ...resetDifferences(models, texts, match),
    ...readDifferences(models, match),
    ...lifeDifferences(models, match),
    ...askDifferences(models, texts, match),
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
    // the page says what it keeps begins as where that is not empty
    const unset =
      after.approach !== 'dom-values' &&
      !isRowField(field.name) &&
      (other.absent === true || other.initial.code === undefined);
    if (field.initial.code !== undefined && !field.absent && unset && !/^(?:undefined|null)?$/.test(field.initial.text))
      return [caught(field.declared, field.name, `it would start unset, not as ${field.initial.text}`)];
    // before it is filled it has no values, and what stands for them then shows nowhere
    if (before.holder?.start?.empty && !after.holder?.start?.empty) return [];
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

function controlDifferences({ before, after, textAfter }: TwoModels, match: FormMatch): Caught[] {
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
    // another component is given what it shows: its own text ties it
    const { file, start, end } = control.span;
    const isOther = file !== before.span.file || end <= before.span.start || start >= before.span.end;
    const shows = new RegExp(`\\b(?:value|checked)=\\{[^}]*\\b${control.field}\\b`);
    if (isOther && before.template === undefined && shows.test(textAfter(file))) return [];
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
  const handedOn = (field: string | undefined, group = ''): boolean =>
    (group !== '' && isRunOnGroup(group, textAfter(after.template?.file ?? after.file))) ||
    after.controls.some(
      ({ field: name, span }) =>
        (field === undefined || match.nameBefore(name) === field) &&
        /\[checked(?:Later)?By\]/.test(textAfter(span.file).slice(span.start, span.end)),
    ) ||
    (field === undefined &&
      /<(?:form\b|[\w-]+[^>]*="ngForm")[^>]*\[checked(?:Later)?By\]/.test(
        textAfter(after.template?.file ?? after.file),
      ));
  const intoData = to === 'declared-schema';
  const said = ({ fields, kind, message, constraint }: Rule, named: (name: string) => string): string =>
    intoData
      ? `${named(fields[0] ?? '')}: ${(message ?? '').replace(/\$\{[^}]*\}/g, '…')}`
      : `${named(fields[0] ?? '')}: ${kind} ${constraint && 'value' in constraint ? limitOf(constraint.value) : ''}`;
  const left = after.rules.map((rule) => said(rule, match.nameBefore));
  return before.rules.flatMap((rule): Caught[] => {
    // a rule that leaves its data may be stated in a function that nobody calls in sight
    if (rule.stated === 'json-schema' && rule.message !== undefined && textAfter(after.file).includes(rule.message))
      return [];
    // what stays code beside the schema keeps its message there
    const restated = intoData
      ? rule.message !== undefined && !textAfter(after.file).includes(rule.message)
      : rule.stated !== 'code';
    if (!restated || !rule.fields.every((name) => match.field(name))) return [];
    if (isSaidWithValues(rule, textAfter)) return [];
    const index = left.indexOf(said(rule, (name) => name));
    if (index >= 0 && !intoData) left.splice(index, 1);
    const only = rule.of === undefined && rule.fields.length === 1 ? rule.fields[0] : undefined;
    if (index < 0 && handedOn(only, rule.of)) return [];
    const words = rule.message === undefined ? rule.condition : `with “${rule.message}”`;
    return index >= 0 ? [] : [caught(rule.span, rule.condition, `the rule ${words} would be lost`)];
  });
}

/** Whether a group of a template's form runs rules of the class by a directive of the project. */
function isRunOnGroup(group: string, template: string): boolean {
  const name = group.split('.').at(-1) ?? group;
  return [...template.matchAll(/<[\w-]+[^>]*\bngModelGroup\b[^>]*>/g)].some(
    ([tag]) => new RegExp(`ngModelGroup\\]?=["']+${name}["']`).test(tag) && /\[checked(?:Later)?By\]/.test(tag),
  );
}

/** Whether a rule of a schema is said with values under the path of its field: `wrong('town', { kind: 'required' })`. */
function isSaidWithValues(
  { stated, fields, of, message, constraint, span, condition }: Rule,
  textAfter: (file: string) => string,
): boolean {
  if (stated !== 'signal-rules') return false;
  // a rule of rows is told the path of its row
  const own = of ?? fields[0] ?? '';
  const { list, key } = isRowField(own) ? rowFieldParts(own) : { list: '', key: own };
  const path = `${list === '' ? '' : '[^\'"`]*'}${(list === '' ? key : `.${key}`).replace(/[.$]/g, '\\$&')}`;
  const found = [...textAfter(span.file).matchAll(new RegExp(`(['"\`])${path}\\1,([^;]*);`, 'g'))];
  const texts = found.flatMap(([, , text = '']) => text);
  if (constraint?.kind === 'custom') return texts.length > 0 && /\w/.test(condition);
  return texts.some((text) => (message === undefined ? /\bkind:/.test(text) : text.includes(message)));
}

/** A limit, or a pattern, as it is written with and without the marks of an expression. */
function limitOf(value: string): string {
  return plain(value)
    .replace(/^\/(.*)\/$/, '$1')
    .replace(/^\^?(.*?)\$?$/, '$1');
}

/** A place where a field gets a value, or is read. */
interface Place {
  field: string;
  /** The value in words that do not depend on the approach. */
  value: string;
  span: Span;
}

/** Changes that are lost: fewer places give a field a value than before, or give it another one. */
function changeDifferences(models: TwoModels, match: FormMatch): Caught[] {
  const { before, after, to, textBefore, textAfter } = models;
  // the page takes in and resets what it keeps by itself
  if (after.approach === 'dom-values') return [];
  if (before.approach === 'dom-values') return takenFromPage(models, match);
  // where the target's reader does not see every change, it cannot tell that one is missing
  if (after.unclear.length) return [];
  const old = [
    ...changesOf(before, textBefore, (name) => name),
    ...(keepApart.has(after.approach) ? wholesOf(before) : []),
  ];
  const now = changesOf(after, textAfter, match.nameBefore);
  const left = countsOf(now);
  const wholes = after.uses.flatMap((use) =>
    use.kind === 'set-all' && !use.merge
      ? [plain(textAfter(use.code.file).slice(use.code.start, use.code.end)).replace(/"/g, "'")]
      : [],
  );
  // an object of all values that is laid over the ones before changes each of them
  const laid = after.uses.filter(
    (use) => use.kind === 'set-all' && use.merge && textAfter(use.code.file).charAt(use.code.start) !== '{',
  ).length;
  const starts = new Map(before.fields.map((field) => [field.name, startOf(field)]));
  return old.flatMap(({ field, value, span }): Caught[] => {
    const lost = (): Caught =>
      caught(
        span,
        textBefore(span.file).slice(span.start, span.end),
        `${field} would not get ${shownValue(value)} here`,
      );
    const key = `${field} ${value}`;
    const count = left.get(key) ?? 0;
    left.set(key, count - 1);
    if (count > 0) return [];
    if (!match.field(field)) {
      const wanted = old.filter((one) => one.field === field).length;
      return keepApart.has(to) && setterMentions(field, after, textAfter) < wanted ? [lost()] : [];
    }
    // code that two readers say differently: as many changes as before are all there; a setter that is handed on makes one
    const told = (places: readonly Place[]): number => places.filter((one) => one.field === field).length;
    const handed = after.uses.filter((use) => use.kind === 'hand-on' && match.nameBefore(use.field) === field).length;
    if (/^[~=]$/.test(value) && (wholes.length > 0 || told(now) + handed + laid >= told(old))) return [];
    // a change that is made of all values at once says the value in its code
    const inWhole = wholes.findIndex((text) => text.includes(`${field}:${value}`));
    if (inWhole >= 0) {
      wholes[inWhole] = (wholes[inWhole] ?? '').replace(`${field}:${value}`, '');
      return [];
    }
    // a start that is told through the constant that holds it: `row: blank.row`
    const code = (places: readonly Place[]): number =>
      places.filter((one) => one.field === field && one.value === '=').length;
    if (value === starts.get(field) && code(now) > code(old)) return [];
    // a change that stands there word for word is made as before
    const words = plain(textBefore(span.file).slice(span.start, span.end));
    if (span.file === after.file && words.length > 12 && plain(textAfter(after.file)).includes(words)) return [];
    return [lost()];
  });
}

/** How often the setter of a state variable is named that the reader does not take for a field; its declaration is none. */
function setterMentions(field: string, after: FormModel, textAfter: TwoModels['textAfter']): number {
  const setter = after.others.find(({ name }) => name === field)?.setter;
  if (setter === undefined) return Infinity;
  const named = new RegExp(`(?<![\\w$.])${setter.replaceAll('$', '\\$')}(?![\\w$])`, 'g');
  return [...textAfter(after.file).matchAll(named)].length - 1;
}

/** Changes of all values, or of some that are named, as one of each field: so they are told where values stand apart. */
function wholesOf(model: FormModel): Place[] {
  return model.uses.flatMap((use): Place[] => {
    if (use.kind !== 'set-all') return [];
    const fields = use.fields ?? fieldsOf(model).map(({ name }) => name);
    return fields.map((field) => ({ field, value: '=', span: use.span }));
  });
}

/** What the page did by itself has to be done now: each control gives its value, and a reset reaches all of them. */
function takenFromPage({ before, after, textBefore, textAfter }: TwoModels, match: FormMatch): Caught[] {
  const now = changesOf(after, textAfter, match.nameBefore);
  const starts = new Map(after.fields.map((field) => [match.nameBefore(field.name), startOf(field)]));
  const resets = now.filter(({ field, value }) => value === starts.get(field));
  // without a reset of the page the author puts single controls back
  const isReset = before.files.some((file) => /\breset\b/.test(textBefore(file)));
  const countOf = (name: string): number => resets.filter(({ field }) => field === name).length;
  const most = Math.max(0, ...before.controls.map(({ field }) => countOf(field)));
  return before.controls.flatMap(({ field, span }): Caught[] => {
    const own = now.filter((change) => change.field === field);
    if (match.field(field) && !own.some((change) => change.value !== starts.get(field)))
      return [caught(span, field, `nothing would take in what is typed for ${field}`)];
    return isReset && resets.length > 1 && countOf(field) < most && starts.get(field) !== undefined
      ? [caught(span, field, `a reset would leave ${field} out`)]
      : [];
  });
}

function countsOf(places: readonly Place[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { field, value } of places) counts.set(`${field} ${value}`, (counts.get(`${field} ${value}`) ?? 0) + 1);
  return counts;
}

function shownValue(value: string): string {
  return value === '$value'
    ? 'what is typed'
    : value === '$checked'
      ? 'whether it is checked'
      : value.replaceAll('§', '').replace(/^[~=]$/, 'its new value');
}

function changesOf(model: FormModel, textOf: (file: string) => string, named: (name: string) => string): Place[] {
  const printer = printerOf(model, textOf, named);
  const starts = new Map(
    model.fields.map((field) => [field.name, isUndefinedAtFirst(field) ? 'undefined' : startOf(field)]),
  );
  const found: Place[] = [];
  for (const { field, value, span } of assignmentsOf(model)) {
    const text = valueText(value, starts.get(field), printer);
    if (text !== undefined) found.push({ field: named(field), value: text, span });
  }
  // a signal of all values gets an object laid over them
  for (const use of model.framework === 'angular' ? model.uses : [])
    if (use.kind === 'set-all' && use.merge)
      for (const { path, value } of laidValues(codeText(use.code, printer)))
        if (model.fields.some(({ name }) => name === path))
          found.push({ field: named(path), value: plainValue(value), span: use.span });
  return found;
}

/** What a change gives a field, in words that do not depend on the approach. */
function valueText(value: NewValue, start: string | undefined, printer: CodePrinter): string | undefined {
  if (value.kind === 'initial') return start;
  if (value.kind === 'from-previous') return `~`;
  return plainValue((value.operator ?? '') + codeText(value.code, printer));
}

function plainValue(code: string): string {
  const text = plain(code).replace(/"/g, "'");
  const event = text.replace(/(?:[\w$]+\.)?(?:target|currentTarget)\.(value|checked)\b/g, '$$$1');
  if (/^\$(?:value|checked)$/.test(event)) return event;
  // other code may be said with other names; that it is there conservation looks after
  return /^(?:['`].*['`]|-?[\d.]+|true|false|null|undefined|\[\]|\{\})$/.test(event) ? event : '=';
}

/** Whether a field is written down as undefined at first, rather than that nothing tells what it begins as. */
function isUndefinedAtFirst({ initial, absent }: Field): boolean {
  return initial.text === 'undefined' && initial.when === 'constant' && absent !== true;
}

/** Reads that are lost: a field is looked at in fewer places than before. */
function readDifferences({ before, after, textBefore }: TwoModels, match: FormMatch): Caught[] {
  if (before.framework === 'angular' || before.approach === 'dom-values' || after.approach === 'dom-values') return [];
  const count = (model: FormModel, named: (name: string) => string): Map<string, number> => {
    const counts = new Map<string, number>();
    const within = model.uses.filter(({ kind }) => kind !== 'read').map(({ span }) => span);
    const isOwn = ({ file, start, end }: Span): boolean =>
      !within.some((span) => span.file === file && span.start <= start && span.end >= end);
    for (const use of model.uses)
      if (use.kind === 'read' && isOwn(use.span)) counts.set(named(use.field), (counts.get(named(use.field)) ?? 0) + 1);
    return counts;
  };
  const [old, now] = [count(before, (name) => name), count(after, match.nameBefore)];
  const together = after.uses.some(({ kind }) => kind === 'read-all');
  return [...old].flatMap(([field, reads]): Caught[] => {
    if (!match.field(field) || together || (now.get(field) ?? 0) >= reads) return [];
    const place = before.uses.find((use) => use.kind === 'read' && use.field === field)?.span ?? before.span;
    return [
      caught(
        place,
        textBefore(place.file).slice(place.start, place.end),
        `${field} would be read in ${now.get(field) ?? 0} places, not in ${reads}`,
      ),
    ];
  });
}

/** Places that the target's reader does not understand, where this one understood all. */
function newlyUnclear({ before, after }: TwoModels): Caught[] {
  if (before.unclear.length) return [];
  // a setter that was handed on, or that made a change as a whole, still does
  const handed = before.uses.some(
    (use) => use.kind === 'hand-on' || use.kind === 'hand-on-all' || (use.kind === 'set-all' && !use.merge),
  );
  // new rows may be given by one function of those before
  const rowsMade = before.uses.some(({ kind }) => kind === 'change-rows');
  return after.unclear
    .filter(({ why }) => !rowsMade || why !== 'the array is handed on')
    .filter(({ why }) => !before.holder?.start || !/told only when the form runs/.test(why))
    .filter(({ why }) => !handed || !/handed on|no plain change/.test(why))
    .map(({ what, why }) =>
      caught({ ...before.span, end: before.span.start }, what, `the result would not be understood: ${why}`),
    );
}
