import { Component, computed, signal } from '@angular/core';
import { FormField, form, max, min, required, submit, validate } from '@angular/forms/signals';

export interface Tasting {
  evening: string;
  guests: number | null;
  barrel: string;
  supper: boolean;
}

const noTasting: Tasting = { evening: '', guests: 6, barrel: '', supper: false };

@Component({
  selector: 'orchard-cider-tasting',
  imports: [FormField],
  template: `
    <form novalidate (submit)="book($event)">
      <label for="evening">Evening</label>
      <input id="evening" type="date" [formField]="tasting.evening" />
      @if (tasting.evening().touched() && tasting.evening().invalid()) {
        <p class="wrong">Which evening?</p>
      }
      <label for="guests">Guests</label>
      <input id="guests" type="number" [formField]="tasting.guests" />
      @for (problem of tasting.guests().errors(); track problem.kind) {
        <p class="wrong">{{ problem.message }}</p>
      }
      <label for="barrel">Barrel</label>
      <input id="barrel" [formField]="tasting.barrel" [class.wrong]="barrelMessage()" />
      <p class="wrong">{{ barrelMessage() }}</p>
      <label><input type="checkbox" [formField]="tasting.supper" /> With supper</label>
      <button type="submit">Book the evening</button>
      <p>{{ booked() }}</p>
    </form>
  `,
})
export class CiderTastingComponent {
  // the evening that is being filled in
  protected readonly values = signal<Tasting>(noTasting);
  protected readonly tasting = form(this.values, (path) => {
    required(path.evening);
    min(path.guests, 4, { message: 'We open a barrel for four or more.' });
    max(path.guests, 24, { message: 'The cellar holds twenty-four.' });
    // small companies get the barrel that is open already
    validate(path.barrel, ({ value, valueOf }) => {
      const guests = valueOf(path.guests) ?? 0;
      return value() !== '' && guests < 10 ? { kind: 'few', message: 'Ten guests for a barrel of your own.' } : null;
    });
  });
  protected readonly booked = signal('');

  protected readonly barrelMessage = computed(() => this.tasting.barrel().errors()[0]?.message ?? '');

  protected book(event: Event): void {
    event.preventDefault();
    void submit(this.tasting, async () => {
      const { evening, guests } = this.values();
      this.booked.set(`${guests ?? 0} guests on ${evening}`);
      this.tasting().reset(noTasting);
    });
  }
}
