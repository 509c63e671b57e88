import { Component, EventEmitter, inject, Output } from '@angular/core';
import { CommonModule } from '@angular/common';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';

@Component({
  selector: 'orchard-water-turn',
  standalone: true,
  imports: [CommonModule, ReactiveFormsModule],
  templateUrl: './water-turn.component.html',
})
export class WaterTurnComponent {
  private fb = inject(NonNullableFormBuilder);
  @Output() saved = new EventEmitter<{ who: string; hour: number; gate: string; litres: number }>();

  hours = [6, 7, 18, 19];

  turn = this.fb.group({
    who: this.fb.group({
      first: ['', [Validators.required, Validators.minLength(2)]],
      family: '',
    }),
    hour: 6, // before the sun is up
    gate: this.fb.control<'upper' | 'lower'>('lower'),
    litres: [200],
  });

  get first() {
    return this.turn.controls.who.controls.first;
  }

  get price() {
    return this.turn.controls.litres.value * 0.02;
  }

  onBigger() {
    const { litres } = this.turn.controls;
    litres.setValue(litres.value + 100);
  }

  onDefaults() {
    this.turn.patchValue({ hour: 18, gate: 'upper' });
  }

  onSave() {
    const value = this.turn.getRawValue();
    this.saved.emit({ who: `${value.who.first} ${value.who.family}`.trim(), hour: value.hour, gate: value.gate, litres: value.litres });
    this.turn.reset();
  }
}
