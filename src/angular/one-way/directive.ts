import type { WrittenOnce } from '../written-once.js';

/** The directive by which a form of a template tells all of its values. */
export const valuesDirective: WrittenOnce & { className: string; event: string } = {
  className: 'FormValuesDirective',
  event: 'formValues',
  fileName: 'form-values.directive.ts',
  text({ style }) {
    const { quote, semicolon: end, indent, newline } = style;
    const q = (text: string): string => quote + text + quote;
    const { className, event } = valuesDirective;
    return [
      `import { Directive, inject } from ${q('@angular/core')}${end}`,
      `import { outputFromObservable } from ${q('@angular/core/rxjs-interop')}${end}`,
      `import { NgForm } from ${q('@angular/forms')}${end}`,
      `import { debounce } from ${q('rxjs')}${end}`,
      '',
      `/** Tells all values of a form whenever one of them changed: \`(${event})="model.set($event)"\`. */`,
      `@Directive({ selector: ${q(`form[${event}]`)}, standalone: true })`,
      `export class ${className} {`,
      `${indent}private readonly ngForm = inject(NgForm, { self: true })${end}`,
      '',
      `${indent}/** The values by the names of their controls; these come one by one, so it waits until the form is at rest. */`,
      `${indent}readonly ${event} = outputFromObservable(this.ngForm.form.valueChanges.pipe(debounce(() => Promise.resolve())))${end}`,
      '}',
      '',
    ].join(newline);
  },
};
