import { Component, output } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';

@Component({
  selector: 'app-tap-check',
  imports: [ReactiveFormsModule],
  template: `
    <form [formGroup]="form" (ngSubmit)="send()">
      <label>Tap <input formControlName="tap" /></label>
      @if (form.controls.tap.touched && form.controls.tap.hasError('pattern')) {
        <p>Like T12</p>
      }
      <label>Liters <input type="number" formControlName="liters" /></label>
      <button [disabled]="form.invalid">Send</button>
    </form>
  `,
})
export class TapCheckComponent {
  readonly checked = output<{ tap: string; liters: number }>();
  readonly form = new FormGroup({
    tap: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.pattern(/^T\d{2}$/)] }),
    liters: new FormControl(10, { nonNullable: true }),
  });

  send() {
    this.checked.emit(this.form.getRawValue());
  }
}
