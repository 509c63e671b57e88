import path from 'node:path';
import type { LedgerEntry } from '../../form/ledger.js';
import type { Span } from '../../form/code.js';
import { wholeLines } from '../../source/removal.js';
import type { OwnDirective } from '../written-once.js';
import { importsAfter, moduleEdits, specifierFrom, type FileEdit } from '../writing.js';
import type { TemplateDraft } from './draft.js';

/** Edits of the imports, and of the module or the component that lists the form directives. */
export function importAndModuleEdits(
  draft: TemplateDraft,
  edits: readonly FileEdit[],
  directives: readonly OwnDirective[],
  ledger: LedgerEntry[],
): FileEdit[] {
  const { component, model } = draft;
  const { template } = component;
  const bound = model.controls.map(({ span }) => span.start);
  const placing = (model.lists ?? []).flatMap(({ attributes }) => attributes.map(({ start }) => start));
  const left = template.elements.some(
    (element) =>
      !element.attributes.some(({ start }) => placing.includes(start)) &&
      ((element.attributes.some(({ name }) => /^(formControl|formControlName|formArrayName)$/.test(name)) &&
        !bound.includes(element.start)) ||
        (element.attributes.some(({ name }) => name === 'formGroup') &&
          element.start !== model.template?.element?.start)),
  );
  const others = component.home?.others;
  const keepsOld = left || others === undefined || /\bform(?:Control|Group|Array)/.test(others);
  const module = moduleEdits(
    component,
    ['FormsModule', ...directives.map(({ className }) => className)],
    keepsOld ? undefined : 'ReactiveFormsModule',
  );
  if (module)
    ledger.push({
      entry: keepsOld ? 'kept' : 'retired',
      span: { file: module.file, start: module.edits[0]?.start ?? 0, end: module.edits[0]?.end ?? 0 },
      what: 'ReactiveFormsModule',
      why: keepsOld
        ? 'other templates still need it; FormsModule is imported beside it'
        : 'FormsModule takes its place',
    });
  const wanted = (folder: string): Record<string, string[]> => ({
    '@angular/core': ['ViewChild'],
    '@angular/forms': ['FormsModule', 'NgForm', 'Validators'],
    rxjs: draft.streams.size ? ['Subject'] : [],
    ...Object.fromEntries(
      directives.map(({ fileName, className }) => [
        specifierFrom(folder, path.join(path.dirname(model.file), fileName)),
        [className],
      ]),
    ),
  });
  return importsAfter(component, edits, module, wanted, ledger);
}

/** Takes a statement away with its lines. */
export function statementRemoval(text: string, span: Span): FileEdit {
  return { file: span.file, ...wholeLines(text, span), text: '' };
}
