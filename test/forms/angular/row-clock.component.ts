import { AsyncPipe } from '@angular/common';
import { Component, Inject, inject, input } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { CLOCK, Plots, type Clock, type Plot } from './parts/plots';

@Component({
  selector: 'orchard-row-clock',
  imports: [AsyncPipe, ReactiveFormsModule],
  template: `
    <form [formGroup]="slip" (ngSubmit)="store()">
      <p>{{ clock.zone }}: {{ plot().row }}</p>
      @for (name of plots.names$ | async; track name) {
        <i>{{ name }}</i>
      }
      <label>Row <input formControlName="row" /></label>
      <label>Tree <input formControlName="tree" maxlength="30" /></label>
      <output>{{ told }}</output>
      <button>Store</button>
    </form>
  `,
})
export class RowClockComponent {
  protected readonly plots = inject(Plots);
  readonly plot = input.required<Plot>();
  protected told = '';
  protected readonly slip = new FormGroup({
    // the board has room for one letter and a number
    row: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.pattern('[A-F][0-9]*')] }),
    tree: new FormControl('', { nonNullable: true }),
  });

  constructor(@Inject(CLOCK) protected readonly clock: Clock) {}

  protected store(): void {
    if (this.slip.invalid) return;
    this.plots.save(this.slip.getRawValue()).subscribe({
      next: ({ row }) => (this.told = `${row} at ${this.clock.now()}`),
      error: () => (this.told = 'not stored'),
    });
  }
}
