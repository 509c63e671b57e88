import path from 'node:path';
import { type Control, type FormModel } from '../form/model.js';
import { type Use } from '../form/uses.js';
import { cut } from './cut.js';
import { fieldsIn, rulesWithMoments, type LineOf } from './inspect-json.js';
import { lifeSections, momentWords } from './life-report.js';
import { leafFields } from '../survey/leaf-fields.js';
import type { PlacedFinding } from '../survey/survey.js';
import { counted, type Paint } from './paint.js';
import { findingsText } from './survey-report.js';
import { columns } from './table.js';

/** Rows without those that say the same as an earlier one: a condition of several parts reads as one rule. */
function oncePerRow(rows: string[][]): string[][] {
  return [...new Map(rows.map((row) => [row.join('\n'), row])).values()];
}

const verbs: Record<Use['kind'], string> = {
  read: 'read',
  'read-all': 'all values read',
  set: 'changed',
  'set-named': 'changed by name',
  'made-handler': 'changed',
  'hand-on': 'setter handed on',
  'hand-on-all': 'setter of all values handed on',
  depend: 'in a dependency list',
  'set-all': 'all values set',
  reset: 'reset',
  ask: 'status',
  watch: 'watched',
  rows: 'rows looked at',
  'change-rows': 'rows changed',
  'make-row': 'row made',
};

function controlWords(control: Control): string {
  const element = control.type === undefined ? `<${control.element}>` : `<${control.element} type="${control.type}">`;
  const label = control.label === undefined ? '' : ` “${control.label}”`;
  const ways = new Set([control.shows, control.changes].filter((one) => one !== undefined));
  const events = [...ways].join(' and ');
  const wayIn = control.wayIn === undefined ? '' : `, takes ${control.wayIn}`;
  return `${element}${label}${events ? ` through ${events}` : ''}${wayIn}`;
}

/** Uses of a form, one line a field: where it is read, changed, and used otherwise. */
function useRows(model: FormModel, lineOf: LineOf, paint: Paint): string[][] {
  const rows = new Map<string, Map<string, Set<number>>>();
  for (const use of model.uses) {
    for (const field of fieldsIn(use).length ? fieldsIn(use) : ['(all)']) {
      const verb = verbs[use.kind];
      const own = rows.get(field) ?? new Map<string, Set<number>>();
      rows.set(field, own);
      own.set(verb, (own.get(verb) ?? new Set()).add(lineOf(use.span.file, use.span.start)));
    }
  }
  const order = model.fields.map((field) => field.name);
  return [...rows]
    .sort(([a], [b]) => order.indexOf(a) - order.indexOf(b))
    .map(([field, own]) => [
      field,
      [...own].map(([verb, lines]) => `${verb} ${paint.dim([...lines].sort((a, b) => a - b).join(', '))}`).join('; '),
    ]);
}

const ruleHead = ['FIELD', 'RULE', 'MESSAGE', 'MOMENT', 'PLACE'];

function indented(text: string): string {
  return text.replace(/^(?=.)/gm, '  ');
}

/** One form in full, for people. */
export function inspectText(
  model: FormModel,
  cwd: string,
  lineOf: LineOf,
  paint: Paint,
  findings: readonly PlacedFinding[],
): string {
  const file = path.relative(cwd, model.file).split(path.sep).join('/');
  const out: string[] = [];
  const section = (title: string, body: string): void => {
    if (body) out.push('', paint.bold(title), body);
  };
  out.push(
    `${paint.bold(model.name)}  ${model.framework}, ${paint.cyan(model.approach)}  ${paint.dim(`${file}:${model.line}`)}`,
  );
  const fields = leafFields(model).map((field) => [
    field.name,
    field.kind,
    paint.dim(cut(field.type ?? '', 40)),
    field.initial === '' ? '' : `starts as ${cut(field.initial, 40)}${field.once ? ' (once)' : ''}`,
  ]);
  section(`Fields (${fields.length})`, columns(fields, { indent: '  ' }));
  section(
    'Controls',
    columns(
      model.controls.map((control) => [
        control.field,
        controlWords(control),
        paint.dim(`line ${lineOf(control.span.file, control.span.start)}`),
      ]),
      { indent: '  ' },
    ),
  );
  section('Lines', columns(useRows(model, lineOf, paint), { indent: '  ' }));
  const rules = oncePerRow(
    rulesWithMoments(model).map(({ rule, moments }) => [
      rule.fields.join(', '),
      cut(rule.condition, 46),
      rule.message === undefined
        ? paint.dim(model.framework === 'angular' ? 'no message of its own' : 'kept by the browser')
        : `“${cut(rule.message, 44)}”`,
      momentWords(moments),
      paint.dim(`line ${lineOf(rule.span.file, rule.span.start)}`),
    ]),
  );
  section(
    'Rules',
    columns(rules.length ? [ruleHead.map((title) => paint.dim(title)), ...rules] : [], { indent: '  ' }),
  );
  section(
    'Findings',
    indented(findingsText(findings, (name) => path.relative(cwd, name).split(path.sep).join('/'), paint)),
  );
  for (const { title, body } of lifeSections(model, lineOf, paint)) section(title, body);
  const status = new Set(model.life?.().status.map(({ name }) => name));
  section(
    'Not part of the form',
    columns(
      model.others
        .filter(({ name }) => !status.has(name))
        .map((other) => [other.name, other.why, paint.dim(`line ${other.line}`)]),
      { indent: '  ' },
    ),
  );
  section(
    'Not understood',
    columns(
      model.unclear.map((one) => [
        cut(one.what, 40),
        one.why,
        paint.dim(`line ${lineOf(one.span.file, one.span.start)}`),
      ]),
      { indent: '  ' },
    ),
  );
  out.push(
    '',
    paint.dim(
      `${counted(model.stateVariables, 'state variable')}, ${counted(model.handlers, 'handler')} that change${model.handlers === 1 ? 's' : ''} fields`,
    ),
  );
  return out.join('\n');
}
