import { Component, EventEmitter, Input, Output } from '@angular/core';
import { AbstractControl, FormControl, FormGroup, ReactiveFormsModule, ValidationErrors, Validators } from '@angular/forms';
import { Observable, timer } from 'rxjs';
import { map } from 'rxjs/operators';

function taken(control: AbstractControl): Observable<ValidationErrors | null> {
  return timer(300).pipe(map(() => (control.value === 'R1' ? { taken: true } : null)));
}

@Component({
  selector: 'orchard-spray-diary',
  imports: [ReactiveFormsModule],
  template: `
<form [formGroup]="diary" (ngSubmit)="write()" #entry="ngForm">
  <label>Row <input formControlName="row" /></label>
  @if (row.pending) { <i>Looking it up</i> }
  @if (row.errors?.['taken']) { <i>That row was sprayed today</i> }
  <label>Agent <input formControlName="agent" maxlength="12" /></label>
  <label>Grams <input type="number" formControlName="grams" /></label>
  @if (grams.errors; as wrong) {
    @if (wrong['max'] && (grams.dirty || entry.submitted)) { <i>At most {{ wrong['max'].max }} grams</i> }
  }
  <label>Wind <input type="number" formControlName="wind" [readonly]="calm" /></label>
  <label><input type="checkbox" (change)="calmChanged()" [checked]="calm" /> No wind at all</label>
  <textarea aria-label="Remarks" formControlName="remarks"></textarea>
  <button [disabled]="busy || diary.pending">Write it down</button>
  @if (entry.submitted && diary.invalid) { <p>Something is missing</p> }
  @if (problem) { <p role="alert">{{ problem }}</p> }
</form>
`,
})
export class SprayDiaryComponent {
  @Input() most = 50;
  /** answers whether the entry was kept */
  @Output() written = new EventEmitter<{ row: string; agent: string; grams: number | null; wind: number; remarks: string }>();

  calm = false;
  busy = false;
  problem = '';

  readonly diary = new FormGroup({
    row: new FormControl('', { nonNullable: true, validators: Validators.required, asyncValidators: taken }),
    agent: new FormControl('soap', { nonNullable: true, validators: [Validators.required, Validators.maxLength(12)] }),
    grams: new FormControl<number | null>(null, [Validators.max(50)]),
    wind: new FormControl(2, { nonNullable: true }),
    remarks: new FormControl('', { nonNullable: true }),
  });

  get row(): FormControl<string> {
    return this.diary.controls.row;
  }

  get grams() {
    return this.diary.get('grams') as FormControl<number | null>;
  }

  calmChanged(): void {
    this.calm = !this.calm;
    if (this.calm) this.diary.controls.wind.setValue(0);
  }

  write(): void {
    if (!this.diary.valid) return;
    if (this.diary.value.agent === 'salt') {
      this.problem = 'Salt is no agent';
      this.diary.controls.agent.setErrors({ salt: true });
      return;
    }
    this.problem = '';
    this.written.emit(this.diary.getRawValue());
    this.diary.reset({ agent: this.diary.getRawValue().agent });
  }
}
