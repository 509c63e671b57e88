import { Component, DestroyRef, EventEmitter, OnInit, Output, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { debounceTime, distinctUntilChanged } from 'rxjs';

@Component({
  selector: 'orchard-cart-hire',
  standalone: true,
  imports: [ReactiveFormsModule],
  template: `
    <form [formGroup]="hire" (ngSubmit)="book()">
      <select formControlName="cart" aria-label="Cart">
        <option value="hand">Hand cart</option>
        <option value="horse">Horse cart</option>
      </select>
      <input type="number" formControlName="hours" aria-label="Hours" />
      <input formControlName="from" aria-label="From" />
      <p>{{ price }} all in all</p>
      <small>{{ hint }}</small>
      <button [disabled]="hire.invalid">Book</button>
      <button type="button" (click)="hire.reset()">Anew</button>
    </form>
  `,
})
export class CartHireComponent implements OnInit {
  @Output() booked = new EventEmitter<unknown>();
  private readonly destroyRef = inject(DestroyRef);
  price = 6;
  hint = '';

  readonly hire = inject(FormBuilder).nonNullable.group({
    cart: ['hand', Validators.required],
    hours: [1, [Validators.required, Validators.min(1)]],
    from: [''],
  });

  ngOnInit() {
    this.hire.controls.hours.valueChanges.pipe(takeUntilDestroyed(this.destroyRef)).subscribe((hours) => {
      this.price = hours * (this.hire.controls.cart.value === 'horse' ? 20 : 6);
    });
    this.hire.get('from')!.valueChanges
      .pipe(debounceTime(50), distinctUntilChanged(), takeUntilDestroyed(this.destroyRef))
      .subscribe((from) => (this.hint = from ? `The key is at ${from}.` : ''));
  }

  book() {
    this.booked.emit({ ...this.hire.getRawValue(), price: this.price });
  }
}
