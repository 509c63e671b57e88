import { Component, EventEmitter, Output, ViewChild } from '@angular/core';
import { FormsModule, NgForm } from '@angular/forms';
import { MoreThanDirective } from './parts/more-than.directive';

interface Basket {
  id: number;
  tree: string;
  empty: number | null;
  full: number | null;
}

/** Baskets as they come to the scale, weighed empty and full. */
@Component({
  selector: 'orchard-basket-scale',
  standalone: true,
  imports: [FormsModule, MoreThanDirective],
  template: `
    <form #slip="ngForm" (ngSubmit)="send()" novalidate>
      <label>Picker <input name="picker" [(ngModel)]="weighing.picker" #picker="ngModel" required pattern="\\w+ \\w+" /></label>
      @if (picker.touched && picker.invalid) {
        <em>First and last name</em>
      }
      @for (basket of weighing.baskets; track basket.id; let n = $index) {
        <fieldset [ngModelGroup]="'basket' + basket.id">
          <label>Tree {{ n + 1 }} <input name="tree" [(ngModel)]="basket.tree" #tree="ngModel" required /></label>
          <label>Empty {{ n + 1 }} <input type="number" name="empty" [(ngModel)]="basket.empty" /></label>
          <label>Full {{ n + 1 }} <input type="number" name="full" [(ngModel)]="basket.full" #full="ngModel" required [moreThan]="basket.empty" /></label>
          @if (tree.touched && tree.invalid) {
            <em>Which tree?</em>
          }
          @if (full.dirty && full.hasError('moreThan')) {
            <em>That is an empty basket</em>
          }
          <button type="button" (click)="drop(basket)">Drop {{ n + 1 }}</button>
        </fieldset>
      }
      <button type="button" (click)="add()">Another basket</button>
      <button>Weighed</button>
    </form>
  `,
})
export class BasketScaleComponent {
  @Output() weighed = new EventEmitter<{ picker: string; baskets: Basket[] }>();
  @ViewChild('slip') slip!: NgForm;

  private count = 0;
  weighing: { picker: string; baskets: Basket[] } = this.nothing();

  add(): void {
    const last = this.weighing.baskets[this.weighing.baskets.length - 1];
    this.weighing.baskets.push({ ...this.basket(), tree: last?.tree ?? '' });
  }

  drop(basket: Basket): void {
    this.weighing.baskets = this.weighing.baskets.filter((other) => other.id !== basket.id);
  }

  send(): void {
    if (this.slip.invalid) return;
    this.weighed.emit({ ...this.weighing, baskets: this.weighing.baskets.map((basket) => ({ ...basket })) });
    this.weighing = this.nothing();
    this.slip.resetForm({ picker: '' });
  }

  private nothing(): { picker: string; baskets: Basket[] } {
    return { picker: '', baskets: [this.basket()] };
  }

  private basket(): Basket {
    return { id: ++this.count, tree: '', empty: null, full: null };
  }
}
