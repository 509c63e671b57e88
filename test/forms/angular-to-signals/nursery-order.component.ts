import { Component, EventEmitter, Output, inject } from '@angular/core';
import { CommonModule } from '@angular/common';
import { FormArray, NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';

@Component({
  selector: 'orchard-nursery-order',
  standalone: true,
  imports: [CommonModule, ReactiveFormsModule],
  template: `
    <h2 (click)="open = !open">Nursery</h2>
    <p *ngIf="open">Trees come in March.</p>
    <form [formGroup]="order" (ngSubmit)="place()">
      <label>Grower <input formControlName="grower"></label>
      <small *ngIf="order.get('grower')?.touched && order.get('grower')?.hasError('required')">Who orders?</small>
      <ng-container formArrayName="trees">
        <div *ngFor="let tree of trees.controls; let n = index" [formGroupName]="n">
          <input [attr.aria-label]="'Sort ' + (n + 1)" formControlName="sort">
          <input type="number" [attr.aria-label]="'Pieces ' + (n + 1)" formControlName="pieces">
          <label><input type="checkbox" formControlName="grafted"> grafted</label>
          <button type="button" (click)="trees.removeAt(n)">Drop {{ n + 1 }}</button>
        </div>
      </ng-container>
      <p *ngIf="trees.hasError('minlength')">Two sorts at least.</p>
      <button type="button" (click)="more()">One more</button>
      <output>{{ pieces }} trees</output>
      <button [disabled]="order.invalid">Order</button>
    </form>
  `,
})
export class NurseryOrderComponent {
  private fb = inject(NonNullableFormBuilder);
  @Output() placed = new EventEmitter<unknown>();
  open = false; // only the hint

  order = this.fb.group({
    grower: ['', Validators.required],
    trees: this.fb.array([this.tree('Boskoop', 2)], Validators.minLength(2)),
  });

  get trees() {
    return this.order.get('trees') as FormArray<ReturnType<typeof this.tree>>;
  }

  get pieces(): number {
    return this.trees.controls.reduce((all, row) => all + row.controls.pieces.value, 0);
  }

  tree(sort = '', pieces = 1) {
    return this.fb.group({ sort: [sort, [Validators.required, Validators.maxLength(12)]], pieces: [pieces, Validators.min(1)], grafted: [false] });
  }

  more() {
    this.trees.push(this.tree());
  }

  place() {
    this.placed.emit(this.order.getRawValue());
  }
}
