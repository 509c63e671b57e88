import type { AbstractControl, ValidationErrors, ValidatorFn } from '@angular/forms';

/** Row letter and number, as they stand on the posts. */
export function rowName(control: AbstractControl): ValidationErrors | null {
  const value: string = control.value || '';
  if (!value) {
    return null;
  }
  return /^[A-F]\d{1,2}$/.test(value) ? null : { rowName: true };
}

export const stepOf = (step: number): ValidatorFn => {
  return (control) => (control.value === null || control.value % step === 0 ? null : { stepOf: true });
};
