import { Component, EventEmitter, Output, inject } from '@angular/core';
import { FormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';

@Component({
  selector: 'orchard-picking-teams',
  standalone: true,
  imports: [ReactiveFormsModule],
  template: `
    <form [formGroup]="form" (ngSubmit)="submit()">
      <input aria-label="Block" formControlName="block">
      <div formArrayName="teams">
        @for (team of teams.controls; track team; let i = $index) {
          <div [formGroupName]="i" class="team">
            <input aria-label="Leader" formControlName="leader">
            @if (team.controls.leader.touched && team.controls.leader.hasError('required')) {
              <em>Who leads?</em>
            }
            <input type="number" aria-label="Pickers" formControlName="pickers">
            <button type="button" (click)="teams.removeAt(i)">x</button>
          </div>
        }
      </div>
      <button type="button" (click)="addTeam()">Add a team</button>
      <p>{{ teams.length }} teams, first led by {{ form.value.teams?.[0]?.leader }}</p>
      <button type="submit" [disabled]="!form.valid">Book</button>
    </form>
  `,
})
export class PickingTeamsComponent {
  private readonly fb = inject(FormBuilder).nonNullable;

  readonly form = this.fb.group({
    block: ['', Validators.required],
    teams: this.fb.array([this.team()]),
  });

  @Output() booked = new EventEmitter<unknown>();

  get teams() {
    return this.form.controls.teams;
  }

  private team() {
    return this.fb.group({
      leader: ['', Validators.required], // by name
      pickers: [2, [Validators.min(1), Validators.max(12)]],
    });
  }

  addTeam() {
    this.teams.push(this.team());
  }

  submit() {
    if (this.form.invalid) return;
    const { block, teams } = this.form.getRawValue();
    this.booked.emit({ block, teams, pickers: teams.reduce((sum, team) => sum + team.pickers, 0) });
  }
}
