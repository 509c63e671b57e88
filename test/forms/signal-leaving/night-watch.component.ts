import { Component, signal } from '@angular/core';
import { email, form as formOver, FormField, required, submit as send, validate } from '@angular/forms/signals';

/** Who watches the thermometers at night. */
@Component({
  selector: 'orchard-night-watch',
  imports: [FormField],
  template: `
    <form (submit)="take($event)" novalidate>
      <fieldset>
        <legend>Watcher</legend>
        <label>Name <input [formField]="watch.who.name" /></label>
        <label>Mail <input type="email" [formField]="watch.who.mail" /></label>
        @for (problem of watch.who.mail().errors(); track problem.kind) {
          <em>{{ problem.message }}</em>
        }
      </fieldset>
      <label>From <input type="time" [formField]="watch.from" /></label>
      <label>Until <input type="time" [formField]="watch.until" /></label>
      <!-- the whole night is one watch -->
      @for (problem of watch().errors(); track problem.kind) {
        <strong>{{ problem.message }}</strong>
      }
      @if (watch.who.name().touched() && !watch.who.name().valid()) {
        <em>Who watches?</em>
      }
      <button>Take the watch</button>
      <p>{{ taken }}</p>
    </form>
  `,
})
export class NightWatchComponent {
  private readonly night = signal({ who: { name: '', mail: '' }, from: '22:00', until: '04:00' });
  readonly watch = formOver(this.night, (path) => {
    required(path.who.name);
    email(path.who.mail, { message: 'Nobody is reached there.' });
    // a watch that ends when it begins is none
    validate(path, ({ value }) => {
      const { from, until } = value();
      return from === until ? { kind: 'none', message: 'It would end as it begins.' } : undefined;
    });
  });
  taken = '';

  async take(event: SubmitEvent) {
    event.preventDefault();
    const ok = await send(this.watch, async (watch) => {
      const { who, from } = watch().value();
      if (who.name === 'Nobody') {
        return [
          { kind: 'name', message: 'Nobody cannot watch.', fieldTree: watch.who.name },
          { kind: 'mail', message: 'Nobody has no mail.', fieldTree: watch.who.mail },
        ];
      }
      this.taken = `${who.name} from ${from}`;
      return [];
    });
    if (!ok) this.taken = '';
  }
}
