import type { OwnDirective } from './written-once.js';

/** The directive that keeps a control of the page from being used while something holds. */
export const unusableWhile: OwnDirective = {
  className: 'UnusableWhileDirective',
  attribute: 'unusableWhile',
  fileName: 'unusable-while.directive.ts',
  text({ style }) {
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
  },
};
