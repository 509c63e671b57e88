import * as t from '@babel/types';
import { codeText } from '../../form/code-text.js';
import type { LedgerEntry } from '../../form/ledger.js';
import type { FormModel, Span } from '../../form/model.js';
import { codeOf } from '../class-reading.js';
import type { AngularComponent } from '../component.js';
import { accessText, behindProperties, type FileEdit } from '../writing.js';
import type { ModelDraft } from './write.js';

/** A field whose control exists only while a condition on other fields holds. */
export interface ConditionalField {
  field: string;
  condition: Span;
  negated: boolean;
  /** Fields the condition reads. */
  follows: string[];
}

/** The fields that come and go with a part of the template, where that matters to values and rules. */
export function conditionalFields(
  model: FormModel,
  component: AngularComponent,
  byHand: LedgerEntry[],
): ConditionalField[] {
  const found: ConditionalField[] = [];
  const { template } = component;
  for (const control of model.controls) {
    const element = template.elements.find((one) => one.start === control.span.start);
    let view = element?.view;
    while (view && view.kind !== 'condition') view = view.parent;
    if (!control.binding?.shownWhen || !view?.expression) continue;
    const form = model.template?.element;
    // the whole form comes and goes with its controls
    if (form && form.start >= view.start && form.end <= view.end) continue;
    const start = template.place.base + view.expression.sourceSpan.start;
    const end = template.place.base + view.expression.sourceSpan.end;
    const inside = (span: { start: number; end: number; file?: string }): boolean =>
      span.start >= start && span.end <= end;
    const names = template.names.filter(inside);
    const reads = model.uses.filter(
      (use) => use.kind === 'read' && use.span.file === template.place.file && inside(use.span),
    );
    const covered = names.every((name) => reads.some(({ span }) => name.start >= span.start && name.end <= span.end));
    const matters =
      model.rules.some((rule) => rule.fields.includes(control.field)) ||
      model.uses.some(
        (use) => (use.kind === 'read-all' && use.what === 'shown') || (use.kind === 'ask' && use.of === control.field),
      );
    if (!matters) continue;
    const condition = { file: template.place.file, start, end };
    if (!covered || !names.length) {
      byHand.push({
        entry: 'by-hand',
        span: condition,
        what: `${control.field} is shown only while ${control.binding.shownWhen.text}`,
        why: 'the condition depends on more than fields of the form, so when to enable and disable the control has to be said in the class',
      });
      continue;
    }
    found.push({
      field: control.field,
      condition,
      negated: view.negated,
      follows: [...new Set(reads.flatMap((use) => (use.kind === 'read' ? [use.field] : [])))],
    });
  }
  return found.filter((one, index) => found.findIndex(({ field }) => field === one.field) === index);
}

/** A method that enables what is shown and disables what is not, called at first and whenever a condition may change. */
export function toggleText(conditional: readonly ConditionalField[], draft: ModelDraft, indent: string): FileEdit[] {
  const { component, context } = draft;
  const { style } = context;
  const { script } = component;
  const method =
    ['enableShownFields', 'enableFieldsInUse'].find((name) => !component.members.has(name)) ?? 'enableShownControls';
  const step = style.indent;
  const newline = style.newline;
  const controls = `this.${draft.group}.controls`;
  const follows = [...new Set(conditional.flatMap((one) => one.follows))];
  const path = (field: string): string => field.split('.').map(accessText).join('.controls');
  const lines = [
    ...follows.map(
      (field) => `${controls}${path(field)}.valueChanges.subscribe(() => this.${method}())${style.semicolon}`,
    ),
    `this.${method}()${style.semicolon}`,
  ];
  const setup = lines.map((line) => `${indent}${step}${line}${newline}`).join('');
  const conditionText = (one: ConditionalField): string => {
    const text = classExpression(one, draft);
    return one.negated ? `!(${text})` : text;
  };
  const body = conditional.map((one) => {
    const control = `${controls}${path(one.field)}`;
    return [
      `if (${conditionText(one)}) {`,
      `${step}${control}.enable()${style.semicolon}`,
      `} else {`,
      `${step}${control}.reset(${control}.value)${style.semicolon}`,
      `${step}${control}.disable()${style.semicolon}`,
      `}`,
    ]
      .map((line) => `${indent}${step}${line}${newline}`)
      .join('');
  });
  const methodText = [
    `${indent}/** A field that is not shown counts neither for the values nor for the rules. */${newline}`,
    `${indent}private ${method}(): void {${newline}`,
    ...body,
    `${indent}}`,
  ].join('');
  const constructor = component.path.node.body.body.find(
    (member) => t.isClassMethod(member) && member.kind === 'constructor',
  );
  if (t.isClassMethod(constructor)) {
    const end = (constructor.body.end ?? 1) - 1;
    const lineStart = script.lines.lineStart(end);
    const alone = script.text.slice(lineStart, end).trim() === '';
    return [
      {
        file: script.file,
        start: alone ? lineStart : end,
        end: alone ? lineStart : end,
        text: alone ? setup : `${newline}${setup}${indent}`,
      },
      {
        file: script.file,
        start: constructor.end ?? 0,
        end: constructor.end ?? 0,
        text: `${newline}${newline}${methodText}`,
      },
    ];
  }
  const place = behindProperties(component);
  return [
    {
      file: script.file,
      start: place,
      end: place,
      text: `${newline}${newline}${indent}constructor() {${newline}${setup}${indent}}${newline}${newline}${methodText}`,
    },
  ];
}

/** The template's condition as an expression of the class. */
function classExpression(one: ConditionalField, draft: ModelDraft): string {
  const code = codeOf(one.condition.file, one.condition);
  return codeText(code, {
    ...draft.printer,
    use: (use) =>
      use.kind === 'read'
        ? `this.${draft.group}.controls${use.field.split('.').map(accessText).join('.controls')}.value`
        : undefined,
  });
}
