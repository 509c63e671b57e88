import { Component, computed, signal } from '@angular/core';
import { form, FormField, required, min, max, hidden, applyEach, minLength, FormRoot } from '@angular/forms/signals';

interface Picker { name: string; crates: number }
interface Day { day: string; orchard: string; rain: boolean; reason: string; pickers: Picker[] }

const blank: Day = { day: '', orchard: 'north', rain: false, reason: '', pickers: [] };

@Component({
  selector: 'picking-day',
  imports: [FormField, FormRoot],
  template: `
    <form [formRoot]="dayForm">
      <input type="date" [formField]="dayForm.day" aria-label="Day">
      <label><input type="radio" value="north" [formField]="dayForm.orchard"> North</label>
      <label><input type="radio" value="south" [formField]="dayForm.orchard"> South</label>
      <label><input type="checkbox" [formField]="dayForm.rain"> Rain</label>
      @if (!dayForm.reason().hidden()) {
        <input [formField]="dayForm.reason" aria-label="Reason">
        @if (dayForm.reason().touched() && dayForm.reason().invalid()) { <b>{{ dayForm.reason().errors()[0].message }}</b> }
      }
      <ul>
        @for (picker of dayForm.pickers; track $index; let n = $index) {
          <li>
            <input [formField]="picker.name" [attr.aria-label]="'Picker ' + n">
            <input type="number" [formField]="picker.crates" [attr.aria-label]="'Crates ' + n">
            @if (picker.crates().touched() && picker.crates().errors().length) { <b>{{ picker.crates().errors()[0].message }}</b> }
            <button type="button" (click)="drop(n)">x</button>
          </li>
        } @empty { <li>Nobody yet</li> }
      </ul>
      <button type="button" (click)="add()">Add</button>
      <p>{{ total() }} crates</p>
      @if (dayForm.pickers().touched() && dayForm.pickers().errors().length) { <b>Who picks?</b> }
      <button>{{ dayForm().submitting() ? 'Saving' : 'Save' }}</button>
      <p class="saved">{{ saved() }}</p>
    </form>
  `,
})
export class PickingDay {
  protected day = signal<Day>(structuredClone(blank));
  protected saved = signal(0);
  protected dayForm = form(
    this.day,
    (d) => {
      required(d.day);
      hidden(d.reason, ({ valueOf }) => !valueOf(d.rain));
      required(d.reason, { message: 'Why in the rain?' });
      minLength(d.pickers, 1);
      applyEach(d.pickers, (p) => {
        required(p.name);
        min(p.crates, 0, { message: 'Not below zero.' });
        max(p.crates, 99, { message: 'Nobody picks that much.' });
      });
    },
    { submission: { action: async () => { this.saved.update((n) => n + 1); } } },
  );
  protected total = computed(() => this.day().pickers.reduce((all, one) => all + one.crates, 0));

  add() {
    this.day.update((d) => ({ ...d, pickers: [...d.pickers, { name: '', crates: 0 }] }));
  }

  drop(n: number) {
    this.dayForm.pickers().value.update((list) => list.filter((_, i) => i !== n));
  }
}
