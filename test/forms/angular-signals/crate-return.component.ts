import { Component, EventEmitter, Input, OnInit, Output } from '@angular/core';
import { CommonModule } from '@angular/common';
import { FormsModule, NgForm } from '@angular/forms';

@Component({
  selector: 'app-crate-return',
  standalone: true,
  imports: [CommonModule, FormsModule],
  template: `
    <form #f="ngForm" (ngSubmit)="giveBack(f)">
      <label>Grower <input name="grower" [(ngModel)]="grower" required #g="ngModel" /></label>
      <em *ngIf="g.invalid && g.touched">Who brings them?</em>
      <label>Crates <input name="crates" type="number" [(ngModel)]="crates" min="1" /></label>
      <label>
        State
        <select name="state" [(ngModel)]="state">
          <option *ngFor="let s of states" [value]="s">{{ s }}</option>
        </select>
      </label>
      <label><input type="checkbox" name="washed" [(ngModel)]="washed" /> washed</label>
      <p *ngIf="washed">Two cents off each.</p>
      <p>{{ crates }} crates, {{ total() }} to pay</p>
      <button type="button" (click)="crates = crates + 10">Ten more</button>
      <button [disabled]="f.invalid">Give back</button>
    </form>
  `,
})
export class CrateReturnComponent implements OnInit {
  @Input() lastGrower = '';
  @Output() returned = new EventEmitter<{ grower: string; crates: number; state: string; washed: boolean }>();

  states = ['whole', 'cracked'];
  // who stood here last comes first
  grower = '';
  crates = 1;
  state = 'whole';
  washed = false;

  ngOnInit() {
    this.grower = this.lastGrower;
  }

  total(): number {
    return this.crates * (this.washed ? 3 : 5);
  }

  giveBack(form: NgForm) {
    if (form.invalid) return;
    this.returned.emit({ grower: this.grower.trim(), crates: this.crates, state: this.state, washed: this.washed });
    this.crates = 1;
    this.washed = false;
    form.form.markAsPristine();
  }
}
