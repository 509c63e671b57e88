import type { WriteContext } from '../../form/writing.js';

/** The file of what forms need whose rules are said with values; it is written once and used by every form. */
export const helpersFile = 'field-errors.ts';

/** The text of that file. */
export function helpersText({ style }: Pick<WriteContext, 'style'>): string {
  const { quote, semicolon: end, indent: tab, newline } = style;
  const q = (text: string): string => quote + text + quote;
  return [
    `import { ChangeDetectorRef, inject, signal } from ${q('@angular/core')}${end}`,
    `import { FormGroup, ValidatorFn } from ${q('@angular/forms')}${end}`,
    '',
    '/** What is wrong with a field: the kind of the rule that it breaks, and the message about it. */',
    'export interface FieldError {',
    `${tab}kind: string${end || ';'}`,
    `${tab}message?: string${end || ';'}`,
    '}',
    '',
    '/** What an answer has against the field at a path; against the whole form where it names none. */',
    'export interface Complaint extends FieldError {',
    `${tab}field?: string${end || ';'}`,
    '}',
    '',
    '/** One of them, several, or none. */',
    'export type Found<T> = T | readonly T[] | null | undefined | void' + end,
    '',
    '/** Takes what a rule finds wrong with the field at a path. */',
    'export type Wrong = (path: string, found: Found<FieldError>) => void' + end,
    '',
    '/** Whether a value counts as missing. */',
    'export function isMissing(value: unknown): boolean {',
    `${tab}return value === ${q('')} || value === false || value === null || value === undefined || Number.isNaN(value)${end}`,
    '}',
    '',
    '/** A validator of a whole form: its errors are lists by the paths of their fields. */',
    'export function byField<T>(check: (values: T, wrong: Wrong) => void): ValidatorFn {',
    `${tab}return (form) => {`,
    `${tab}${tab}const errors: Record<string, FieldError[]> = {}${end}`,
    `${tab}${tab}check(form.getRawValue(), (path, found) => {`,
    `${tab}${tab}${tab}for (const error of listOf(found)) (errors[path] ??= []).push(error)${end}`,
    `${tab}${tab}})${end}`,
    `${tab}${tab}return Object.keys(errors).length > 0 ? errors : null${end}`,
    `${tab}}${end}`,
    '}',
    '',
    '/** The errors of the field at a path: those of the rules, and those that came back when the form was sent. */',
    'export function errorsAt(form: FormGroup, path: string): FieldError[] {',
    `${tab}const found: FieldError[] = form.errors?.[path] ?? []${end}`,
    `${tab}const answered: FieldError[] = form.get(path)?.errors?.[${q('answered')}] ?? []${end}`,
    `${tab}return [...found, ...answered]${end}`,
    '}',
    '',
    '/** Sends a form where nothing is wrong with it, and shows what the answer has against it. */',
    'export class Sender {',
    `${tab}/** Whether an answer is waited for. */`,
    `${tab}readonly submitting = signal(false)${end}`,
    `${tab}private readonly changes = inject(ChangeDetectorRef)${end}`,
    '',
    `${tab}/**`,
    `${tab} * Tells whether the form was sent and the answer has nothing against it.`,
    `${tab} * @param apart paths of fields that do not count now`,
    `${tab} */`,
    `${tab}async send(form: FormGroup, action: () => Promise<Found<Complaint>>, apart: string[] = []): Promise<boolean> {`,
    `${tab}${tab}if (this.submitting()) return false${end}`,
    `${tab}${tab}const untouched = apart.map((path) => form.get(path)).filter((control) => control?.untouched)${end}`,
    `${tab}${tab}form.markAllAsTouched()${end}`,
    `${tab}${tab}for (const control of untouched) control?.markAsUntouched()${end}`,
    `${tab}${tab}if (form.invalid) return false${end}`,
    `${tab}${tab}this.submitting.set(true)${end}`,
    `${tab}${tab}try {`,
    `${tab}${tab}${tab}const complaints = listOf(await action())${end}`,
    `${tab}${tab}${tab}for (const path of new Set(complaints.map(({ field }) => field ?? ${q('')}))) {`,
    `${tab}${tab}${tab}${tab}const answered = complaints.filter(({ field }) => (field ?? ${q('')}) === path)${end}`,
    `${tab}${tab}${tab}${tab}// it shows until the field that it names changes`,
    `${tab}${tab}${tab}${tab}if (path === ${q('')}) form.setErrors({ [path]: answered })${end}`,
    `${tab}${tab}${tab}${tab}else form.get(path)?.setErrors({ answered })${end}`,
    `${tab}${tab}${tab}}`,
    `${tab}${tab}${tab}return complaints.length === 0${end}`,
    `${tab}${tab}} finally {`,
    `${tab}${tab}${tab}this.submitting.set(false)${end}`,
    `${tab}${tab}${tab}this.changes.markForCheck()${end}`,
    `${tab}${tab}}`,
    `${tab}}`,
    '}',
    '',
    'function listOf<T extends object>(found: Found<T>): readonly T[] {',
    `${tab}if (!found) return []${end}`,
    `${tab}return isList(found) ? found : [found]${end}`,
    '}',
    '',
    'function isList<T extends object>(found: T | readonly T[]): found is readonly T[] {',
    `${tab}return Array.isArray(found)${end}`,
    '}',
    '',
  ].join(newline);
}

/** The directive that keeps a control from being used; it is written once and used by every form. */
export const unusableWhile = {
  className: 'UnusableWhileDirective',
  attribute: 'unusableWhile',
  fileName: 'unusable-while.directive.ts',
};

/** The file of that directive. */
export function unusableText({ style }: Pick<WriteContext, 'style'>): string {
  const { quote, semicolon: end, indent: tab, newline } = style;
  const q = (text: string): string => quote + text + quote;
  const { className, attribute } = unusableWhile;
  return [
    `import { AfterContentChecked, Directive, ElementRef, inject, Input } from ${q('@angular/core')}${end}`,
    '',
    `/** Keeps a control of the page from being used while something holds; its value stays: \`[${attribute}]="closed"\`. */`,
    `@Directive({ selector: ${q(`[${attribute}]`)}, standalone: true })`,
    `export class ${className} implements AfterContentChecked {`,
    `${tab}@Input({ required: true }) ${attribute} = false${end}`,
    `${tab}private readonly element = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement${end}`,
    '',
    `${tab}/** The form’s own directive enables the control as it is set up. */`,
    `${tab}ngAfterContentChecked(): void {`,
    `${tab}${tab}this.element.disabled = this.${attribute}${end}`,
    `${tab}}`,
    '}',
    '',
  ].join(newline);
}
