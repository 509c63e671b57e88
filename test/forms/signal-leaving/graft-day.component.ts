import { ChangeDetectionStrategy, Component, computed, signal } from '@angular/core';
import { form, FormField, submit } from '@angular/forms/signals';

import { graftRules, noGrafts } from './parts/grafts';

@Component({
  selector: 'orchard-graft-day',
  imports: [FormField],
  templateUrl: './graft-day.component.html',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class GraftDayComponent {
  // what is grafted on one day
  protected readonly model = signal(noGrafts());
  protected readonly grafts = form(this.model, graftRules);
  protected readonly kept = signal('');

  protected readonly dayMessage = computed(() => {
    const day = this.grafts.day();
    return day.touched() ? day.errors()[0]?.message : undefined;
  });
  protected readonly pieces = computed(() => this.model().scions.reduce((sum, { pieces }) => sum + pieces, 0));

  protected more(): void {
    this.model.update((grafts) => ({ ...grafts, scions: [...grafts.scions, { sort: '', pieces: 1 }] }));
  }

  protected less(at: number): void {
    this.grafts.scions().value.update((scions) => scions.filter((_, index) => index !== at));
  }

  protected async keep(event: Event): Promise<void> {
    event.preventDefault();
    const done = await submit(this.grafts, async (all) => {
      if (all().value().day === '2031-02-29') {
        return { kind: 'day', message: 'There is no such day.', fieldTree: all.day };
      }
      this.kept.set(JSON.stringify(this.model()));
      return undefined;
    });
    if (done) this.grafts().reset(noGrafts());
  }

  protected anew(): void {
    this.grafts().reset(noGrafts());
    this.kept.set('');
  }
}
