import { Component, OnInit } from '@angular/core';
import { FormBuilder, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';

@Component({
  selector: 'orchard-seed-note',
  imports: [ReactiveFormsModule],
  template: `<form [formGroup]="seedForm" (ngSubmit)="onSubmit()">
    <input aria-label="Sort" formControlName="sort" maxlength="12" />
    @if (submitted && f['sort'].errors) {
      <span>{{ f['sort'].errors['required'] ? 'Name the sort' : 'Letters only' }}</span>
    }
    <textarea aria-label="Note" formControlName="note"></textarea>
    <small>{{ 40 - (f['note'].value?.length || 0) }} left</small>
    @if (submitted && f['note'].invalid) { <span>Shorter, please</span> }
    <input aria-label="Grams" type="number" formControlName="grams" />
    <button>Write down</button>
  </form>
  <p>{{ last }}</p>`,
})
export class SeedNoteComponent implements OnInit {
  seedForm!: FormGroup;
  submitted = false;
  last = '';

  constructor(private fb: FormBuilder) {}

  ngOnInit() {
    this.seedForm = this.fb.group({
      sort: ['', [Validators.required, Validators.pattern(/^[a-z ]+$/i)]],
      note: ['', Validators.maxLength(40)],
      grams: [null, Validators.min(1)],
    });
  }

  // for the template
  get f() { return this.seedForm.controls; }

  onSubmit() {
    this.submitted = true;
    if (this.seedForm.invalid) {
      return;
    }
    const value = this.seedForm.value;
    this.last = value.sort + ': ' + value.note + ' ' + (value.grams || 0);
    this.submitted = false;
    this.seedForm.reset({ sort: '', note: '' });
  }
}
