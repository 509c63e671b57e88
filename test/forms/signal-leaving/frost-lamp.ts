import { Component, signal } from '@angular/core';
import { FieldTree, FormField, email, form, maxLength, pattern, required, submit, validate } from '@angular/forms/signals';

type Lamp = { row: string; mail: string; hours: number | null; spare: boolean; note: string };

@Component({
  selector: 'frost-lamp',
  imports: [FormField],
  template: `
    <form (submit)="send(); $event.preventDefault()" novalidate>
      <label>Row <input [formField]="lampForm.row" /></label>
      <p class="bad">{{ message(lampForm.row) }}</p>
      <label>Mail <input type="email" [formField]="lampForm.mail" /></label>
      <p class="bad">{{ message(lampForm.mail) }}</p>
      <label>Hours <input type="number" [formField]="lampForm.hours" /></label>
      <p class="bad">{{ message(lampForm.hours) }}</p>
      <label><input type="checkbox" [formField]="lampForm.spare" /> Bring a spare</label>
      <label>Note <textarea [formField]="lampForm.note"></textarea></label>
      <p>{{ lampForm.note().value().length }} of 60</p>
      <button type="submit" [disabled]="lampForm().invalid() || lampForm().submitting()">Send</button>
      <output>{{ sent() }}</output>
    </form>
  `,
})
export class FrostLamp {
  // the lamp as it is typed
  lamp = signal<Lamp>({ row: '', mail: '', hours: null, spare: false, note: '' });
  lampForm = form(this.lamp, (p) => {
    required(p.row, { message: 'Which row?' });
    pattern(p.row, /^[A-F]\d{1,2}$/, { message: 'Rows look like B7.' });
    required(p.mail, { message: 'We write when the frost comes.' });
    email(p.mail, { message: 'That is no address.' });
    validate(p.hours, (ctx) => {
      const hours = ctx.value();
      if (hours === null) return { kind: 'missing', message: 'How long?' };
      return hours > 12 ? { kind: 'long', message: `${hours} hours is longer than a night.` } : null;
    });
    // people write novels otherwise
    maxLength(p.note, 60);
  });
  sent = signal('');

  message(field: FieldTree<unknown>) {
    const state = field();
    return state.touched() ? (state.errors()[0]?.message ?? '') : '';
  }

  async send() {
    await submit(this.lampForm, async (f) => {
      this.sent.set(JSON.stringify(f().value()));
      return null;
    });
  }
}
