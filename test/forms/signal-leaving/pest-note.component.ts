import { ChangeDetectionStrategy, Component, computed, output, signal } from '@angular/core';
import { applyWhen, form, FormField, min, required } from '@angular/forms/signals';

interface PestNote {
  pest: 'mite' | 'moth' | 'other';
  which: string;
  trees: number;
  treated: boolean;
  product: string;
}

function start(): PestNote {
  return { pest: 'moth', which: '', trees: 1, treated: false, product: '' };
}

/** What a picker saw on the trees. */
@Component({
  selector: 'pest-note',
  standalone: true,
  imports: [FormField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>{{ title() }}</h3>
    <form novalidate (submit)="onSubmit($event)">
      <select [formField]="note.pest" aria-label="Pest">
        <option value="mite">Mite</option>
        <option value="moth">Moth</option>
        <option value="other">Something else</option>
      </select>
      @if (isOther()) {
        <input [formField]="note.which" aria-label="Which one" />
        @if (note.which().invalid() && (note.which().touched() || tried())) {
          <em>{{ note.which().errors()[0].message }}</em>
        }
      }
      <input type="number" [formField]="note.trees" aria-label="Trees" />
      @for (problem of note.trees().errors(); track problem) {
        <em>{{ problem.message }}</em>
      }
      <label><input type="checkbox" [formField]="note.treated" />Treated</label>
      @if (note.treated().value()) {
        <input [formField]="note.product" aria-label="Product" />
      }
      @if (tried() && note().invalid()) {
        <strong>Please look again.</strong>
      }
      <button>Note it</button>
      <button type="button" (click)="again()">Again</button>
    </form>
  `,
})
export class PestNoteComponent {
  readonly noted = output<PestNote>();
  readonly tried = signal(false);

  readonly #model = signal(start());
  readonly note = form(this.#model, (path) => {
    applyWhen(path, ({ valueOf }) => valueOf(path.pest) === 'other', (other) => {
      required(other.which, { message: 'Which pest is it?' });
    });
    min(path.trees, 1, { message: 'At least one tree.' });
    required(path.product, { when: ({ valueOf }) => valueOf(path.treated), message: 'With what?' });
  });

  readonly isOther = computed(() => this.note.pest().value() === 'other');
  readonly title = computed(() => (this.#model().trees > 10 ? 'A plague' : 'A few pests'));

  onSubmit(event: SubmitEvent) {
    event.preventDefault();
    this.tried.set(true);
    if (this.note().invalid()) return;
    this.noted.emit(this.#model());
    this.again();
  }

  again() {
    this.#model.set(start());
    this.note().reset();
    this.tried.set(false);
  }
}
