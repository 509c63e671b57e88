import type { WriteContext } from '../form/writing.js';
import type { OwnDirective } from './written-once.js';

function directiveText(
  { quote, semicolon: end, indent, newline }: WriteContext['style'],
  parts: { className: string; attribute: string; async: boolean },
): string {
  const { className, attribute, async } = parts;
  const q = (text: string): string => quote + text + quote;
  const fn = async ? 'AsyncValidatorFn' : 'ValidatorFn';
  const token = async ? 'NG_ASYNC_VALIDATORS' : 'NG_VALIDATORS';
  const validator = async ? 'AsyncValidator' : 'Validator';
  const answer = async ? 'ReturnType<AsyncValidatorFn>' : 'ValidationErrors | null';
  const names = async
    ? ['AbstractControl', 'AsyncValidator', 'AsyncValidatorFn', token, 'Validators']
    : ['AbstractControl', token, 'ValidationErrors', 'Validator', 'ValidatorFn', 'Validators'];
  const lines = [
    `import { AfterViewInit, Directive, forwardRef, Input } from ${q('@angular/core')}${end}`,
    `import { ${[...names].sort((a, b) => a.localeCompare(b)).join(', ')} } from ${q('@angular/forms')}${end}`,
    ...(async ? [`import { of } from ${q('rxjs')}${end}`] : []),
    '',
    `/** Checks a control, a group or a whole form of a template by functions of its class: \`[${attribute}]="rules"\`. */`,
    `@Directive({`,
    `${indent}selector: ${q(`[${attribute}]`)},`,
    `${indent}standalone: true,`,
    `${indent}providers: [{ provide: ${token}, useExisting: forwardRef(() => ${className}), multi: true }],`,
    `})`,
    `export class ${className} implements ${validator}, AfterViewInit {`,
    `${indent}@Input({ required: true }) ${attribute}: ${fn}[] = []${end}`,
    `${indent}private checked?: AbstractControl${end}`,
    `${indent}private complete = false${end}`,
    '',
    `${indent}validate(control: AbstractControl): ${answer} {`,
    `${indent}${indent}this.checked = control${end}`,
    `${indent}${indent}// the controls of a group come one by one; a rule over several waits until all are there`,
    async
      ? `${indent}${indent}if ('controls' in control && !this.complete) return of(null)${end}`
      : `${indent}${indent}if ('controls' in control && !this.complete) return null${end}`,
    async
      ? `${indent}${indent}return Validators.composeAsync(this.${attribute})?.(control) ?? of(null)${end}`
      : `${indent}${indent}return Validators.compose(this.${attribute})?.(control) ?? null${end}`,
    `${indent}}`,
    '',
    `${indent}ngAfterViewInit(): void {`,
    `${indent}${indent}void Promise.resolve().then(() => {`,
    `${indent}${indent}${indent}this.complete = true${end}`,
    `${indent}${indent}${indent}if (this.checked && 'controls' in this.checked) this.checked.updateValueAndValidity()${end}`,
    `${indent}${indent}})${end}`,
    `${indent}}`,
    `}`,
    '',
  ];
  return lines.join(newline);
}

/** Rules that answer at once, as an attribute. */
export const checkedBy: OwnDirective = {
  className: 'CheckedByDirective',
  attribute: 'checkedBy',
  fileName: 'checked-by.directive.ts',
  text: (context) =>
    directiveText(context.style, { className: 'CheckedByDirective', attribute: 'checkedBy', async: false }),
};

/** Rules that answer later, as an attribute. */
export const checkedLaterBy: OwnDirective = {
  className: 'CheckedLaterByDirective',
  attribute: 'checkedLaterBy',
  fileName: 'checked-later-by.directive.ts',
  text: (context) =>
    directiveText(context.style, { className: 'CheckedLaterByDirective', attribute: 'checkedLaterBy', async: true }),
};
