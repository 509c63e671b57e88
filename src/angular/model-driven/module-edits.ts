import path from 'node:path';
import type { LedgerEntry } from '../../form/ledger.js';
import { unusableWhile } from '../unusable-while.js';
import { importsAfter, moduleEdits, specifierFrom, type FileEdit } from '../writing.js';
import { isUnusable } from './first-state.js';
import type { ModelDraft } from './draft.js';

/** Edits of the imports, and of the module or the component that lists the form directives. */
export function importAndModuleEdits(draft: ModelDraft, edits: readonly FileEdit[], ledger: LedgerEntry[]): FileEdit[] {
  const { component, model } = draft;
  const { template } = component;
  const left = template.elements.filter((element) => {
    const bound = element.attributes.some(({ name, kind }) => name === 'ngModel' && kind !== 'event');
    return bound && !model.controls.some(({ span }) => span.start === element.start);
  });
  const otherForms = template.elements.some(
    (element) =>
      element.tag === 'form' &&
      element.start !== model.template?.element?.start &&
      !element.attributes.some(({ name }) => name === 'formGroup'),
  );
  const others = component.home?.others;
  const keepsOld = left.length > 0 || otherForms || others === undefined || /\bngModel|<form\b|\bngForm/.test(others);
  const unusable = model.controls.some((control) => isUnusable(control, draft));
  const listed = ['ReactiveFormsModule', ...(unusable ? [unusableWhile.className] : [])];
  const module = moduleEdits(component, listed, keepsOld ? undefined : 'FormsModule');
  const directive = path.join(path.dirname(component.script.file), unusableWhile.fileName);
  const wanted = (folder: string): Record<string, string[]> => ({
    [specifierFrom(folder, directive)]: unusable ? [unusableWhile.className] : [],
    '@angular/core/rxjs-interop': draft.signal ? ['toSignal'] : [],
    rxjs: draft.signal ? ['map'] : [],
    '@angular/forms': [
      'AbstractControl',
      'FormArray',
      'FormControl',
      'FormGroup',
      'FormGroupDirective',
      'ReactiveFormsModule',
      'Validators',
    ],
  });
  if (module)
    ledger.push({
      entry: keepsOld ? 'kept' : 'retired',
      span: { file: module.file, start: module.edits[0]?.start ?? 0, end: module.edits[0]?.end ?? 0 },
      what: 'FormsModule',
      why: keepsOld
        ? 'other templates still need it; ReactiveFormsModule is imported beside it'
        : 'ReactiveFormsModule takes its place',
    });
  return importsAfter(component, edits, module, wanted, ledger);
}
