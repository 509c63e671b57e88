import * as t from '@babel/types';
import { codeText } from '../../form/code-text.js';
import type { LedgerEntry } from '../../form/ledger.js';
import type { Code, Hole } from '../../form/code.js';
import type { Control, FormModel } from '../../form/model.js';
import { placeByHand } from '../../form/writing.js';
import type { AngularComponent } from '../component.js';
import { codeOf } from '../class-reading.js';
import { accessText, behindProperties, type FileEdit } from '../writing.js';
import type { ConditionalField } from './conditional.js';
import { useText } from './use-texts.js';
import { type ModelDraft } from './draft.js';

/** Whether what runs on a change has to run on a reset as well: it does more than turn the value into another one. */
export function isFollowed(control: Control, model: FormModel): boolean {
  return (control.binding?.changed ?? []).some(({ code }) => {
    const inside = model.uses.filter(
      ({ span }) => span.file === code.file && span.start >= code.start && span.end <= code.end,
    );
    const own = inside.some(
      (use) => use.kind === 'set' && use.assignments.every(({ field }) => field === control.field),
    );
    return !own;
  });
}

/** Handlers that cannot move into the class, and changes that would set them off. */
export function unfollowable(draft: ModelDraft): LedgerEntry[] {
  const { model, component } = draft;
  const loud = draft.followed.size > 0 && (draft.rows.length > 0 || draft.signal !== undefined);
  const all = loud ? model.uses.filter((use) => use.kind === 'set-all') : [];
  const heard = all.map(({ span }) =>
    placeByHand(span, draft.context, 'it sets what code follows, which would run then as well'),
  );
  return [...heard, ...unmovable(model, component, draft)];
}

/** Handlers that speak of variables of the template. */
function unmovable(model: FormModel, component: AngularComponent, draft: ModelDraft): LedgerEntry[] {
  return model.controls
    .filter(({ field }) => draft.followed.has(field))
    .flatMap(({ binding }) => binding?.changed ?? [])
    .filter(({ code }) =>
      component.template.names.some(
        (name) => name.start >= code.start && name.end <= code.end && name.variable !== undefined,
      ),
    )
    .map(({ span, code }) => ({
      entry: 'by-hand' as const,
      span,
      what: draft.context.text(code.file).slice(code.start, code.end),
      why: 'it has to run on a reset as well, and speaks of a variable of the template that the class does not know',
    }));
}

/** Code of the template as code of the class: members get their `this.`, `$event` the name it is given. */
function inClass(code: Code, draft: ModelDraft, event: string): string {
  const { component, model } = draft;
  const inside = component.template.names.filter((name) => name.start >= code.start && name.end <= code.end);
  const covered = (name: { start: number; end: number }): boolean =>
    model.uses.some(({ span }) => span.file === code.file && name.start >= span.start && name.end <= span.end);
  const holes = inside.flatMap((name): Hole[] => {
    const place = { start: name.start, end: name.end };
    if (name.name === '$event') return [{ kind: 'text', ...place, text: event }];
    return covered(name) || name.variable ? [] : [{ kind: 'text', ...place, text: `this.${name.name}` }];
  });
  return codeText(
    { ...code, holes },
    {
      ...draft.printer,
      use: (use) => useText(use, draft, false),
      hole: (hole) => (hole.kind === 'text' ? hole.text : undefined),
    },
  );
}

function pathOf(field: string, draft: ModelDraft): string {
  return `this.${draft.group}.controls${field.split('.').map(accessText).join('.controls')}`;
}

/** Subscriptions for fields whose changes the class follows. */
function subscriptions(draft: ModelDraft): string[] {
  const { model, context } = draft;
  return model.controls.flatMap(({ field, binding }) => {
    if (!draft.followed.has(field)) return [];
    return (binding?.changed ?? []).map(({ code }) => {
      const parameter = (field.split('.').at(-1) ?? field).replace(/\W+(\w)/g, (_, letter: string) =>
        letter.toUpperCase(),
      );
      const text = context.text(code.file).slice(code.start, code.end);
      const named = text.includes('$event') ? `(${parameter})` : '()';
      return `${pathOf(field, draft)}.valueChanges.subscribe(${named} => ${inClass(code, draft, parameter)})`;
    });
  });
}

/**
 * What the class has to follow: handlers of changes, and a method that enables what is shown and disables what is not,
 * called at first and whenever a condition may change.
 */
export function followingText(conditional: readonly ConditionalField[], draft: ModelDraft, indent: string): FileEdit[] {
  const { component, context } = draft;
  const { style } = context;
  const { newline, indent: step } = style;
  const method =
    ['enableShownFields', 'enableFieldsInUse'].find((name) => !component.members.has(name)) ?? 'enableShownControls';
  const follows = [...new Set(conditional.flatMap((one) => one.follows))];
  const lines = [
    ...subscriptions(draft),
    ...follows.map((field) => `${pathOf(field, draft)}.valueChanges.subscribe(() => this.${method}())`),
    ...(conditional.length ? [`this.${method}()`] : []),
  ];
  if (!lines.length) return [];
  const setup = lines.map((line) => `${indent}${step}${line}${style.semicolon}${newline}`).join('');
  const toggles = conditional.map((one) => {
    const text = inClass(codeOf(one.condition.file, one.condition), draft, '$event');
    const control = pathOf(one.field, draft);
    return [
      `if (${one.negated ? `!(${text})` : text}) {`,
      `${step}${control}.enable()${style.semicolon}`,
      `} else {`,
      `${step}${control}.reset(${control}.value)${style.semicolon}`,
      `${step}${control}.disable()${style.semicolon}`,
      `}`,
    ]
      .map((line) => `${indent}${step}${line}${newline}`)
      .join('');
  });
  const methodText = conditional.length
    ? [
        `${newline}${newline}${indent}/** A field that is not shown counts neither for the values nor for the rules. */${newline}`,
        `${indent}private ${method}(): void {${newline}`,
        ...toggles,
        `${indent}}`,
      ].join('')
    : '';
  return placed(setup, methodText, draft, indent);
}

function placed(setup: string, methodText: string, draft: ModelDraft, indent: string): FileEdit[] {
  const { component, context } = draft;
  const { script } = component;
  const { file } = script;
  const { newline } = context.style;
  const constructor = component.path.node.body.body.find(
    (member): member is t.ClassMethod => t.isClassMethod(member) && member.kind === 'constructor',
  );
  if (constructor) {
    const end = (constructor.body.end ?? 1) - 1;
    const lineStart = script.lines.lineStart(end);
    const alone = script.text.slice(lineStart, end).trim() === '';
    const at = alone ? lineStart : end;
    const behind = constructor.end ?? 0;
    return [
      { file, start: at, end: at, text: alone ? setup : `${newline}${setup}${indent}` },
      ...(methodText ? [{ file, start: behind, end: behind, text: methodText }] : []),
    ];
  }
  const place = behindProperties(component);
  const text = `${newline}${newline}${indent}constructor() {${newline}${setup}${indent}}${methodText}`;
  return [{ file, start: place, end: place, text }];
}
