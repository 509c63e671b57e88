import { Component, EventEmitter, OnInit, Output } from '@angular/core';
import { FormBuilder, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { noSunday, lessThanRows } from './parts/rules';

@Component({
  selector: 'orchard-graft-order',
  standalone: true,
  imports: [ReactiveFormsModule],
  template: `
    <form [formGroup]="orderForm" (ngSubmit)="order()" class="order">
      <label for="scion">Scion</label>
      <input id="scion" formControlName="scion" [class.wrong]="f['scion'].invalid && f['scion'].touched">
      @if (f['scion'].touched && f['scion'].hasError('required')) { <span>Which scion?</span> }
      <label for="day">Grafting day</label>
      <input id="day" type="date" formControlName="day">
      @if (orderForm.get('day')?.errors?.['sunday']) { <span>Nobody grafts on a Sunday</span> }
      <label for="trees">Trees</label>
      <input id="trees" type="number" formControlName="trees">
      <label for="rows">Rows</label>
      <input id="rows" type="number" formControlName="rows">
      @if (orderForm.errors?.['crowded'] && orderForm.touched) { <p class="crowded">That many trees need more rows</p> }
      <label><input type="checkbox" formControlName="agreed"> The price is agreed</label>
      <button type="submit" [disabled]="orderForm.invalid">Order</button>
      <button type="button" (click)="orderForm.reset()">Clear</button>
    </form>
  `,
})
export class GraftOrderComponent implements OnInit {
  @Output() ordered = new EventEmitter<unknown>();
  orderForm!: FormGroup;

  constructor(private fb: FormBuilder) {}

  ngOnInit() {
    // everything in one place
    this.orderForm = this.fb.group(
      {
        scion: ['', Validators.required],
        day: ['', noSunday],
        trees: [1, [Validators.required, Validators.min(1)]],
        rows: [1],
        agreed: [false, Validators.requiredTrue],
      },
      { validators: lessThanRows(10) },
    );
  }

  get f() {
    return this.orderForm.controls;
  }

  order() {
    if (this.orderForm.invalid) {
      return;
    }
    this.ordered.emit(this.orderForm.value);
    this.orderForm.reset();
  }
}
