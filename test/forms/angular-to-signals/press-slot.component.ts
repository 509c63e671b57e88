import { Component, computed, effect, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { map } from 'rxjs';

@Component({
  selector: 'orchard-press-slot',
  standalone: true,
  imports: [ReactiveFormsModule],
  template: `
    <form [formGroup]="slot" (ngSubmit)="book()">
      <input formControlName="grower" aria-label="Grower" />
      <input type="number" formControlName="crates" aria-label="Crates" />
      <label><input type="checkbox" formControlName="bottles" /> In bottles</label>
      <output>{{ litres() }} l, {{ price() }}</output>
      @if (many()) {
        <em>That takes two slots.</em>
      }
      <button [disabled]="slot.invalid">Book</button>
    </form>
    <p>{{ booked() }}</p>
  `,
})
export class PressSlotComponent {
  private readonly fb = inject(FormBuilder).nonNullable;
  readonly slot = this.fb.group({
    grower: ['', Validators.required],
    crates: [1, [Validators.required, Validators.min(1)]],
    bottles: [false],
  });
  private readonly now = toSignal(this.slot.valueChanges.pipe(map(() => this.slot.getRawValue())), {
    initialValue: this.slot.getRawValue(),
  });

  readonly litres = computed(() => this.now().crates * 12);
  readonly price = computed(() => (this.now().bottles ? this.litres() * 2 : this.litres()));
  readonly many = signal(false);
  readonly booked = signal('');

  constructor() {
    // two slots are told at once
    effect(() => this.many.set(this.now().crates > 40));
  }

  book() {
    this.booked.set(`${this.now().grower}: ${this.slot.getRawValue().crates}`);
    this.slot.reset();
  }
}
