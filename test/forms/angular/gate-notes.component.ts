import { Component, EventEmitter, Output } from '@angular/core';
import { FormsModule, NgForm } from '@angular/forms';

/* Two notes at the gate: who comes in, and what goes out. */
@Component({
  selector: 'orchard-gate-notes',
  imports: [FormsModule],
  template: `
    <form #arrival="ngForm" (ngSubmit)="arrive(arrival)">
      <label for="who">Who</label>
      <input id="who" name="who" [(ngModel)]="visitor.who" required />
      <label for="van"><input id="van" type="checkbox" name="van" [(ngModel)]="visitor.van" /> By van</label>
      <button [disabled]="!arrival.dirty || arrival.invalid">In</button>
    </form>
    <form #load="ngForm" (ngSubmit)="leave()">
      <label for="what">What</label>
      <input id="what" name="what" [(ngModel)]="goods.what" #what="ngModel" minlength="3" required />
      @if (what.touched && what.invalid) { <p>Three letters at least</p> }
      <label for="boxes">Boxes</label>
      <input id="boxes" type="number" name="boxes" [(ngModel)]="goods.boxes" />
      <button>Out</button>
    </form>
    <p>{{ visitors }} came in</p>
  `,
})
export class GateNotesComponent {
  @Output() came = new EventEmitter<unknown>();
  @Output() went = new EventEmitter<unknown>();

  visitor = { who: '', van: false };
  goods = { what: '', boxes: 1 };
  visitors = 0;

  arrive(form: NgForm) {
    this.came.emit({ ...this.visitor });
    this.visitors += 1;
    form.resetForm({ who: '', van: false });
  }

  leave() {
    if (this.goods.what.length < 3) return;
    this.went.emit({ ...this.goods, at: 'gate' });
    this.goods = { what: '', boxes: 1 };
  }
}
