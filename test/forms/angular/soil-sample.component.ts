import { Component, OnDestroy, OnInit } from '@angular/core';
import { AbstractControl, FormBuilder, FormGroup, Validators, ReactiveFormsModule } from '@angular/forms';
import { CommonModule } from '@angular/common';
import { Subject, takeUntil, debounceTime, distinctUntilChanged } from 'rxjs';
import { SoilService } from './parts/soil.service';

export function noFuture(control: AbstractControl) {
  return control.value && control.value > '2026-12-31' ? { future: true } : null;
}

@Component({
  selector: 'orchard-soil-sample',
  standalone: true,
  imports: [CommonModule, ReactiveFormsModule],
  templateUrl: './soil-sample.component.html',
})
export class SoilSampleComponent implements OnInit, OnDestroy {
  sampleForm!: FormGroup;
  labs: string[] = ['Nord', 'Tal'];
  depths = [10, 30, 60];
  suggestions: string[] = [];
  isSaving = false;
  errorMessage = '';
  private destroy$ = new Subject<void>();

  constructor(private fb: FormBuilder, private soil: SoilService) {}

  ngOnInit(): void {
    this.sampleForm = this.fb.group({
      plot: ['', [Validators.required, Validators.minLength(2)]],
      taken: ['', [Validators.required, noFuture]],
      depth: [30, Validators.required],
      lab: ['Nord'],
      express: [false],
      ph: [null as number | null, [Validators.min(0), Validators.max(14)]],
      comment: [''],
    });

    this.sampleForm.get('plot')!.valueChanges
      .pipe(debounceTime(200), distinctUntilChanged(), takeUntil(this.destroy$))
      .subscribe((text: string | null) => {
        this.suggestions = text ? this.soil.plotsLike(text) : [];
      });
  }

  ngOnDestroy(): void {
    this.destroy$.next();
    this.destroy$.complete();
  }

  get plot() { return this.sampleForm.get('plot'); }
  get taken() { return this.sampleForm.get('taken'); }

  take(name: string) {
    this.sampleForm.patchValue({ plot: name });
    this.suggestions = [];
  }

  isInvalid(name: string): boolean {
    const control = this.sampleForm.get(name);
    return !!control && control.invalid && (control.dirty || control.touched);
  }

  onSubmit(): void {
    if (this.sampleForm.invalid) {
      this.sampleForm.markAllAsTouched();
      return;
    }
    this.isSaving = true;
    this.errorMessage = '';
    this.soil.save(this.sampleForm.value).subscribe({
      next: () => {
        this.isSaving = false;
        this.sampleForm.reset({ depth: 30, lab: 'Nord', express: false });
      },
      error: (err: Error) => {
        this.isSaving = false;
        this.errorMessage = err.message;
      },
    });
  }
}
