import { Component, computed, output, signal } from '@angular/core';
import { FormField, form, applyEach, min, required } from '@angular/forms/signals';

interface Part { sort: string; share: number }

@Component({
  selector: 'orchard-cider-blend',
  imports: [FormField],
  template: `
    <form (submit)="mix($event)" novalidate>
      <input [formField]="blend.name" aria-label="Name" />
      @for (part of blend.parts; track part; let i = $index) {
        <input [formField]="part.sort" [attr.aria-label]="'Sort ' + i" />
        <input type="number" [formField]="part.share" [attr.aria-label]="'Share ' + i" />
        @if (part.sort().touched() && part.sort().invalid()) {
          <em>Which apple?</em>
        }
        <button type="button" (click)="without(i)">Less</button>
      }
      <p>{{ sum() }} %</p>
      <button type="button" (click)="withOne()">More</button>
      <button type="submit">Mix</button>
    </form>
  `,
})
export class CiderBlendComponent {
  readonly mixed = output<{ name: string; parts: Part[] }>();
  protected readonly model = signal<{ name: string; parts: Part[] }>({ name: '', parts: [{ sort: '', share: 100 }] });
  protected readonly blend = form(this.model, (path) => {
    required(path.name);
    applyEach(path.parts, (part) => {
      required(part.sort);
      min(part.share, 1);
    });
  });
  protected readonly sum = computed(() => this.model().parts.reduce((all, { share }) => all + share, 0));

  protected withOne(): void {
    this.blend.parts().value.update((parts) => [...parts, { sort: '', share: 0 }]);
  }

  protected without(index: number): void {
    this.blend.parts().value.update((parts) => parts.filter((_, i) => i !== index));
  }

  protected mix(event: Event): void {
    event.preventDefault();
    if (this.blend().invalid()) return;
    this.mixed.emit(this.model());
  }
}
