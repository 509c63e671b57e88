import path from 'node:path';
import * as t from '@babel/types';
import { codeText, type CodePrinter } from '../../form/code-text.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { Control, FormModel } from '../../form/model.js';
import type { ReadAllUse, ReadUse, Use } from '../../form/uses.js';
import { leftByHand, placeByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import { signalArgument } from '../class-reading.js';
import type { AngularComponent } from '../component.js';
import { attributeOf, elementAt, plainText } from '../form-site.js';
import type { TemplateElement } from '../template-model.js';
import { useEdits } from '../use-edits.js';
import { aroundUses, keyed, textOfUse } from '../use-texts.js';
import { besideOnce } from '../written-once.js';
import { valuesRoot } from '../values-root.js';
import {
  accessText,
  attributeRemoval,
  importsAfter,
  keyText,
  laidOver,
  moduleEdits,
  nameOfBefore,
  specifierFrom,
  type FileEdit,
} from '../writing.js';
import { freeMember } from '../free-member.js';
import { joinedEdits, livesApart } from './apart-members.js';
import { valuesDirective } from './directive.js';

/** What the parts of the writer share. */
interface OneWayDraft {
  model: FormModel;
  context: WriteContext;
  component: AngularComponent;
  /** Member of the class that holds all values. */
  root: string;
  /** It is a signal already. */
  signal: boolean;
  /** Each value lives in a member of its own until now. */
  apart: boolean;
  printer: CodePrinter;
}

/** Writes a form whose controls are fed one way from a signal, and whose changes are fed back into it. */
export function writeOneWay(model: FormModel, context: WriteContext, component: AngularComponent): RewritePlan {
  const own = valuesRoot(model);
  const apart = own === undefined && livesApart(model, component);
  const root = apart ? freeMember(component, context, 'values', 'formValues', 'allValues') : own;
  const unclear = unclearEntries(model, true);
  if (root === undefined || unclear.length)
    return leftByHand([
      ...unclear,
      ...(root === undefined
        ? [placeByHand({ ...model.span, end: model.span.start }, context, 'its values do not live in one object')]
        : []),
    ]);
  const draft: OneWayDraft = {
    model,
    context,
    component,
    root,
    apart,
    signal: !apart && signalArgument(component.members.get(root)) !== undefined,
    printer: {
      textOf: (file) => context.text(file),
      uses: model.uses,
      use: (use) => useText(use, draft),
      hole: (hole) => (hole.kind === 'text' ? hole.text : undefined),
    },
  };
  const byHand = unwritable(draft);
  if (byHand.length) return leftByHand(byHand);
  const ledger: LedgerEntry[] = [];
  const edits: FileEdit[] = useEdits(stayingModel(draft), context, (use) => useText(use, draft), ledger);
  for (const control of model.controls) edits.push(...controlEdits(control, draft, ledger));
  edits.push(...formEdits(draft, ledger), ...(apart ? joinedEdits(draft, ledger) : memberEdits(draft, ledger)));
  edits.push(...listEdits(draft, edits));
  for (const { span, condition } of model.rules)
    ledger.push({ entry: 'kept', span, what: condition, why: 'the attribute states it as before', untouched: true });
  for (const { role, span, what } of model.declarations)
    if (role !== 'state') ledger.push({ entry: 'kept', span, what, why: 'the template’s form is asked as before' });
  return {
    edits,
    creates: besideOnce(model.file, [valuesDirective], context),
    deletes: [],
    dependencies: [],
    ledger,
  };
}

/** The model as far as its places are edited one by one: its declarations and attributes stay. */
function stayingModel({ model }: OneWayDraft): FormModel {
  return { ...model, declarations: [], controls: [] };
}

/** An expression of the class or the template in which the values are read from the signal. */
function called(text: string, { root, signal }: OneWayDraft): string {
  return signal ? text : text.replace(new RegExp(`(?<![\\w$]|[\\w$)\\]]\\.)((?:this\\.)?${root})\\b(?!\\()`), '$1()');
}

function useText(use: Use, draft: OneWayDraft): string | undefined {
  const { root, context, printer, component } = draft;
  const own = (inTemplate: boolean): string => (inTemplate ? root : `this.${root}`);
  const joined = ({ field, key }: ReadUse, inTemplate: boolean): string =>
    keyed(key, `${own(inTemplate)}()${accessText(field)}`);
  const read = ({ span, key }: ReadUse | ReadAllUse, inTemplate: boolean): string =>
    key === undefined
      ? called(context.text(span.file).slice(span.start, span.end), draft)
      : `${key}: ${own(inTemplate)}()`;
  return textOfUse(
    use,
    {
      read: (one, inTemplate) => (draft.apart ? joined(one, inTemplate) : read(one, inTemplate)),
      'read-all': (one, inTemplate) => (draft.apart ? undefined : read(one, inTemplate)),
      set({ assignments: [assignment] }, inTemplate) {
        if (!assignment || assignment.value.kind !== 'value' || draft.signal) return undefined;
        const { operator, code } = assignment.value;
        const keys = keysOf(assignment.field, draft);
        const given = codeText(code, printer);
        const before = inTemplate ? `${root}()` : nameOfBefore(given);
        const value = operator === undefined ? given : `${before}${keys.map(accessText).join('')} ${operator} ${given}`;
        const object = mergedText(before, keys, value.trimEnd(), context);
        return inTemplate ? `${root}.set(${object})` : `this.${root}.update((${before}) => (${object}))`;
      },
      'set-all'({ code, merge }, inTemplate) {
        const given = codeText(code, printer);
        const before = nameOfBefore(given);
        if (!merge) return `${own(inTemplate)}.set(${given})`;
        return `${own(inTemplate)}.update((${before}) => (${laidOver(before, given)}))`;
      },
      ask: (one) => aroundUses(one, printer),
      reset: (one) => aroundUses(one, printer),
    },
    component,
  );
}

/** The keys by which the values' object knows a field. */
function keysOf(field: string, { model, root, apart }: OneWayDraft): string[] {
  if (apart) return [field];
  const value = model.fields.find(({ name }) => name === field)?.names.value ?? `${root}.${field}`;
  return value.split('.').slice(1);
}

/** An object in which one value is another than before. */
function mergedText(before: string, keys: readonly string[], value: string, context: WriteContext): string {
  const [key = '', ...rest] = keys;
  const inner = rest.length ? mergedText(before + accessText(key), rest, value, context) : value;
  return `{ ...${before}, ${keyText(key, context)}: ${inner} }`;
}

/** What keeps the form from being fed one way. */
function unwritable(draft: OneWayDraft): LedgerEntry[] {
  const { model, context, component, root } = draft;
  const entries: LedgerEntry[] = [];
  const member = component.members.get(root)?.node;
  const value = t.isClassProperty(member) ? member.value : undefined;
  if (!draft.apart && (!value || t.isNewExpression(value)))
    entries.push(
      placeByHand(
        { ...model.span, end: model.span.start },
        context,
        `${root} has no plain object to start with, which a signal could hold`,
      ),
    );
  for (const use of model.uses)
    if (use.kind !== 'watch' && useText(use, draft) === undefined)
      entries.push(placeByHand(use.span, context, 'this place cannot be said with a signal of all values yet'));
  for (const control of model.controls) {
    const why = whyNot(control, draft);
    if (why !== undefined) entries.push(placeByHand(control.span, context, why));
  }
  const { template } = model;
  if (!template?.element || elementAt(component, template.element.start)?.tag !== 'form')
    entries.push(
      placeByHand({ ...model.span, end: model.span.start }, context, 'there is no form element to tell its values'),
    );
  if (template?.updateOn && template.element)
    entries.push(placeByHand(template.element, context, 'its values would come later than they do'));
  return entries;
}

function whyNot(control: Control, draft: OneWayDraft): string | undefined {
  const { binding, field, span } = control;
  const element = elementAt(draft.component, span.start);
  if (!element) return 'its element is not found';
  if (binding?.rows) return 'rows are not fed one way yet';
  if (binding?.standalone) return 'the form does not tell the value of a control that stands alone';
  if (binding?.changed.length) return 'code runs when a person changes it, before the values are fed back';
  if (binding?.updateOn) return 'its value would come later than it does';
  for (let at: TemplateElement | undefined = element; at; at = at.parent)
    if (attributeOf(at, 'input', 'event') ?? attributeOf(at, 'change', 'event'))
      return 'code runs when a person changes it, before the values are fed back';
  const keys = keysOf(field, draft).join('.');
  const told = formPath(element).join('.');
  return keys === told ? undefined : `the form tells it as ${told}, and the values keep it as ${keys}`;
}

/** The names under which the form knows a control: those of its groups, and its own. */
function formPath(element: TemplateElement): string[] {
  const groups: string[] = [];
  for (let at = element.parent; at; at = at.parent) {
    const group = plainText(at, 'ngModelGroup');
    if (group) groups.unshift(group);
  }
  return [...groups, plainText(element, 'name') ?? ''];
}

/** The control takes its value one way. */
function controlEdits(control: Control, draft: OneWayDraft, ledger: LedgerEntry[]): FileEdit[] {
  const element = elementAt(draft.component, control.span.start);
  const bound = element && attributeOf(element, 'ngModel', 'two-way', 'property');
  if (!element || !bound) return [];
  const { component, context } = draft;
  const { file, base } = component.template.place;
  const value = draft.apart ? `${draft.root}()${accessText(control.field)}` : called(bound.value?.trim() ?? '', draft);
  ledger.push({ entry: 'carried', span: control.span, what: `control of ${control.field}`, why: `it shows ${value}` });
  return [
    { file, start: bound.start, end: bound.end, text: `[ngModel]="${value}"` },
    ...element.attributes
      .filter(({ name, kind }) => name === 'ngModelChange' && kind === 'event')
      .map(({ start, end }) => attributeRemoval(context.text(file), { file, start, end }, base)),
  ];
}

/** The form tells all of its values whenever one of them changed. */
function formEdits(draft: OneWayDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { model, root } = draft;
  const { template } = model;
  const element = template?.element && elementAt(draft.component, template.element.start);
  if (!template || !element) return [];
  const bound = new Set(model.controls.map(({ field }) => field));
  // what has no control, or is not always shown, is not among the values that the form tells
  const whole =
    model.fields.every(({ name }) => bound.has(name)) &&
    model.controls.every(({ binding }) => !binding?.shownWhen && !binding?.disabled);
  const fed = whole ? `${root}.set($event)` : `${root}.set({ ...${root}(), ...$event })`;
  const at = element.nameEnd;
  ledger.push({
    entry: 'carried',
    span: { file: template.file, start: element.start, end: at },
    what: 'the form',
    why: `${root} takes its values through ${valuesDirective.className}`,
  });
  return [{ file: template.file, start: at, end: at, text: ` (${valuesDirective.event})="${fed}"` }];
}

/** The object of values becomes a signal of them. */
function memberEdits({ component, root, signal }: OneWayDraft, ledger: LedgerEntry[]): FileEdit[] {
  const { script } = component;
  const node = component.members.get(root)?.node;
  if (!t.isClassProperty(node) || !node.value) return [];
  const { file, text } = script;
  const span = { file, start: node.start ?? 0, end: node.end ?? 0 };
  ledger.push({
    entry: signal ? 'kept' : 'carried',
    span,
    what: `member ${root}`,
    why: 'a signal holds all values',
  });
  if (signal) return [];
  const annotation = t.isTSTypeAnnotation(node.typeAnnotation) ? node.typeAnnotation : undefined;
  const type = annotation?.typeAnnotation;
  const start = node.value.start ?? 0;
  const end = node.value.end ?? 0;
  const edits: FileEdit[] = [];
  if (annotation) edits.push({ file, start: annotation.start ?? 0, end: annotation.end ?? 0, text: '' });
  const typed = type ? `<${text.slice(type.start ?? 0, type.end ?? 0)}>` : '';
  edits.push({ file, start, end: start, text: `signal${typed}(` }, { file, start: end, end, text: ')' });
  return edits;
}

/** The directive comes into the list of imports, and its class and `signal` into the file. */
function listEdits({ component, model }: OneWayDraft, edits: readonly FileEdit[]): FileEdit[] {
  const target = path.join(path.dirname(model.file), valuesDirective.fileName);
  const listed = moduleEdits(component, [valuesDirective.className], undefined);
  return importsAfter(component, edits, listed, (folder) => ({
    '@angular/core': ['signal'],
    [specifierFrom(folder, target)]: [valuesDirective.className],
  }));
}
