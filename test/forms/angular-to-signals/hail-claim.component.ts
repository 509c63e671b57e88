import { Component, EventEmitter, OnDestroy, OnInit, Output } from '@angular/core';
import { FormArray, FormBuilder, FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { Subject, takeUntil } from 'rxjs';

interface BlockControls {
  name: FormControl<string>;
  share: FormControl<number | null>;
}

@Component({
  selector: 'orchard-hail-claim',
  standalone: true,
  imports: [ReactiveFormsModule],
  template: `
    <form [formGroup]="claim" (ngSubmit)="send()">
      <input type="date" aria-label="Day" formControlName="day" />
      <select aria-label="Insured" formControlName="insured">
        <option value="no">Not insured</option>
        <option value="yes">Insured</option>
      </select>
      <input aria-label="Policy" formControlName="policy" />
      @if (policy.touched && policy.errors; as wrong) {
        <em>{{ wrong['required'] ? 'Which policy?' : 'It has a dash.' }}</em>
      }
      <div formArrayName="blocks">
        @for (block of blocks.controls; track $index) {
          <p [formGroupName]="$index">
            <input [attr.aria-label]="'Block ' + $index" formControlName="name" />
            <input type="number" [attr.aria-label]="'Share ' + $index" formControlName="share" />
            @if (block.controls.share.hasError('max')) {
              <em>There is no more than all.</em>
            }
          </p>
        }
      </div>
      @if (blocks.hasError('required')) {
        <em>No block, no claim.</em>
      }
      <button type="button" (click)="blocks.push(block())">Block</button>
      <button type="button" (click)="blocks.clear()">None</button>
      <output>{{ hit }} blocks are hit</output>
      <button type="submit">Claim</button>
    </form>
  `,
})
export class HailClaimComponent implements OnInit, OnDestroy {
  @Output() claimed = new EventEmitter<unknown>();
  claim: FormGroup<{
    day: FormControl<string>;
    insured: FormControl<string>;
    policy: FormControl<string>;
    blocks: FormArray<FormGroup<BlockControls>>;
  }>;
  private readonly gone = new Subject<void>();

  constructor(private readonly builder: FormBuilder) {
    this.claim = this.builder.nonNullable.group({
      day: [''],
      insured: ['no'],
      policy: [{ value: '', disabled: true }, [Validators.required, Validators.pattern(/-/)]],
      blocks: this.builder.array([this.block()], Validators.required),
    });
  }

  get policy() {
    return this.claim.controls.policy;
  }

  get blocks() {
    return this.claim.controls.blocks;
  }

  /** Those that lost anything. */
  get hit(): number {
    return this.blocks.controls.filter((one) => (one.controls.share.value ?? 0) > 0).length;
  }

  ngOnInit(): void {
    this.claim.controls.insured.valueChanges.pipe(takeUntil(this.gone)).subscribe((insured) => {
      if (insured === 'yes') {
        this.policy.enable();
      } else {
        this.policy.reset();
        this.policy.disable();
      }
    });
  }

  ngOnDestroy(): void {
    this.gone.next();
    this.gone.complete();
  }

  block(): FormGroup<BlockControls> {
    return this.builder.group({
      name: this.builder.nonNullable.control('', Validators.required),
      share: this.builder.control<number | null>(null, Validators.max(100)),
    });
  }

  send(): void {
    if (this.claim.valid) this.claimed.emit(this.claim.getRawValue());
  }
}
