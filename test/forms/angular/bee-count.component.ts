import { Component, EventEmitter, forwardRef, Output } from '@angular/core';
import { ControlValueAccessor, FormControl, FormGroup, NG_VALUE_ACCESSOR, ReactiveFormsModule, Validators } from '@angular/forms';

@Component({
  selector: 'orchard-stars',
  template: `@for (star of [1, 2, 3]; track star) {
    <button type="button" [attr.aria-pressed]="value >= star" (click)="choose(star)">{{ star }} stars</button>
  }`,
  providers: [{ provide: NG_VALUE_ACCESSOR, useExisting: forwardRef(() => StarsComponent), multi: true }],
})
export class StarsComponent implements ControlValueAccessor {
  value = 0;
  private change: (value: number) => void = () => {};
  private touch: () => void = () => {};
  writeValue(value: number | null) {
    this.value = value ?? 0;
  }
  registerOnChange(change: (value: number) => void) {
    this.change = change;
  }
  registerOnTouched(touch: () => void) {
    this.touch = touch;
  }
  choose(star: number) {
    this.value = star;
    this.change(star);
    this.touch();
  }
}

@Component({
  selector: 'orchard-bee-count',
  imports: [ReactiveFormsModule, StarsComponent],
  template: `
    <div [formGroup]="count" class="count">
      <label>Hive <input formControlName="hive" (keyup.enter)="keep()" /></label>
      <orchard-stars formControlName="mood"></orchard-stars>
      <p>Mood {{ count.value.mood }}</p>
      <label>Frames <input type="number" [formControl]="count.controls.frames" /></label>
      <button type="button" (click)="keep()" [disabled]="count.invalid">Keep</button>
    </div>
  `,
})
export class BeeCountComponent {
  @Output() kept = new EventEmitter<unknown>();
  protected readonly count = new FormGroup({
    hive: new FormControl<string>('', { nonNullable: true, validators: [Validators.required] }),
    mood: new FormControl<number>(0, { nonNullable: true, validators: [Validators.min(1)] }),
    frames: new FormControl<number>(10, { nonNullable: true }),
  });

  keep(): void {
    if (this.count.invalid) return;
    const { hive, mood, frames } = this.count.getRawValue();
    this.kept.emit({ hive: hive.toUpperCase(), mood, frames });
    this.count.reset({ hive: '', mood: 0 });
  }
}
