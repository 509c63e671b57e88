import { Component, Input, Output, EventEmitter } from '@angular/core';
import { FormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';

@Component({
  selector: 'orchard-crew-rota',
  standalone: true,
  imports: [ReactiveFormsModule],
  template: `
    <form [formGroup]="rota" (ngSubmit)="send()">
      <input type="date" formControlName="day" aria-label="Day" />
      @for (shift of shifts.controls; track $index) {
        <div [formGroup]="shift">
          <select formControlName="place" [attr.aria-label]="'Place ' + $index">
            @for (name of places; track name) { <option [value]="name">{{ name }}</option> }
          </select>
          <input formControlName="who" [attr.aria-label]="'Who ' + $index" />
          <button type="button" (click)="shifts.insert($index, blank('gate'))">Before</button>
          <button type="button" (click)="take($index)" [disabled]="shifts.length === 1">Away</button>
        </div>
      }
      <button type="button" (click)="shifts.push(blank('press'))">Press shift</button>
      <button type="submit" [disabled]="!rota.valid">Send</button>
      <button type="button" (click)="shifts.clear()">Nobody</button>
    </form>
    <small>{{ shifts.value.length }} shifts</small>
  `,
})
export class CrewRotaComponent {
  @Input() places = ['gate', 'press', 'shed'];
  @Output() sent = new EventEmitter<any>();

  rota;

  constructor(private readonly fb: FormBuilder) {
    this.rota = this.fb.nonNullable.group({
      day: ['', [Validators.required]],
      shifts: this.fb.array([this.blank('gate')]),
    });
  }

  get shifts() { return this.rota.controls.shifts; }

  blank(place: string) {
    return this.fb.nonNullable.group({ place: place, who: ['', Validators.required] });
  }

  take(index: number) {
    const gone = this.shifts.at(index).controls.who.value;
    if (gone && !confirm(`Really without ${gone}?`)) return;
    this.shifts.removeAt(index);
  }

  send() {
    this.sent.emit(this.rota.getRawValue());
  }
}
