import { Component, EventEmitter, Output } from '@angular/core';
import { FormControl, FormGroup, FormGroupDirective, ReactiveFormsModule, Validators } from '@angular/forms';

@Component({
  selector: 'orchard-season-report',
  imports: [ReactiveFormsModule],
  templateUrl: './season-report.component.html',
})
export class SeasonReportComponent {
  @Output() readonly handed = new EventEmitter<object>();

  readonly grants = [
    { id: 'none', title: 'No grant' },
    { id: 'hedge', title: 'Hedges' },
  ];
  handedIn = 0;

  readonly report = new FormGroup({
    place: new FormGroup({
      // as on the map
      orchard: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.maxLength(20)] }),
      hectares: new FormControl(1, { nonNullable: true, validators: Validators.min(0) }),
    }),
    yield: new FormGroup({
      apples: new FormControl(0, { nonNullable: true }),
      pears: new FormControl(0, { nonNullable: true }),
      plums: new FormControl(0, { nonNullable: true }), // few this year
    }),
    income: new FormControl(0, { nonNullable: true }),
    costs: new FormControl(0, { nonNullable: true }),
    grant: new FormControl('none', { nonNullable: true }),
    checked: new FormControl(false, { nonNullable: true, validators: Validators.requiredTrue }),
    author: new FormControl('the treasurer', { nonNullable: true }),
    mail: new FormControl('', { nonNullable: true, validators: [Validators.email] }),
  });

  protected get orchard(): FormControl<string> {
    return this.report.controls.place.controls.orchard;
  }

  get total(): number {
    const { apples, pears, plums } = this.report.controls.yield.getRawValue();
    return apples + pears + plums;
  }

  onSubmit(frame: FormGroupDirective): void {
    if (this.report.invalid) return;
    this.handed.emit(this.report.getRawValue());
    this.handedIn++;
    frame.resetForm();
  }

  clear(frame: FormGroupDirective): void {
    frame.resetForm({ author: this.report.controls.author.value });
  }
}
