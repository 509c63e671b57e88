import { ChangeDetectionStrategy, Component, DestroyRef, OnInit, inject, input, output } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { AbstractControl, FormControl, FormGroup, ReactiveFormsModule, ValidationErrors, Validators } from '@angular/forms';

function datesInOrder(group: AbstractControl): ValidationErrors | null {
  const { from, to } = group.value as { from: string; to: string };
  return from && to && from > to ? { order: true } : null;
}

@Component({
  selector: 'orchard-pruning-bid',
  imports: [ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form [formGroup]="bid" (ngSubmit)="send()">
      <label for="crew">Crew</label>
      <input id="crew" formControlName="crew" />
      @if (bid.controls.crew.invalid && bid.controls.crew.touched) {
        <small>Who prunes?</small>
      }
      <div formGroupName="time">
        <input type="date" aria-label="From" formControlName="from" />
        <input type="date" aria-label="To" formControlName="to" />
      </div>
      @if (bid.controls.time.hasError('order')) {
        <small>It ends before it begins.</small>
      }
      <select aria-label="Pay" formControlName="pay">
        <option value="hour">by the hour</option>
        <option value="tree">by the tree</option>
      </select>
      <input type="number" aria-label="Trees" formControlName="trees" />
      @if (bid.controls.trees.errors?.['required']) {
        <small>How many?</small>
      }
      <button type="submit" [disabled]="bid.invalid">Offer</button>
      <button type="button" (click)="bid.reset()">Anew</button>
    </form>
  `,
})
export class PruningBidComponent implements OnInit {
  readonly season = input('winter');
  readonly offered = output<unknown>();
  private readonly gone = inject(DestroyRef);

  readonly bid = new FormGroup({
    crew: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
    time: new FormGroup(
      {
        from: new FormControl('', { nonNullable: true }),
        to: new FormControl('', { nonNullable: true }),
      },
      { validators: datesInOrder },
    ),
    pay: new FormControl<'hour' | 'tree'>('hour', { nonNullable: true }),
    trees: new FormControl<number | null>({ value: null, disabled: true }, Validators.required),
  });

  ngOnInit(): void {
    // trees count only where they are paid
    this.bid.controls.pay.valueChanges.pipe(takeUntilDestroyed(this.gone)).subscribe((pay) => {
      if (pay === 'tree') this.bid.controls.trees.enable();
      else this.bid.controls.trees.disable();
    });
  }

  send(): void {
    if (this.bid.invalid) return;
    this.offered.emit({ ...this.bid.getRawValue(), season: this.season() });
  }
}
