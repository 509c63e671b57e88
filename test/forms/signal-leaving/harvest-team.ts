import { Component, signal } from '@angular/core';
import { form, FormField, required, submit } from '@angular/forms/signals';
import { JsonPipe } from '@angular/common';

type Team = { leader: string; place: { field: string; row: string }; lunch: boolean };

@Component({
  selector: 'harvest-team',
  imports: [FormField, JsonPipe],
  template: `
  <form #el (submit)="save(); $event.preventDefault()" novalidate>
    <fieldset>
      <input [formField]="team.leader" placeholder="Leader" [attr.aria-invalid]="team.leader().invalid()">
      <input [formField]="team.place.field" placeholder="Field">
      <input [formField]="team.place.row" placeholder="Row">
      @if (team.place().touched() && team.place.row().errors().some(isRow)) { <small>Row?</small> }
    </fieldset>
    <label><input type="checkbox" [formField]="team.lunch"> Lunch</label>
    @if (!team.leader().valid() && team.leader().touched()) { <small>Leader?</small> }
    <button>Save</button><button type="button" (click)="swap()">Swap</button>
  </form>
  <pre>{{ team().value() | json }}</pre><pre>{{ team.place().value() | json }}</pre>`,
})
export class HarvestTeam {
  data = signal<Team>({ leader: '', place: { field: 'A', row: '' }, lunch: true });
  team = form(this.data, (t) => {
    required(t.leader);
    required(t.place.row);
  });
  isRow = (e: { kind: string }) => e.kind === 'required';
  swap() {
    this.data.update((d) => ({ ...d, leader: d.place.field, lunch: !d.lunch }));
  }
  save() {
    submit(this.team, async (t) => {
      const { leader, place } = t().value();
      return leader === place.row ? [{ kind: 'same', message: 'No', fieldTree: t.place.row }] : [];
    });
  }
}
