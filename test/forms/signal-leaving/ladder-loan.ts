import { Component, inject, Injectable, signal } from '@angular/core';
import { form, FormField, required, submit } from '@angular/forms/signals';

@Injectable({ providedIn: 'root' })
export class LadderDesk {
  async lend(ladder: { size: string; days: number }): Promise<{ ok: boolean; taken?: boolean }> {
    return { ok: ladder.size !== 'xl', taken: ladder.days > 3 };
  }
}

@Component({
  selector: 'ladder-loan',
  imports: [FormField],
  template: `
    <form novalidate (submit)="lend($event)">
      <label for="size">Size</label>
      <select id="size" [formField]="ladder.size">
        <option value="">Choose</option>
        @for (size of sizes; track size) { <option [value]="size">{{ size }}</option> }
      </select>
      @if (sizeWrong()) { <p role="alert">{{ sizeError() }}</p> }
      <label for="days">Days</label>
      <input id="days" type="number" [formField]="ladder.days">
      @for (e of ladder.days().errors(); track e.kind) { <p role="alert">{{ e.message }}</p> }
      @for (e of ladder().errors(); track e.kind) { <p class="whole">{{ e.message }}</p> }
      <button type="submit" [disabled]="ladder().submitting()">Lend</button>
    </form>
  `,
})
export class LadderLoan {
  private desk = inject(LadderDesk);
  sizes = ['s', 'm', 'xl'];
  private model = signal({ size: '', days: 1 });
  ladder = form(this.model, (l) => {
    required(l.size, { message: 'Choose a size' });
  });

  sizeWrong(): boolean {
    const { touched, invalid } = this.ladder.size();
    return touched() && invalid();
  }

  sizeError() {
    return this.ladder.size().errors().map((e) => e.message).join(', ');
  }

  lend(event: Event) {
    event.preventDefault();
    submit(this.ladder, async () => {
      const answer = await this.desk.lend(this.model());
      if (answer.ok && !answer.taken) {
        this.ladder().reset({ size: '', days: 1 });
        return;
      }
      if (answer.taken) return [{ kind: 'taken', message: 'Not that long.', fieldTree: this.ladder.days }];
      return { kind: 'none', message: 'No such ladder.' };
    });
  }
}
