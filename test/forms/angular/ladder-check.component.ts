import { Component, output } from '@angular/core'
import { FormControl, FormGroup, Validators, ReactiveFormsModule } from '@angular/forms'

@Component({
  selector: 'orchard-ladder-check',
  imports: [ReactiveFormsModule],
  template: `
    <form [formGroup]="form" (ngSubmit)="check()">
      <input aria-label="Ladder" formControlName="ladder" placeholder="L12">
      @if (isWrong('ladder')) { <p>Ladders are marked like L12</p> }
      <input aria-label="Rungs" type="number" formControlName="rungs">
      @if (isWrong('rungs')) { <p>Count the rungs</p> }
      <select aria-label="State" formControlName="state">
        <option value="good">Good</option>
        <option value="broken">Broken</option>
      </select>
      @if (form.value.state === 'broken') {
        <p>It goes to the shed: {{ shed }}</p>
      }
      <button>Checked</button>
    </form>
    @if (tried && form.invalid) { <p>Not yet</p> }
  `,
})
export class LadderCheckComponent {
  readonly checked = output<unknown>()
  tried = false
  shed = 'none'
  form = new FormGroup({
    ladder: new FormControl('', [Validators.required, Validators.pattern('L[0-9]{1,3}')]),
    rungs: new FormControl<number | null>(null, { validators: [Validators.required, Validators.min(3)], updateOn: 'blur' }),
    state: new FormControl('good', { nonNullable: true }),
  })

  constructor() {
    this.form.controls.state.valueChanges.subscribe(state => {
      this.shed = state === 'broken' ? 'north shed' : 'none'
    })
  }

  isWrong(name: string) {
    const control = this.form.get(name)
    return !!control && control.invalid && control.touched
  }

  check() {
    this.tried = true
    if (this.form.invalid) {
      this.form.markAllAsTouched()
      return
    }
    this.checked.emit(this.form.value)
  }
}
