import { AbstractControl, ValidationErrors, ValidatorFn } from '@angular/forms';

/** Sundays are free. */
export function noSunday(control: AbstractControl): ValidationErrors | null {
  if (!control.value) return null;
  return new Date(control.value + 'T12:00:00Z').getUTCDay() === 0 ? { sunday: true } : null;
}

export const lessThanRows =
  (perRow: number): ValidatorFn =>
  (group) => {
    const { trees, rows } = group.value as { trees?: number; rows?: number };
    return (trees ?? 0) > perRow * (rows ?? 0) ? { crowded: true } : null;
  };
