import { Component, EventEmitter, Output } from '@angular/core';
import { FormsModule } from '@angular/forms';

@Component({
  selector: 'orchard-cutting-note',
  standalone: true,
  imports: [FormsModule],
  template: `
    <form (ngSubmit)="keep()" #note="ngForm">
      <label>Variety <input name="variety" [(ngModel)]="variety" required #varietyBox="ngModel" /></label>
      <label>Sticks <input type="number" name="sticks" [(ngModel)]="sticks" min="1" max="20" /></label>
      <label><input type="checkbox" name="waxed" [(ngModel)]="waxed" /> Waxed ends</label>
      <p>{{ variety || 'Nothing yet' }}, {{ sticks }} sticks{{ waxed ? ', waxed' : '' }}</p>
      <button type="button" (click)="sticks = sticks + 1">One more</button>
      <button [disabled]="note.invalid">Keep the note</button>
    </form>
  `,
})
export class CuttingNoteComponent {
  @Output() kept = new EventEmitter<{ variety: string; sticks: number; waxed: boolean }>();

  variety = '';
  sticks = 3; // a bundle
  waxed = false;
  times = 0;

  keep() {
    this.kept.emit({ variety: this.variety.trim(), sticks: this.sticks, waxed: this.waxed });
    this.times++;
    this.variety = '';
    this.sticks = 3;
  }
}
