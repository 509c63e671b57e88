import { Component, input, output } from '@angular/core';
import { FormsModule, NgForm } from '@angular/forms';

export interface Swap {
  mine: string;
  wanted: string;
  rows: number | null;
  from: string;
  shed: boolean;
  key: string;
}

const noSwap: Swap = { mine: '', wanted: '', rows: 1, from: '', shed: false, key: '' };

@Component({
  selector: 'orchard-plot-swap',
  imports: [FormsModule],
  template: `
    <form #f="ngForm" (ngSubmit)="send(f)">
      <p>Up to {{ most() }} rows.</p>
      <input aria-label="Mine" name="mine" [(ngModel)]="swap.mine" #mine="ngModel" required pattern="[A-Z][0-9]+" />
      <span [hidden]="!(mine.invalid && (mine.touched || f.submitted))">
        {{ mine.errors?.['required'] ? 'Which plot is yours?' : 'A letter and a number.' }}
      </span>
      <input aria-label="Wanted" name="wanted" [(ngModel)]="swap.wanted" #wanted="ngModel" required />
      @if (wanted.invalid && f.submitted) { <span>Which plot would you like?</span> }
      <input aria-label="Rows" type="number" name="rows" [(ngModel)]="swap.rows" #rows="ngModel" min="1" />
      @if (rows.hasError('min')) { <span>One row at least.</span> }
      <input aria-label="From" type="date" name="from" [(ngModel)]="swap.from" />
      <label><input type="checkbox" name="shed" [(ngModel)]="swap.shed" /> With the shed</label>
      <input aria-label="Key" name="key" [(ngModel)]="swap.key" [disabled]="!swap.shed" maxlength="8" />
      @if (swap.shed && !swap.key) { <i>The key hangs in the office.</i> }
      <button [disabled]="f.pristine">Offer</button>
      <button type="button" (click)="empty(f)">Empty</button>
    </form>
  `,
})
export class PlotSwapComponent {
  readonly most = input(12);
  readonly offered = output<Swap>();
  swap: Swap = { ...noSwap };

  send(form: NgForm) {
    if (form.invalid || (this.swap.rows ?? 0) > this.most()) {
      return;
    }
    this.offered.emit({ ...this.swap });
    this.empty(form);
  }

  empty(form: NgForm) {
    form.resetForm({ ...noSwap });
  }
}
