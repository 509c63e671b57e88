import { Component, computed, effect, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';

@Component({
  selector: 'orchard-frost-fan',
  imports: [FormsModule],
  template: `
    <form #f="ngForm" (ngSubmit)="start()">
      <input name="place" aria-label="Place" [(ngModel)]="place" required />
      <input type="number" name="below" aria-label="Below" [(ngModel)]="below" />
      <label><input type="checkbox" name="siren" [(ngModel)]="siren" /> Siren</label>
      <p>{{ line() }}</p>
      @if (cold()) { <strong>Cold!</strong> }
      <button [disabled]="f.invalid">Start</button>
    </form>
  `,
})
export class FrostFanComponent {
  readonly started = output<{ place: string; below: number | null; siren: boolean }>();
  readonly place = signal('');
  readonly below = signal<number | null>(0);
  readonly siren = signal(false);
  readonly cold = signal(false);
  readonly line = computed(() => `${this.place() || 'Nowhere'} below ${this.below() ?? '?'} °`);

  constructor() {
    effect(() => {
      this.cold.set((this.below() ?? 0) < -5);
    });
  }

  start() {
    this.started.emit({ place: this.place(), below: this.below(), siren: this.siren() });
  }
}
