import { Component, signal } from '@angular/core';
import { AbstractControl, FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';

/** From has to lie before until. */
function inOrder(group: AbstractControl) {
  const from = group.get('from')?.value;
  const until = group.get('until')?.value;
  return from && until && from >= until ? { order: true } : null;
}

@Component({
  selector: 'orchard-watch-night',
  standalone: true,
  imports: [ReactiveFormsModule],
  template: `<section>
    <button type="button" (click)="mapShown.set(!mapShown())">Map</button>
    @if (mapShown()) { <p>The ponds lie in the north.</p> }
    <form [formGroup]="night" (ngSubmit)="keep()" novalidate>
      <div formGroupName="keeper">
        <label>Name <input formControlName="name" /></label>
        @if (isWrong(night.get('keeper.name'))) { <em>{{ say(night.get('keeper.name')) }}</em> }
        <label>Phone <input formControlName="phone" type="tel" /></label>
        @if (isWrong(night.get(['keeper', 'phone']))) { <em>{{ say(night.get(['keeper', 'phone'])) }}</em> }
      </div>
      <label>From <input type="time" formControlName="from" /></label>
      <label>Until <input type="time" formControlName="until" /></label>
      @if (night.hasError('order') && night.touched) { <em>It ends before it begins.</em> }
      <label>Post
        <select formControlName="post">
          @for (post of posts; track post) { <option [value]="post">{{ post }}</option> }
        </select>
      </label>
      <button type="submit">Keep</button>
    </form>
    <output>{{ told() }}</output>
  </section>`,
})
export class WatchNightComponent {
  protected readonly posts = ['pond', 'gate', 'hill'];
  protected readonly mapShown = signal(false);
  protected readonly told = signal('');
  private tried = false;

  protected readonly night = new FormGroup(
    {
      keeper: new FormGroup({
        name: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.minLength(2)] }),
        phone: new FormControl('', { nonNullable: true, validators: Validators.pattern('[0-9 ]{4,}') }),
      }),
      from: new FormControl('21:00', { nonNullable: true }),
      until: new FormControl('', { nonNullable: true, validators: [Validators.required] }),
      post: new FormControl('pond', { nonNullable: true }),
    },
    { validators: inOrder },
  );

  protected isWrong(control: AbstractControl | null): boolean {
    return !!control && control.invalid && (control.touched || this.tried);
  }

  protected say(control: AbstractControl | null): string {
    if (!control?.errors) return '';
    if (control.errors['required']) return 'Who is it?';
    return control.hasError('minlength')
      ? `At least ${control.getError('minlength').requiredLength} letters.`
      : 'Figures and blanks.';
  }

  protected keep(): void {
    this.tried = true;
    if (!this.night.valid) {
      this.night.markAllAsTouched();
      return;
    }
    const { keeper, post } = this.night.getRawValue();
    this.told.set(`${keeper.name} keeps the ${post}`);
    this.tried = false;
    this.night.reset();
  }
}
