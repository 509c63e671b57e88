import { Directive, forwardRef, Input, OnChanges } from '@angular/core';
import { AbstractControl, NG_VALIDATORS, ValidationErrors, Validator } from '@angular/forms';

/** The weight has to be more than another one: `<input type="number" ngModel [moreThan]="empty">`. */
@Directive({
  selector: 'input[ngModel][moreThan]',
  standalone: true,
  providers: [{ provide: NG_VALIDATORS, useExisting: forwardRef(() => MoreThanDirective), multi: true }],
})
export class MoreThanDirective implements Validator, OnChanges {
  @Input() moreThan: number | null = null;
  private again = (): void => undefined;

  ngOnChanges(): void {
    this.again();
  }

  validate({ value }: AbstractControl): ValidationErrors | null {
    return typeof value === 'number' && this.moreThan !== null && value <= this.moreThan ? { moreThan: true } : null;
  }

  registerOnValidatorChange(again: () => void): void {
    this.again = again;
  }
}
