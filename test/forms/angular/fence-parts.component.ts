import { CommonModule } from '@angular/common';
import { Component, EventEmitter, Output } from '@angular/core';
import { FormArray, FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';

type PartGroup = FormGroup<{ what: FormControl<string | null>; metres: FormControl<number | null> }>;

function part(what: string | null, metres = 1): PartGroup {
  return new FormGroup({
    what: new FormControl(what, [Validators.required]),
    metres: new FormControl(metres),
  });
}

@Component({
  selector: 'orchard-fence-parts',
  standalone: true,
  imports: [CommonModule, ReactiveFormsModule],
  template: `
    <form [formGroup]="fence" (ngSubmit)="order()">
      <input placeholder="Field" formControlName="field" />
      <ul>
        <li *ngFor="let one of parts.controls" [formGroup]="one">
          <select formControlName="what">
            <option value="post">Post</option>
            <option value="wire">Wire</option>
          </select>
          <input type="number" placeholder="Metres" formControlName="metres" />
          <button type="button" (click)="remove(one)">Remove</button>
        </li>
      </ul>
      <button type="button" (click)="addFirst()">Add in front</button>
      <button type="button" (click)="addWire()">Add wire</button>
      <button type="submit">Order</button>
    </form>
  `,
})
export class FencePartsComponent {
  @Output() ordered = new EventEmitter<any>();

  fence = new FormGroup({
    field: new FormControl('', { nonNullable: true, validators: Validators.required }),
    parts: new FormArray<PartGroup>([]),
  });

  parts = this.fence.controls.parts;

  addFirst() {
    this.parts.insert(0, part('post'));
  }

  addWire() {
    this.parts.push(part('wire', 25));
  }

  remove(one: PartGroup) {
    this.parts.removeAt(this.parts.controls.indexOf(one));
  }

  order() {
    if (!this.fence.valid) return;
    this.ordered.emit(this.fence.getRawValue());
    this.parts.clear();
  }
}
