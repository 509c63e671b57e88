import type { LedgerEntry } from '../../form/ledger.js';
import { feedingEdits } from '../feeding.js';
import { importsAfter, moduleEdits, type FileEdit } from '../writing.js';
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
  const { template, home } = component;
  const own = new Set(model.controls.map(({ span }) => span.start));
  const groups = new Set(model.template?.groups.map(({ at }) => at));
  const placing = new Set(model.lists?.flatMap(({ attributes }) => attributes.map(({ start }) => start)));
  const left = template.elements.some(
    ({ attributes, start, nameEnd }) =>
      attributes.some((one) => oldDirectives.test(one.name) && !placing.has(one.start)) &&
      !own.has(start) &&
      !groups.has(nameEnd) &&
      start !== model.template?.element?.start,
  );
  const old = model.approach === 'model-driven' ? 'ReactiveFormsModule' : 'FormsModule';
  const words = old === 'FormsModule' ? /\bng(?:Model|Form)|<form\b/ : /\bform(?:Control|Group|Array)/;
  const keepsOld = left || home?.others === undefined || words.test(home.others);
  const module = moduleEdits(component, ['FormField'], keepsOld ? undefined : old);
  if (module)
    ledger.push({
      entry: keepsOld ? 'kept' : 'retired',
      span: { file: module.file, start: module.edits[0]?.start ?? 0, end: module.edits[0]?.end ?? 0 },
      what: old,
      why: keepsOld ? 'other templates still need it; FormField is imported beside it' : 'FormField takes its place',
    });
  const listed = module && { ...module, edits: [...module.edits, ...feedingEdits(model, component, ledger)] };
  const wanted = {
    '@angular/core': ['signal', ...([...draft.streams.keys()].some(Boolean) ? ['computed'] : [])],
    '@angular/core/rxjs-interop': draft.streams.size ? ['toObservable'] : [],
    rxjs: draft.streams.size ? ['skip'] : [],
    [signalForms]: ['FieldTree', 'FormField', ...errors, 'form', ...[...new Set(needed)].sort()],
  };
  return importsAfter(component, edits, listed, () => wanted, ledger);
}
