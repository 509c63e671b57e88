import { Component, computed, signal } from '@angular/core';
import { FormField, SchemaFn, disabled, form, max, min, minLength, required, submit, validate } from '@angular/forms/signals';

export interface Spray {
  product: string;
  litres: number;
  wind: number;
  certified: boolean;
  certificate: string;
}

const DEFAULTS: Readonly<Spray> = { product: '', litres: 10, wind: 0, certified: false, certificate: '' };

const sprayRules: SchemaFn<Spray> = (spray) => {
  required(spray.product, { message: () => 'Say what you spray.' });
  minLength(spray.product, 3, { message: 'At least three letters.' });
  min(spray.litres, 1, { error: { kind: 'litres', message: 'From one litre on.' } });
  max(spray.litres, ({ valueOf }) => (valueOf(spray.wind) > 3 ? 20 : 200), { message: 'Too much in this wind.' });
  disabled(spray.certificate, ({ valueOf }) => !valueOf(spray.certified));
  required(spray.certificate, { message: 'Its number, please.' });
  validate(spray.certificate, checkNumber);
};

function checkNumber({ value }: { value: () => string }) {
  return value() !== '' && !/^C-\d+$/.test(value()) ? { kind: 'number', message: 'It looks like C-12.' } : undefined;
}

@Component({
  selector: 'spray-log',
  imports: [FormField],
  template: `
    <form novalidate (submit)="$event.preventDefault(); log()">
      <p><label for="product">Product</label><input id="product" [formField]="f.product" /> @for (e of visible(); track e.kind) {<span>{{ e.message }}</span>}</p>
      <p><label for="litres">Litres</label><input id="litres" type="number" [formField]="f.litres" />@for (e of f.litres().errors(); track e.kind) {<span>{{ e.message }}</span>}</p>
      <p><label for="wind">Wind</label><input id="wind" type="number" [formField]="f.wind" /></p>
      <p><label><input type="checkbox" [formField]="f.certified" /> Certified</label></p>
      <p><label for="certificate">Certificate</label><input id="certificate" [formField]="f.certificate" />
        @if (f.certificate().touched()) { @for (e of f.certificate().errors(); track $index) {<span>{{ e.message }}</span>} }</p>
      <button type="submit" [disabled]="!f().valid()">Log</button>
      <p>{{ count() }} logged, {{ f().dirty() ? 'changed' : 'as it was' }}</p>
    </form>
  `,
})
export class SprayLog {
  private readonly spray = signal<Spray>({ ...DEFAULTS });
  readonly f = form(this.spray, sprayRules);
  readonly count = signal(0);
  readonly visible = computed(() => (this.f.product().dirty() ? this.f.product().errors() : []));

  async log(): Promise<void> {
    const ok = await submit(this.f, { action: async () => { this.count.update((n) => n + 1); } });
    if (ok) this.f().reset({ ...DEFAULTS });
  }
}
