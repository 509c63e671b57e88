import path from 'node:path';
import type { RunMoment } from '../form/life.js';
import { type FormModel } from '../form/model.js';
import type { Rule } from '../form/rules.js';
import { type Use } from '../form/uses.js';
import { leafFields } from '../survey/leaf-fields.js';
import type { PlacedFinding } from '../survey/survey.js';

/** Line of an offset in a file. */
export type LineOf = (file: string, offset: number) => number;

interface At {
  file: string;
  start: number;
}

/** A form model as JSON: spans become lines, paths relative to the working folder. */
export function inspectJson(
  models: readonly FormModel[],
  cwd: string,
  lineOf: LineOf,
  findings: (model: FormModel) => PlacedFinding[],
): object {
  const relative = (file: string): string => path.relative(cwd, file).split(path.sep).join('/');
  const place = (span: At): { file: string; line: number } => ({
    file: relative(span.file),
    line: lineOf(span.file, span.start),
  });
  return {
    version: 1,
    forms: models.map((model) => ({
      id: model.id,
      name: model.name,
      component: model.component,
      framework: model.framework,
      approach: model.approach,
      file: relative(model.file),
      files: model.files.map(relative),
      line: model.line,
      fields: fieldsJson(model, place),
      controls: model.controls.map(({ span, binding: _binding, ...control }) => ({
        ...control,
        label: control.label ?? null,
        ...place(span),
      })),
      ...lifeJson(model, place),
      uses: model.uses.map((use) => ({ kind: use.kind, fields: fieldsIn(use), where: use.where, ...place(use.span) })),
      findings: findings(model).map((finding) => ({ ...finding, file: relative(finding.file) })),
      others: model.others,
      unclear: model.unclear.map(({ span, what, why }) => ({ what, why, ...place(span) })),
    })),
  };
}

type Place = (span: At) => { file: string; line: number };

function fieldsJson(model: FormModel, place: Place): object[] {
  return leafFields(model).map(({ name, kind, type, initial, once, path: own }) => {
    const field = model.fields.find((one) => own === one.name || own.startsWith(`${one.name}.`));
    return {
      name,
      kind,
      type: type ?? null,
      initial,
      when: once ? 'once' : (field?.initial.when ?? 'constant'),
      ...(field ? place(field.declared) : {}),
    };
  });
}

const inOrder: readonly RunMoment[] = ['first-view', 'change', 'blur', 'submit', 'always'];

/** The rules of a form, each once, with all the moments at which it runs. */
export function rulesWithMoments(model: FormModel): { rule: Rule; moments: RunMoment[] }[] {
  const life = model.life?.();
  const found: { rule: Rule; moments: RunMoment[] }[] = [];
  model.rules.forEach((one, index) => {
    const rule = life?.texts ? { ...one, message: life.texts[index] } : one;
    const moments: RunMoment[] = life?.moments[index] ?? [rule.moment];
    const same = found.find(
      (one) =>
        one.rule.span.file === rule.span.file &&
        one.rule.span.start === rule.span.start &&
        one.rule.message === rule.message &&
        one.rule.kind === rule.kind &&
        one.rule.condition === rule.condition &&
        one.rule.fields[0] === rule.fields[0],
    );
    if (same) same.moments = inOrder.filter((moment) => same.moments.includes(moment) || moments.includes(moment));
    else found.push({ rule, moments });
  });
  // of two readings of one place the one that understands it is told
  return found.filter(
    (one) =>
      one.rule.kind !== 'custom' ||
      !found.some(
        ({ rule }) =>
          rule.kind !== 'custom' &&
          rule.span.file === one.rule.span.file &&
          rule.span.start === one.rule.span.start &&
          rule.message === one.rule.message,
      ),
  );
}

/** What happens to a form besides its values. */
function lifeJson(model: FormModel, place: Place): object {
  const life = model.life?.();
  return {
    rules: rulesWithMoments(model).map(({ rule, moments }) => {
      const { span, statedIn: _statedIn, keyed: _keyed, moment: _moment, ...said } = rule;
      return { ...said, message: rule.message ?? null, moments, blocks: true, ...place(span) };
    }),
    status: (life?.status ?? []).map(({ span, ...one }) => ({ ...one, ...place(span) })),
    checkers: (life?.checkers ?? []).map(({ name, runs }) => ({
      name,
      runs: runs.map(({ span, ...run }) => ({ ...run, ...place(span) })),
    })),
    messages: (life?.shown ?? []).map(({ span, keys: _keys, ...one }) => ({ ...one, ...place(span) })),
    submit: life
      ? {
          by: life.course.by,
          ...place(life.course.span),
          prevents: life.course.prevents,
          steps: life.course.steps.map(({ span, ...step }) => ({ ...step, ...place(span) })),
        }
      : null,
    changes: (life?.changed ?? []).map(({ span, ...change }) => ({ ...change, ...place(span) })),
  };
}

/** The fields that a use speaks of; none where it speaks of all. */
export function fieldsIn(use: Use): string[] {
  switch (use.kind) {
    case 'read':
    case 'hand-on':
      return [use.field];
    case 'set':
    case 'made-handler':
      return use.assignments.map(({ field }) => field);
    case 'set-named':
      return use.choices.map(({ field }) => field);
    case 'reset':
    case 'ask':
    case 'watch':
      return use.of === undefined ? [] : [use.of];
    case 'read-all':
    case 'hand-on-all':
    case 'set-all':
    case 'depend':
      return [];
    case 'rows':
    case 'change-rows':
    case 'make-row':
      return [use.list];
    default: {
      const never: never = use;
      return never;
    }
  }
}
