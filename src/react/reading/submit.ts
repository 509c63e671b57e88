import type { NodePath } from '@babel/traverse';
import type { Status, StepKind, SubmitCourse } from '../../form/life.js';
import { fieldsOf } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import { branched } from '../../course/branches.js';
import { isWithin, spanAt } from '../../course/cell.js';
import { calledMember, type FlowEvent } from '../../course/flow.js';
import { stepsOf, type StepGuide } from '../../course/steps.js';
import { functionBehind } from './names.js';
import { sentThrough } from '../calls/sending.js';
import type { JsxAttribute } from '../jsx-controls.js';
import { handlerOf } from './submit-handler.js';
import { changesValues, isPlainCall } from './calls.js';
import type { Entry, Scene } from './scene.js';

/** The steps of a submit, in the order of the source. */
export function courseOf(scene: Scene, status: readonly Status[]): SubmitCourse {
  const entry = scene.entries.find(({ submits }) => submits) ?? autoSave(scene);
  const { region, script, component } = scene.site;
  const place = region.submit.attribute?.value ?? region.element ?? component.path;
  const span = spanAt(entry ? entry.at : { path: place, script });
  if (!entry)
    return {
      by: region.submit.how === 'form' ? 'form' : 'none',
      span,
      prevents: region.submit.how === 'form' ? false : null,
      steps: [],
    };
  const isForm =
    region.submit.how === 'form' ||
    (region.element !== undefined &&
      entry.at.path.node !== undefined &&
      entry.submits &&
      region.submit.attribute !== undefined);
  const by = entry.moment !== 'submit' ? 'effect' : isForm ? 'form' : 'button';
  return {
    by,
    span,
    prevents: by === 'form' ? prevents(entry, region.submit.attribute) : null,
    handler: handlerOf(scene.site, by === 'form' ? region.submit.attribute?.value : entry.given),
    steps: stepsOf(branched(entry.events, scene), guideOf(scene), status),
  };
}

function guideOf(scene: Scene): StepGuide {
  return {
    ...scene,
    call: (event) => stepOfCall(event, scene),
    putsBack: (event) => scene.model.uses.flatMap((use) => (isWithin(use.span, event) ? putBack(use, scene) : [])),
    holds: (cell) => scene.holders.includes(cell),
  };
}

/** An effect that hands the values on by itself. */
function autoSave(scene: Scene): Entry | undefined {
  return scene.entries.find(
    (entry) =>
      entry.event === undefined && entry.moment === 'change' && branched(entry.events, scene).send !== undefined,
  );
}

function prevents({ events }: Entry, attribute: JsxAttribute | undefined): boolean | null {
  if (attribute?.name === 'action') return null;
  if (attribute?.value && sentThrough(attribute.value)) return true;
  return events.some(({ kind, path }) => kind === 'call' && calledMember(path) === 'preventDefault');
}

function stepOfCall(event: FlowEvent, scene: Scene): StepKind | undefined {
  const { path, statement } = event;
  const name = calledMember(path);
  if (name === 'focus' || name === 'reportValidity' || name === 'scrollIntoView')
    return name === 'reportValidity' ? 'check' : 'focus-first';
  const use = scene.model.uses.find(
    ({ kind, span }) =>
      /^(set|reset)/.test(kind) &&
      span.start >= (path.node.start ?? 0) &&
      span.end <= (path.node.end ?? 0) &&
      span.file === event.script.file,
  );
  if (use && changesValues(event, scene)) {
    if (use.kind === 'set') {
      const values = fieldsOf(scene.model).map(({ name: field }) => field);
      if (!use.assignments.some(({ field }) => values.includes(field))) return undefined;
      return use.resetsAll ? 'reset' : 'reset-some';
    }
    return use.kind === 'reset' && use.of !== undefined ? 'reset-some' : 'reset';
  }
  if (name === 'reset' && scene.model.approach === 'dom-values') return 'reset';
  if (!statement || isPlainCall(path) || /^(preventDefault|stopPropagation|persist|log|warn|error|debug)$/.test(name))
    return undefined;
  if (
    /^(append|push|set|delete|trim|sort|json|text|forEach|map|filter|some|every|find|reduce|flatMap)$/.test(name) &&
    !path.isIdentifier()
  )
    return undefined;
  return isFollowed(event, scene) ? undefined : 'other';
}

/** Whether what a call does stands among the events that follow. */
function isFollowed({ path, script }: FlowEvent, scene: Scene): boolean {
  const callee = path.isCallExpression() ? (path.get('callee') as NodePath) : undefined;
  return callee !== undefined && functionBehind({ path: callee, script }, scene.trail, scene.given) !== undefined;
}

/** The fields that a change puts back to their start. */
function putBack(use: Use, { model, site }: Scene): string[] {
  if (use.kind !== 'set') return [];
  return use.assignments.flatMap(({ field, value }) => {
    const start = model.fields.find(({ name }) => name === field)?.initial.text;
    const code = value.kind === 'value' && value.operator === undefined ? value.code : undefined;
    const text = code && code.file === site.script.file ? site.script.text.slice(code.start, code.end) : undefined;
    return value.kind === 'initial' || (text !== undefined && plainText(text) === plainText(start ?? ''))
      ? [field]
      : [];
  });
}

function plainText(text: string): string {
  return text.trim().replace(/"/g, "'");
}
