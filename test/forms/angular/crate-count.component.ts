import { Component, EventEmitter, Input, OnInit, Output } from '@angular/core';
import { FormsModule, type NgForm } from '@angular/forms';

class Count {
  constructor(
    public row: string,
    public crates: number | null = null,
    public sorted = false,
  ) {}
}

@Component({
  selector: 'orchard-crate-count',
  imports: [FormsModule],
  template: `<form #form="ngForm" (submit)="done(form)">
  <input aria-label="Row" name="row" [(ngModel)]="count.row" required>
  <input aria-label="Crates" name="crates" type="number" [(ngModel)]="count.crates" required min="1">
  <input aria-label="Sorted" name="sorted" type="checkbox" [(ngModel)]="count.sorted">
  <p>{{ problem(form) }}</p>
  <b>{{ worth }}</b>
  <button>Count</button>
  <button type="button" (click)="clear(form)">Clear</button>
</form>`,
})
export class CrateCountComponent implements OnInit {
  @Input() price = 4;
  @Output() counted = new EventEmitter<any>();
  count = new Count('A', 2);

  get worth(): number {
    return (this.count.crates ?? 0) * this.price;
  }

  ngOnInit(): void {
    this.count.row = 'B';
  }

  problem(form: NgForm): string {
    if (form.controls['row']?.touched && form.controls['row']?.errors?.['required']) return 'Which row?';
    return form.controls['crates']?.hasError('min') ? 'At least one crate' : '';
  }

  done(form: NgForm): void {
    if (!form.valid) return;
    this.counted.emit(form.value);
  }

  clear(form: NgForm) {
    form.reset();
  }
}
