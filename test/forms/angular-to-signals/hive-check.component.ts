import { ChangeDetectionStrategy, Component, EventEmitter, Output } from '@angular/core';
import { FormArray, FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';

interface HiveControls {
  number: FormControl<string>;
  frames: FormControl<number | null>;
}

const hive = (): FormGroup<HiveControls> =>
  new FormGroup<HiveControls>({
    number: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.pattern(/^H\d{2}$/)] }),
    frames: new FormControl<number | null>(null, [Validators.required, Validators.max(12)]),
  });

@Component({
  selector: 'orchard-hive-check',
  standalone: true,
  imports: [ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form [formGroup]="check" (ngSubmit)="save()">
      <input aria-label="Keeper" formControlName="keeper" />
      <fieldset formGroupName="stand">
        <input aria-label="Stand" formControlName="name" />
        <div formArrayName="hives">
          @for (one of hives.controls; track one; let at = $index) {
            <section [formGroup]="one">
              <input formControlName="number" [attr.aria-label]="'Hive ' + at" [class.wrong]="one.controls.number.invalid && one.controls.number.dirty" />
              @if (one.controls.number.dirty && one.controls.number.errors; as wrong) {
                <b>{{ wrong['required'] ? 'Its number?' : 'H and two figures.' }}</b>
              }
              <input type="number" formControlName="frames" [attr.aria-label]="'Frames ' + at" />
              @if (one.get('frames')?.hasError('max')) {
                <b>A hive has twelve.</b>
              }
              <button type="button" (click)="drop(one)">Gone</button>
            </section>
          } @empty {
            <i>No hive yet</i>
          }
        </div>
      </fieldset>
      <button type="button" (click)="add()">Hive</button>
      <button type="submit">Save</button>
      <button type="button" (click)="again()">Again</button>
    </form>
  `,
})
export class HiveCheckComponent {
  @Output() readonly saved = new EventEmitter<{ keeper: string; stand: { name: string; hives: { number: string; frames: number | null }[] } }>();

  readonly check = new FormGroup({
    keeper: new FormControl('', { nonNullable: true }),
    stand: new FormGroup({
      name: new FormControl('North', { nonNullable: true, validators: Validators.required }),
      hives: new FormArray<FormGroup<HiveControls>>([hive()]),
    }),
  });

  get hives(): FormArray<FormGroup<HiveControls>> {
    return this.check.controls.stand.controls.hives;
  }

  add(): void {
    this.hives.push(hive());
  }

  drop(one: FormGroup<HiveControls>): void {
    this.hives.removeAt(this.hives.controls.indexOf(one));
  }

  save(): void {
    if (this.check.invalid) {
      this.check.markAllAsTouched();
      return;
    }
    this.saved.emit(this.check.getRawValue());
  }

  again(): void {
    this.check.reset();
  }
}
