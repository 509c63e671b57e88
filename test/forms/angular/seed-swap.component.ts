import { Component, computed, EventEmitter, Output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';

@Component({
  selector: 'orchard-seed-swap',
  imports: [FormsModule],
  template: `
    <input type="search" aria-label="Look for" [(ngModel)]="wanted" [ngModelOptions]="{ standalone: true }" />
    <p>{{ wanted() ? 'Looking for ' + wanted() : 'All seeds' }}, {{ shown() }} found</p>
    <form #swap="ngForm" (ngSubmit)="offer(); swap.resetForm({ seed: '', grams: 5, organic: true })">
      <label>Seed <input name="seed" required [(ngModel)]="seed" #seedBox="ngModel" (blur)="looked = true" /></label>
      @if (seedBox.invalid && looked) {
        <em>Which seed?</em>
      }
      <label>Grams <input name="grams" type="number" [(ngModel)]="grams" min="1" /></label>
      <label><input name="organic" type="checkbox" [(ngModel)]="organic" /> Organic</label>
      <p>{{ seed() }}: {{ grams() * 2 }} points</p>
      <button [disabled]="swap.form.invalid">Offer</button>
    </form>
  `,
})
export class SeedSwapComponent {
  @Output() offered = new EventEmitter<{ seed: string; grams: number; organic: boolean }>();
  // the box above the list
  readonly wanted = signal('');
  readonly shown = computed(() => ['kale', 'chard'].filter((name) => name.includes(this.wanted())).length);

  readonly seed = signal('');
  readonly grams = signal(5);
  readonly organic = signal(true);
  looked = false;

  offer() {
    this.offered.emit({ seed: this.seed(), grams: this.grams(), organic: this.organic() });
    this.looked = false;
  }
}
