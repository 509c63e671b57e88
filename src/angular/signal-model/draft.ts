import * as t from '@babel/types';
import type { CodePrinter } from '../../form/code-text.js';
import { broughtByReset, isRowField, type Field, type FormModel } from '../../form/model.js';
import type { Span } from '../../form/code.js';
import type { Use } from '../../form/uses.js';
import type { WriteContext } from '../../form/writing.js';
import { initialNode, signalArgument } from '../class-reading.js';
import type { AngularComponent } from '../component.js';
import { typeNameOf, valuesRoot } from '../values-root.js';
import type { ClassDraft } from '../spare-code.js';
import { pathText } from '../writing.js';

/** What the parts of the writer share while one form is written. */
export interface SignalDraft extends ClassDraft {
  /** The form's fields, with the types that its controls take. */
  fields: Field[];
  /** Member of the class that holds the model's signal. */
  values: string;
  /** Member of the class that holds the form. */
  form: string;
  /** Member that tells whether the form was sent, and the one that asks a field for an error by its kind. */
  submitted: string;
  hasError: string;
  /** Name of the constant that a reset goes back to. */
  startName: string;
  /** Name of the values' type, and whether the author wrote it. */
  typeName: string;
  typeWritten: boolean;
  /** What the author's one object of values starts as, where there is one. */
  start: StartOfRoot | undefined;
  /** Methods that change rows for the template, by what they do: `remove legs`. */
  rowMethods: Map<string, { name: string; parameter: string; body: string }>;
  /** Members that tell changes of a field by its name; of all values by an empty one. */
  streams: Map<string, string>;
  /** A name that no member of the class has, nor a variable of the template. */
  freeMember: (...wished: string[]) => string;
  needs: { submitted: boolean; hasError: boolean; start: boolean; startMember: boolean };
  printer: CodePrinter;
}

/** What one object of values starts as. */
export interface StartOfRoot {
  /** Its text. */
  text: string;
  /** The constant that it is. */
  constant: string | undefined;
  /** A signal holds it already. */
  signal: boolean;
}

function startOfRoot(root: string, { members, script }: AngularComponent): StartOfRoot | undefined {
  const member = members.get(root);
  const signal = signalArgument(member);
  const value = signal ? signal.value : initialNode(member);
  if (!value) return undefined;
  const text = script.text.slice(value.start ?? 0, value.end ?? 0);
  return { text, constant: t.isIdentifier(value) ? value.name : undefined, signal: signal !== undefined };
}

/**
 * The names and the needs of one form, before anything is written.
 * @param textOf what takes the place of a use
 */
export function draftOf(
  model: FormModel,
  context: WriteContext,
  component: AngularComponent,
  textOf: (use: Use, draft: SignalDraft) => string | undefined,
): SignalDraft {
  const base = component.name.replace(/(Form)?Component$|Form$/, '') || component.name;
  const lower = base.charAt(0).toLowerCase() + base.slice(1);
  const owned = new Set(model.names.map(({ name }) => name));
  const used: string[] = [];
  const free = (...wished: string[]): string => {
    const taken = (name: string): boolean =>
      used.includes(name) ||
      (component.members.has(name) && !owned.has(name)) ||
      component.template.variables.some(
        (variable) => variable.name === name && variable.name !== model.template?.reference,
      );
    const name = wished.find((one) => !taken(one)) ?? context.freeName(wished[0] ?? 'form', ...wished);
    used.push(name);
    return name;
  };
  const { template } = model;
  const root = model.approach === 'model-driven' ? undefined : valuesRoot(model);
  const start = root === undefined ? undefined : startOfRoot(root, component);
  const written = root === undefined ? undefined : typeNameOf(root, component);
  const form = template?.member ?? free(template?.reference ?? `${lower}Form`, `${lower}Form`, 'formOverModel');
  used.push(form);
  const draft: SignalDraft = {
    model,
    context,
    component,
    fields: model.fields.map((field) => typedForControls(field, model, context)),
    values: free(...(root === undefined ? [] : [root]), 'model', 'values', `${lower}Model`),
    form,
    submitted: free('submitted', 'wasSubmitted'),
    hasError: free('hasError', 'fieldHasError'),
    startName: start?.constant ?? context.freeName(`empty${base}`, `initial${base}`),
    typeName: written ?? context.freeName(`${base}Values`, `${base}Model`),
    typeWritten: written !== undefined,
    start,
    rowMethods: new Map(),
    streams: new Map(),
    freeMember: free,
    needs: { submitted: false, hasError: false, start: false, startMember: false },
    printer: {
      textOf: (file) => context.text(file),
      uses: wholeUses(model),
      use: (use) => textOf(use, draft),
      hole: (hole) => (hole.kind === 'text' ? hole.text : undefined),
    },
  };
  return draft;
}

/** The uses, with what is asked of controls as a part of them: here it is written anew as well. */
export function wholeUses({ uses, template }: FormModel): Use[] {
  const asked = template?.asked?.flatMap((one): Use[] => one.uses) ?? [];
  return [...uses, ...asked].map((use) => (use.kind === 'ask' && use.asks ? { ...use, span: use.asks.span } : use));
}

/** Whether a field's own control leaves null where it is emptied, or never had a value. */
export function mayBeNull({ kind, type }: Field): boolean {
  return kind === 'number' || kind === 'date' || (kind !== 'text' && kind !== 'choice' && /\bnull\b/.test(type ?? ''));
}

/** A text that nothing makes null is no text or null: its control would not take that. */
function typedForControls(field: Field, model: FormModel, { text }: WriteContext): Field {
  const { type, initial } = field;
  // what a row begins with may be given
  const given = isRowField(field.name) && !isConstant(initial.text);
  const stays =
    mayBeNull(field) || given || type === undefined || initial.text === 'null' || resetsToNull(field, model);
  if (stays) return { ...field, resets: resetsToNull(field, model) ? 'null' : 'initial' };
  const set = model.uses.some(
    (use) =>
      use.kind === 'set' &&
      use.assignments.some(
        ({ field: name, value }) =>
          name === field.name && value.kind === 'value' && spanText(value.code, text).trim() === 'null',
      ),
  );
  return set
    ? { ...field, resets: broughtByReset(field, model) }
    : { ...field, resets: 'initial', type: type.replace(/\s*\|\s*null\b/, '') };
}

function spanText({ file, start, end }: Span, text: WriteContext['text']): string {
  return text(file).slice(start, end);
}

/** Whether a reset of the form leaves a field null. */
export function resetsToNull(field: Field, model: FormModel): boolean {
  return (
    broughtByReset(field, model) === 'null' &&
    model.uses.some((use) => use.kind === 'reset' && !use.values && (use.of === undefined || use.of === field.name))
  );
}

/** The expression for the field tree at a path, as the template or the class asks for it. */
export function treeText(path: string | undefined, inTemplate: boolean, { form }: SignalDraft): string {
  return `${inTemplate ? '' : 'this.'}${form}${pathText(path ?? '')}`;
}

/** The expression for a value of the model, as the template or the class reads it. */
export function valueText(path: string | undefined, inTemplate: boolean, { values }: SignalDraft): string {
  return `${inTemplate ? '' : 'this.'}${values}()${pathText(path ?? '')}`;
}

/** Whether an initial value is the same at every time and place. */
export function isConstant(text: string): boolean {
  return /^(?:'[^']*'|"[^"]*"|`[^`$]*`|-?[\d._]+|true|false|null|undefined|\[\]|[A-Z]\w*(?:\.\w+)*)$/.test(text);
}
