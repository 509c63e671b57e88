import { ChangeDetectionStrategy, Component, EventEmitter, inject, Output } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { rowName, stepOf } from './checks';

@Component({
  selector: 'orchard-cutting-request',
  imports: [ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form [formGroup]="request" (ngSubmit)="send()">
      <label for="row">Row</label>
      <input id="row" formControlName="row" [class.wrong]="f.row.dirty && f.row.invalid" />
      @if (f.row.dirty) {
        @if (f.row.hasError('required')) {
          <p>Which row?</p>
        } @else if (f.row.hasError('rowName')) {
          <p>A letter and a number.</p>
        }
      }
      <label for="count">Cuttings</label>
      <input id="count" type="number" formControlName="count" />
      @if (f.count.touched && f.count.invalid) {
        <p>{{ f.count.errors?.['max'] ? 'Not more than ' + f.count.errors?.['max'].max : 'In bundles of five.' }}</p>
      }
      <!-- the knife is lent for a day -->
      <label><input type="checkbox" formControlName="knife" /> Lend a knife</label>
      <button [disabled]="request.pristine || request.invalid">Ask</button>
      <button type="button" (click)="request.reset()">Start over</button>
    </form>
  `,
})
export class CuttingRequestComponent {
  @Output() readonly asked = new EventEmitter<{ row: string; count: number | null; knife: boolean }>();
  private readonly builder = inject(NonNullableFormBuilder);

  readonly request = this.builder.group({
    // posts bear the names since the hail
    row: ['', [Validators.required, rowName]],
    count: this.builder.control<number | null>(5, [Validators.required, Validators.max(40), stepOf(5)]),
    knife: false,
  });

  get f() {
    return this.request.controls;
  }

  send(): void {
    if (this.request.invalid) return;
    this.asked.emit(this.request.getRawValue());
    this.request.reset({ row: '', count: 5, knife: false });
  }
}
