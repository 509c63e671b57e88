import { Component, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';

interface MillOrder { flour: string; kilos: number; organic: boolean }

@Component({
  selector: 'orchard-mill-order',
  imports: [FormsModule],
  template: `
    <form #f="ngForm" (ngSubmit)="order()">
      <input name="flour" aria-label="Flour" [ngModel]="model().flour" (ngModelChange)="update({ flour: $event })" required />
      <input type="number" name="kilos" aria-label="Kilos" [ngModel]="model().kilos" (ngModelChange)="update({ kilos: $event })" min="1" />
      <label><input type="checkbox" name="organic" [ngModel]="model().organic" (ngModelChange)="update({ organic: $event })" /> organic</label>
      @if (model().organic) { <p>From our own fields.</p> }
      <button [disabled]="f.invalid">Order</button>
    </form>
  `,
})
export class MillOrderComponent {
  readonly ordered = output<MillOrder>();
  protected readonly model = signal<MillOrder>({ flour: 'rye', kilos: 5, organic: true });

  protected update(change: Partial<MillOrder>): void {
    this.model.update((model) => ({ ...model, ...change }));
  }

  protected order(): void {
    this.ordered.emit(this.model());
  }
}
