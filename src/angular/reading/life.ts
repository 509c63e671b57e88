import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { branched } from '../../course/branches.js';
import { spanAt, type Told } from '../../course/cell.js';
import { calledMember, type FlowEvent } from '../../course/flow.js';
import { rolesOf } from '../../course/roles.js';
import { stepsOf } from '../../course/steps.js';
import type {
  Checker,
  FormLife,
  RunMoment,
  Status,
  StatusRole,
  StepKind,
  SubmitCourse,
  SubmitStep,
  ValueChange,
} from '../../form/life.js';
import { fieldsOf, type FormModel } from '../../form/model.js';
import type { AngularSite } from '../form-site.js';
import { messagesOf, textOfRule } from './messages.js';
import { sceneOf, type Scene } from './scene.js';

/** A model that tells what happens to the form besides its values, once that is asked for. */
export function withLife(model: FormModel, site: AngularSite): FormModel {
  let life: FormLife | undefined;
  return { ...model, life: () => (life ??= lifeOf(site, model)) };
}

function lifeOf(site: AngularSite, model: FormModel): FormLife {
  const scene = sceneOf(site, model);
  const told = scene.entries.flatMap(({ moment, events, submits }) =>
    branched(events, scene).events.flatMap(({ event, branch }) =>
      scene.tells(event).map((one): Told => ({ ...one, moment, branch: submits ? branch : undefined })),
    ),
  );
  const kept = scene.cells.flatMap((cell) => rolesOf(cell, told, scene));
  const shown = messagesOf(scene, kept);
  const moments = model.rules.map(({ stated, moment }): RunMoment[] =>
    stated === 'code' ? [moment] : [momentOf(model)],
  );
  return {
    status: [...kept, ...frameworkStatus(scene)],
    checkers: checkersOf(model),
    shown,
    moments,
    texts: model.rules.map((rule) => {
      const own = rule.stated === 'code' || (rule.stated === 'signal-rules' && rule.message !== undefined);
      return own ? rule.message : textOfRule(rule, shown);
    }),
    course: courseOf(scene, kept),
    changed: changesOf(model),
  };
}

/** When the framework runs its validators. */
function momentOf(model: FormModel): RunMoment {
  return model.template?.updateOn ?? 'always';
}

/** Status that the framework keeps and the code asks. */
function frameworkStatus({ site, model }: Scene): Status[] {
  const { template, script } = site.component;
  const text = template.place.inline ? script.text : `${template.place.text}\n${script.text}`;
  const name = model.template?.member ?? model.template?.reference ?? 'form';
  const span = { file: model.file, start: model.span.start, end: model.span.end };
  const asked: [StatusRole, RegExp, Status['shape']][] = [
    ['errors', /\.errors\b|hasError\(|getError\(/, 'by-field'],
    ['touched', /\.(un)?touched\b|markAllAsTouched|markAsTouched/, 'by-field'],
    ['changed', /\.(dirty|pristine)\b/, 'by-field'],
    ['valid', /\.(in)?valid\b/, 'one'],
    ['checking', /\.pending\b/, 'one'],
    ['attempted', /\w\.submitted\b(?<!this\.submitted)/, 'one'],
  ];
  return asked.filter(([, pattern]) => pattern.test(text)).map(([role, , shape]) => ({ role, name, shape, span }));
}

const checkerNames: Partial<Record<string, string>> = { native: 'template', 'signal-rules': 'schema' };

/** The framework's own validators, and functions of the project that it runs. */
function checkersOf(model: FormModel): Checker[] {
  const stated = model.rules.filter(({ stated: way }) => way !== 'code');
  const names = new Map<string, string[]>();
  for (const rule of stated) {
    const own = rule.kind === 'custom' ? /^(?:this\.|\w+\.)*(\w+)/.exec(rule.condition)?.[1] : undefined;
    const name = own ?? checkerNames[rule.stated] ?? 'Validators';
    names.set(name, [...(names.get(name) ?? []), ...rule.fields]);
  }
  return [...names].map(([name, fields]) => {
    const span = stated.find(({ condition }) => condition.includes(name))?.span ?? stated[0]?.span ?? model.span;
    return { name, runs: [{ moment: momentOf(model), of: [...new Set(fields)], when: null, span }] };
  });
}

function courseOf(scene: Scene, status: readonly Status[]): SubmitCourse {
  const entry = scene.entries.find(({ submits }) => submits);
  const { form, component } = scene.site;
  const { file } = component.template.place;
  if (!entry) {
    const span = form ? { file, start: form.start, end: form.end } : scene.model.span;
    return { by: 'none', span, prevents: null, steps: [] };
  }
  const steps = stepsOf(
    branched(entry.events, scene),
    { ...scene, call: (event) => stepOf(event, scene), putsBack: () => [] },
    status,
  );
  const guarded: SubmitStep[] = entry.guard ? [{ does: 'stop-if-wrong', branch: 'before', span: entry.guard }] : [];
  return {
    by: entry.by ?? 'none',
    span: spanAt(entry.at),
    prevents: entry.by === 'form' ? true : null,
    steps: [...guarded, ...steps],
  };
}

/** What a call of the class does to the form. */
function stepOf(event: FlowEvent, { site, model }: Scene): StepKind | undefined {
  const { path, statement, arms } = event;
  const name = calledMember(path);
  const failing = arms.some(({ kind }) => kind === 'catch' || kind === 'rejected');
  if (/^mark(All)?As(Touched|Dirty)$/.test(name)) return 'touch-all';
  if (name === 'setErrors') return failing ? 'field-errors' : 'keep-errors';
  if (name === 'updateValueAndValidity') return 'check';
  if (name === 'focus') return 'focus-first';
  if (name === 'reset' || name === 'resetForm') return onWholeForm(path, model) ? 'reset' : 'reset-some';
  if (/^(setValue|patchValue)$/.test(name)) return 'reset-some';
  const callee = path.isCallExpression() ? path.get('callee') : undefined;
  const own = callee?.isMemberExpression() && t.isThisExpression(callee.node.object) ? name : undefined;
  if (!statement || (own !== undefined && site.component.members.has(own))) return undefined;
  if (
    /^(preventDefault|stopPropagation|log|warn|error|debug|subscribe|pipe|get|clearTimeout|setTimeout|push|sort)$/.test(
      name,
    )
  )
    return undefined;
  return 'other';
}

function onWholeForm(path: NodePath, model: FormModel): boolean {
  const callee = path.isCallExpression() ? path.get('callee') : undefined;
  const object = callee?.isMemberExpression() ? callee.node.object : undefined;
  const name = t.isIdentifier(object)
    ? object.name
    : t.isMemberExpression(object) && t.isIdentifier(object.property)
      ? object.property.name
      : '';
  return name === model.template?.member || !fieldsOf(model).some((field) => field.name.split('.').at(-1) === name);
}

/** Places that change values beyond a control taking in its own. */
function changesOf(model: FormModel): ValueChange[] {
  const all = fieldsOf(model)
    .filter(({ kind }) => kind !== 'group')
    .map(({ name }) => name);
  const found: ValueChange[] = [];
  for (const use of model.uses) {
    const whole = use.kind === 'set-all';
    const fields =
      use.kind === 'set'
        ? use.resetsAll
          ? all
          : [...new Set(use.assignments.map(({ field }) => field))]
        : use.kind === 'set-all'
          ? all
          : use.kind === 'reset'
            ? use.of === undefined
              ? all
              : [use.of]
            : use.kind === 'change-rows'
              ? [use.list]
              : [];
    if (fields.length) found.push({ span: use.span, fields: [...fields], whole });
  }
  return found;
}
