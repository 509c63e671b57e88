import path from 'node:path';
import type { LedgerEntry } from '../../form/ledger.js';
import type { Span } from '../../form/code.js';
import { wholeLines } from '../../source/removal.js';
import type { RuleDirective } from '../checked-by.js';
import { importEdits, moduleEdits, spareDeclarations, type FileEdit } from '../writing.js';
import type { TemplateDraft } from './draft.js';

/** Edits of the imports, and of the module or the component that lists the form directives. */
export function importAndModuleEdits(
  draft: TemplateDraft,
  edits: readonly FileEdit[],
  directives: readonly RuleDirective[],
  ledger: LedgerEntry[],
): FileEdit[] {
  const { component, model } = draft;
  const { script, template } = component;
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
  const all: FileEdit[] = [];
  const byFile = new Map<string, FileEdit[]>([[script.file, edits.filter(({ file }) => file === script.file)]]);
  const scripts = new Map([[script.file, script]]);
  if (module) {
    const own = module.edits.map((edit) => ({ file: module.file, ...edit }));
    all.push(...own);
    byFile.set(module.file, [...(byFile.get(module.file) ?? []), ...own]);
    scripts.set(module.file, module.script);
    ledger.push({
      entry: keepsOld ? 'kept' : 'retired',
      span: { file: module.file, start: own[0]?.start ?? 0, end: own[0]?.end ?? 0 },
      what: 'ReactiveFormsModule',
      why: keepsOld
        ? 'other templates still need it; FormsModule is imported beside it'
        : 'FormsModule takes its place',
    });
  }
  const spare = spareDeclarations(script, byFile.get(script.file) ?? [], ledger).map((edit) => ({
    file: script.file,
    ...edit,
  }));
  all.push(...spare);
  byFile.get(script.file)?.push(...spare);
  for (const [file, own] of byFile) {
    const one = scripts.get(file);
    if (!one) continue;
    const folder = path.dirname(file);
    const wanted: Record<string, string[]> = {
      '@angular/core': ['ViewChild'],
      '@angular/forms': ['FormsModule', 'NgForm', 'Validators'],
    };
    for (const directive of directives) {
      const relative = path
        .relative(folder, path.join(path.dirname(model.file), directive.fileName))
        .split(path.sep)
        .join('/')
        .replace(/\.ts$/, '');
      wanted[relative.startsWith('.') ? relative : `./${relative}`] = [directive.className];
    }
    all.push(...importEdits(one, own, wanted).map((edit) => ({ file, ...edit })));
  }
  return all;
}

/** Takes a statement away with its lines. */
export function statementRemoval(text: string, span: Span): FileEdit {
  return { file: span.file, ...wholeLines(text, span), text: '' };
}
