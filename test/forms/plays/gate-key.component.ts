import { Component, EventEmitter, Output } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';

@Component({
  selector: 'app-gate-key',
  standalone: true,
  imports: [ReactiveFormsModule],
  template: `
    <form [formGroup]="form" (ngSubmit)="send()">
      <label for="keeper">Keeper</label>
      <input id="keeper" formControlName="keeper" [class.bad]="keeper.touched && keeper.invalid" />
      @if (keeper.touched && keeper.hasError('required')) {
        <p>Who keeps the key?</p>
      }
      <label for="days">Days</label>
      <input id="days" type="number" formControlName="days" />
      @if (form.controls.days.touched && form.controls.days.hasError('max')) {
        <p>Two weeks at most</p>
      }
      <label><input type="checkbox" formControlName="spare" /> Spare key</label>
      <select aria-label="Gate" formControlName="gate">
        <option value="north">North gate</option>
        <option value="river">River gate</option>
      </select>
      <p>Lent today: {{ lent }}</p>
      <button [disabled]="busy">Lend</button>
    </form>
  `,
})
export class GateKeyComponent {
  @Output() lend = new EventEmitter<unknown>();
  lent = 0;
  busy = false;
  form = new FormGroup({
    keeper: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
    days: new FormControl(1, { nonNullable: true, validators: [Validators.max(14)] }),
    spare: new FormControl(false, { nonNullable: true }),
    gate: new FormControl('north', { nonNullable: true }),
  });

  get keeper() {
    return this.form.controls.keeper;
  }

  send(): void {
    if (this.form.invalid) {
      this.form.markAllAsTouched();
      return;
    }
    this.busy = true;
    const value = this.form.getRawValue();
    setTimeout(() => {
      this.lend.emit({ ...value, keeper: value.keeper.trim() });
      this.busy = false;
      this.lent += 1;
      this.form.reset();
    }, 500);
  }
}
