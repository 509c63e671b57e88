import path from 'node:path';
import type { FormLife, RunMoment, Status, StepKind, SubmitStep } from '../form/life.js';
import type { FormModel } from '../form/model.js';
import { cut } from './cut.js';
import type { LineOf } from './inspect-json.js';
import type { Paint } from './paint.js';
import { columns } from './table.js';

const moments: Record<RunMoment, string> = {
  'first-view': 'at the first view',
  change: 'on change',
  blur: 'on leaving',
  submit: 'on submit',
  always: 'always',
};

/** When a rule runs, in words. */
export function momentWords(all: readonly RunMoment[]): string {
  return all.map((moment) => moments[moment]).join(', ');
}

const steps: Record<StepKind, string> = {
  'touch-all': 'every field counts as touched',
  attempt: 'notes that a send was tried',
  check: 'checks the values',
  'keep-errors': 'keeps the messages',
  'stop-if-wrong': 'stops if something is wrong',
  'focus-first': 'puts the focus on what is wrong',
  begin: 'says that it is sending',
  send: 'sends the values',
  'field-errors': 'shows what the answer says of fields',
  message: 'sets or clears the form’s message',
  reset: 'puts every field back',
  'reset-some': 'puts a part back',
  done: 'says that it was sent',
  end: 'says that it is not sending any more',
  other: 'does something of its own',
};

const roles: Record<Status['role'], string> = {
  errors: 'messages by rule',
  message: 'a message for the form',
  touched: 'which fields were left',
  attempted: 'whether a send was tried',
  submitting: 'whether it is sending',
  submitted: 'whether it was sent',
  changed: 'whether anything was changed',
  loading: 'whether it is loading',
  valid: 'whether every rule holds',
  checking: 'whether a rule is still being checked',
};

/** What happens to a form besides its values, section by section; a section without lines has an empty body. */
export function lifeSections(model: FormModel, lineOf: LineOf, paint: Paint): { title: string; body: string }[] {
  const life = model.life?.();
  if (!life) return [];
  const at = ({ file, start }: { file: string; start: number }): string => {
    const line = String(lineOf(file, start));
    return paint.dim(file === model.file ? `line ${line}` : `${path.basename(file)}:${line}`);
  };
  return [
    {
      title: 'Status',
      body: columns(
        life.status.map((one) => [one.name, roles[one.role], shapeWords(one), at(one.span)]),
        { indent: '  ' },
      ),
    },
    {
      title: 'Checks',
      body: columns(
        life.checkers.flatMap(({ name, runs }) =>
          runs.map((run) => [
            name,
            moments[run.moment],
            run.of === 'all' ? 'all fields' : run.of.join(', '),
            at(run.span),
          ]),
        ),
        { indent: '  ' },
      ),
    },
    {
      title: 'Messages',
      body: columns(
        life.shown.map((one) => [one.field ?? 'the form', gateWords(one), at(one.span)]),
        { indent: '  ' },
      ),
    },
    { title: 'Submit', body: submitLines(life, at, paint) },
    {
      title: 'Changes',
      body: columns(
        life.changed.map((one) => [one.whole ? 'all values as a whole' : one.fields.join(', '), at(one.span)]),
        { indent: '  ' },
      ),
    },
  ];
}

function shapeWords({ shape, derived }: Status): string {
  const words = { 'by-field': 'one for each field', one: 'one', list: 'a list' }[shape];
  return derived ? `${words}, worked out` : words;
}

function gateWords({ after, all }: FormLife['shown'][number]): string {
  if (!after.length) return 'as soon as there is one';
  const words: Partial<Record<Status['role'], string>> = {
    touched: 'the field was left',
    attempted: 'a send was tried',
    submitted: 'it was sent',
    changed: 'something was changed',
  };
  return `once ${after.map((role) => words[role] ?? role).join(all ? ' and ' : ' or ')}`;
}

function submitLines({ course }: FormLife, at: (span: SubmitStep['span']) => string, paint: Paint): string {
  const by = {
    form: `by the form’s submit${course.prevents === false ? ', which also leaves the page' : ''}`,
    button: 'by a button’s click',
    effect: 'by itself, when values change',
    none: 'nothing handles it',
  }[course.by];
  const branches = { before: '', success: 'after success', failure: 'after a failure', always: 'in any case' };
  const rows = course.steps.map(({ does, branch, span, call }) => [
    call === undefined ? steps[does] : `sends ${cut(call, 60)}`,
    paint.dim(branches[branch]),
    at(span),
  ]);
  return [`  ${by}`, columns(rows, { indent: '  ' })].filter((one) => one !== '').join('\n');
}
