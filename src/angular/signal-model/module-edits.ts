import type { LedgerEntry } from '../../form/ledger.js';
import { feedingEdits } from '../feeding.js';
import { importEdits, moduleEdits, spareDeclarations, type FileEdit } from '../writing.js';
import type { SignalDraft } from './draft.js';
import { signalForms } from './found-form.js';

/** The package's errors that carry a limit. */
const errors = ['MaxLengthValidationError', 'MaxValidationError', 'MinLengthValidationError', 'MinValidationError'];
const oldDirectives =
  /^(formControl|formControlName|formArrayName|formGroup|formGroupName|ngModel|ngModelGroup|ngForm)$/;

/** Edits of the imports, and of the module or the component that lists the form's directives. */
export function importAndModuleEdits(
  draft: SignalDraft,
  edits: readonly FileEdit[],
  needed: readonly string[],
  ledger: LedgerEntry[],
): FileEdit[] {
  const { component, model } = draft;
  const { script, template, home } = component;
  const own = new Set(model.controls.map(({ span }) => span.start));
  const groups = new Set(model.template?.groups.map(({ at }) => at));
  const left = template.elements.some(
    ({ attributes, start, nameEnd }) =>
      attributes.some(({ name }) => oldDirectives.test(name)) &&
      !own.has(start) &&
      !groups.has(nameEnd) &&
      start !== model.template?.element?.start,
  );
  const old = model.approach === 'model-driven' ? 'ReactiveFormsModule' : 'FormsModule';
  const words = old === 'FormsModule' ? /\bng(?:Model|Form)|<form\b/ : /\bform(?:Control|Group|Array)/;
  const keepsOld = left || home?.others === undefined || words.test(home.others);
  const module = moduleEdits(component, ['FormField'], keepsOld ? undefined : old);
  const all: FileEdit[] = [];
  const byFile = new Map([[script.file, edits.filter(({ file }) => file === script.file)]]);
  const scripts = new Map([[script.file, script]]);
  if (module) {
    const listed = [
      ...module.edits.map((edit) => ({ file: module.file, ...edit })),
      ...feedingEdits(model, component, ledger),
    ];
    all.push(...listed);
    byFile.set(module.file, [...(byFile.get(module.file) ?? []), ...listed]);
    scripts.set(module.file, module.script);
    ledger.push({
      entry: keepsOld ? 'kept' : 'retired',
      span: { file: module.file, start: listed[0]?.start ?? 0, end: listed[0]?.end ?? 0 },
      what: old,
      why: keepsOld ? 'other templates still need it; FormField is imported beside it' : 'FormField takes its place',
    });
  }
  const spare = spareDeclarations(script, byFile.get(script.file) ?? [], ledger).map((edit) => ({
    file: script.file,
    ...edit,
  }));
  all.push(...spare);
  byFile.get(script.file)?.push(...spare);
  const functions = [...new Set(needed)].sort();
  for (const [file, listed] of byFile) {
    const one = scripts.get(file);
    if (!one) continue;
    const wanted = {
      '@angular/core': ['signal'],
      [signalForms]: ['FieldTree', 'FormField', ...errors, 'form', ...functions],
    };
    all.push(...importEdits(one, listed, wanted).map((edit) => ({ file, ...edit })));
  }
  return all;
}
