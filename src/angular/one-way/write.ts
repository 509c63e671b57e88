import path from 'node:path';
import * as t from '@babel/types';
import { codeText, type CodePrinter } from '../../form/code-text.js';
import type { LedgerEntry, RewritePlan } from '../../form/ledger.js';
import type { Control, FormModel } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import { leftByHand, placeByHand, unclearEntries, type WriteContext } from '../../form/writing.js';
import { signalArgument } from '../class-reading.js';
import type { AngularComponent } from '../component.js';
import { attributeOf, plainText } from '../form-site.js';
import type { TemplateElement } from '../template-model.js';
import { isInTemplate, useEdits } from '../use-edits.js';
import { valuesRoot } from '../values-root.js';
import { accessText, attributeRemoval, importEdits, moduleEdits, type FileEdit } from '../writing.js';
import { directiveText, valuesDirective } from './directive.js';

/** What the parts of the writer share. */
interface OneWayDraft {
  model: FormModel;
  context: WriteContext;
  component: AngularComponent;
  /** Member of the class that holds all values. */
  root: string;
  /** It is a signal already. */
  signal: boolean;
  printer: CodePrinter;
}

/** Writes a form whose controls are fed one way from a signal, and whose changes are fed back into it. */
export function writeOneWay(model: FormModel, context: WriteContext, component: AngularComponent): RewritePlan {
  const root = valuesRoot(model);
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
    signal: signalArgument(component.members.get(root)) !== undefined,
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
  edits.push(...formEdits(draft, ledger), ...memberEdits(draft, ledger));
  const file = path.join(path.dirname(model.file), valuesDirective.fileName);
  edits.push(...listEdits(draft, edits));
  for (const { span, condition } of model.rules)
    ledger.push({ entry: 'kept', span, what: condition, why: 'the attribute states it as before', untouched: true });
  for (const { role, span, what } of model.declarations)
    if (role !== 'state') ledger.push({ entry: 'kept', span, what, why: 'the template’s form is asked as before' });
  return {
    edits,
    creates: context.exists(file) ? [] : [{ file, text: directiveText(context) }],
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
  const old = context.text(use.span.file).slice(use.span.start, use.span.end);
  const inTemplate = isInTemplate(use.span, component);
  const own = inTemplate ? root : `this.${root}`;
  switch (use.kind) {
    case 'read':
    case 'read-all':
      return use.key === undefined ? called(old, draft) : `${use.key}: ${own}()`;
    case 'set': {
      const [assignment] = use.assignments;
      if (!assignment || assignment.value.kind !== 'value' || draft.signal) return undefined;
      const { operator, code } = assignment.value;
      const keys = keysOf(assignment.field, draft);
      const before = inTemplate ? `${root}()` : freeNameIn(codeText(code, printer));
      const given = codeText(code, printer);
      const value = operator === undefined ? given : `${before}${keys.map(accessText).join('')} ${operator} ${given}`;
      const object = mergedText(before, keys, value.trimEnd());
      return inTemplate ? `${own}.set(${object})` : `${own}.update((${before}) => (${object}))`;
    }
    case 'set-all': {
      const given = codeText(use.code, printer);
      if (!use.merge) return `${own}.set(${given})`;
      const before = freeNameIn(given);
      const inner = /^\{\s*([\s\S]*?),?\s*\}$/.exec(given.trim())?.[1] ?? `...${given}`;
      return `${own}.update((${before}) => ({ ...${before}, ${inner} }))`;
    }
    case 'ask':
    case 'reset':
      return codeText({ ...use.span, holes: [] }, { ...printer, uses: printer.uses.filter((one) => one !== use) });
    case 'rows':
    case 'change-rows':
    case 'make-row':
    case 'hand-on-all':
    case 'set-named':
    case 'made-handler':
    case 'hand-on':
    case 'depend':
    case 'watch':
      return undefined;
    default: {
      const never: never = use;
      return never;
    }
  }
}

/** The keys by which the values' object knows a field. */
function keysOf(field: string, { model, root }: OneWayDraft): string[] {
  const value = model.fields.find(({ name }) => name === field)?.names.value ?? `${root}.${field}`;
  return value.split('.').slice(1);
}

function freeNameIn(text: string): string {
  return /\bvalues\b/.test(text) ? 'before' : 'values';
}

/** An object in which one value is another than before. */
function mergedText(before: string, keys: readonly string[], value: string): string {
  const [key = '', ...rest] = keys;
  const inner = rest.length ? mergedText(before + accessText(key), rest, value) : value;
  return `{ ...${before}, ${/^[A-Za-z_$][\w$]*$/.test(key) ? key : `'${key}'`}: ${inner} }`;
}

/** What keeps the form from being fed one way. */
function unwritable(draft: OneWayDraft): LedgerEntry[] {
  const { model, context, component, root } = draft;
  const entries: LedgerEntry[] = [];
  const member = component.members.get(root)?.node;
  const value = t.isClassProperty(member) ? member.value : undefined;
  if (!value || t.isNewExpression(value))
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
  if (!template?.element || elementAt(template.element.start, draft)?.tag !== 'form')
    entries.push(
      placeByHand({ ...model.span, end: model.span.start }, context, 'there is no form element to tell its values'),
    );
  if (template?.updateOn && template.element)
    entries.push(placeByHand(template.element, context, 'its values would come later than they do'));
  return entries;
}

function elementAt(start: number, { component }: Pick<OneWayDraft, 'component'>): TemplateElement | undefined {
  return component.template.elements.find((element) => element.start === start);
}

function whyNot(control: Control, draft: OneWayDraft): string | undefined {
  const { binding, field, span } = control;
  const element = elementAt(span.start, draft);
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
  const element = elementAt(control.span.start, draft);
  const bound = element && attributeOf(element, 'ngModel', 'two-way', 'property');
  if (!element || !bound) return [];
  const { component, context } = draft;
  const { file, base } = component.template.place;
  const value = called(bound.value?.trim() ?? '', draft);
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
  const element = template?.element && elementAt(template.element.start, draft);
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
  const { script } = component;
  const all: FileEdit[] = [];
  const byFile = new Map([[script.file, edits.filter(({ file }) => file === script.file)]]);
  const scripts = new Map([[script.file, script]]);
  const module = moduleEdits(component, [valuesDirective.className], undefined);
  if (module) {
    const own = module.edits.map((edit) => ({ file: module.file, ...edit }));
    all.push(...own);
    byFile.set(module.file, [...(byFile.get(module.file) ?? []), ...own]);
    scripts.set(module.file, module.script);
  }
  for (const [file, own] of byFile) {
    const one = scripts.get(file);
    if (!one) continue;
    const target = path.join(path.dirname(model.file), valuesDirective.fileName);
    const relative = path.relative(path.dirname(file), target).split(path.sep).join('/').replace(/\.ts$/, '');
    const wanted = {
      '@angular/core': ['signal'],
      [relative.startsWith('.') ? relative : `./${relative}`]: [valuesDirective.className],
    };
    all.push(...importEdits(one, own, wanted).map((edit) => ({ file, ...edit })));
  }
  return all;
}
