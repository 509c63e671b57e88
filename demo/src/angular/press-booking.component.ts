import { Component, EventEmitter, Output } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';

/** The press is booked by the hour. */
@Component({
  selector: 'orchard-press-booking',
  imports: [ReactiveFormsModule],
  template: `
    <form [formGroup]="booking" (ngSubmit)="book()">
      <label for="keeper">Keeper</label>
      <input id="keeper" formControlName="keeper" />
      @if (keeper.touched && keeper.errors?.['required']) {
        <p class="message">Who brings the fruit?</p>
      }
      <label for="hours">Hours</label>
      <input id="hours" type="number" formControlName="hours" />
      @if (booking.controls.hours.errors?.['max']) {
        <p class="message">The press has to rest after {{ most }} hours</p>
      }
      <label for="fruit">Fruit</label>
      <select id="fruit" formControlName="fruit">
        <option value="apples">Apples</option>
        <option value="pears">Pears</option>
      </select>
      <button [disabled]="booking.invalid">Book the press</button>
    </form>
  `,
})
export class PressBookingComponent {
  @Output() booked = new EventEmitter<{ keeper: string; hours: number; fruit: string }>();
  readonly most = 6;

  readonly booking = new FormGroup({
    keeper: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
    hours: new FormControl(1, { nonNullable: true, validators: [Validators.min(1), Validators.max(6)] }),
    fruit: new FormControl('apples', { nonNullable: true }),
  });

  get keeper() {
    return this.booking.controls.keeper;
  }

  book(): void {
    this.booked.emit(this.booking.getRawValue());
    this.booking.reset();
  }
}
