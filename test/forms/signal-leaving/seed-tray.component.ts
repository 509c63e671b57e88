import { Component, computed, output, signal } from '@angular/core';
import { disabled, form, FormField, required, SchemaPathTree } from '@angular/forms/signals';

export type Tray = { sort: string; cells: number; label: string; heated: boolean };

function trayRules(tray: SchemaPathTree<Tray>) {
  required(tray.sort, { message: 'What is sown?' });
  needed(tray.label, tray.sort);
  disabled(tray.heated, ({ valueOf }) => valueOf(tray.cells) < 20);
}

/** A label is needed where it says more than the sort. */
function needed(label: SchemaPathTree<string>, sort: SchemaPathTree<string>) {
  required(label, { when: ({ valueOf }) => valueOf(sort).length > 8, message: 'It needs a short label.' });
}

@Component({
  selector: 'orchard-seed-tray',
  imports: [FormField],
  template: `
    <div class="tray">
      <input [formField]="tray.sort" placeholder="Sort" />
      <input [formField]="tray.label" placeholder="Label" />
      @if (tray.label().errors()[0]; as problem) {
        <small>{{ problem.message }}</small>
      }
      <input type="number" [formField]="tray.cells" aria-label="Cells" />
      <label><input type="checkbox" [formField]="tray.heated" /> Heated</label>
      <b>{{ title() }}</b>
      <button type="button" (click)="sow()" [disabled]="!tray().valid()">Sow</button>
      <button type="button" (click)="bigger()">Bigger</button>
    </div>
  `,
})
export class SeedTrayComponent {
  readonly sown = output<Tray>();
  // a tray of the smallest kind
  readonly model = signal<Tray>({
    sort: '',
    cells: 12, // four by three
    label: '',
    heated: false,
  });
  readonly tray = form(this.model, trayRules);
  readonly title = computed(() => this.model().label || this.model().sort || 'A tray');

  sow(): void {
    this.sown.emit(this.model());
    this.model.set({ sort: '', cells: 12, label: '', heated: false });
    this.tray().reset();
  }

  bigger() {
    this.model.update((tray) => ({ ...tray, cells: tray.cells + 12 }));
  }
}
