import { Component, computed, effect, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';

@Component({
  selector: 'app-spray-alarm',
  imports: [FormsModule],
  template: `
    <form (ngSubmit)="ring()" #alarm="ngForm">
      <input name="row" placeholder="Row" [(ngModel)]="row" required pattern="[A-Z][0-9]+" />
      <input name="hour" type="time" [(ngModel)]="hour" />
      @for (level of levels; track level) {
        <label><input type="radio" name="level" [value]="level" [(ngModel)]="level$" /> {{ level }}</label>
      }
      @if (late()) {
        <p>That is late.</p>
      }
      <button type="submit" [disabled]="!alarm.valid">Ring</button>
      <button type="button" (click)="hour.set('06:00')">Early</button>
    </form>
  `,
})
export class SprayAlarmComponent {
  readonly start = input('B1');
  readonly rung = output<{ row: string; hour: string; level: string }>();

  readonly levels = ['low', 'high'];
  readonly row = signal('');
  readonly hour = signal('06:00');
  readonly level$ = signal('low');
  readonly late = computed(() => this.hour() > '21:00');

  constructor() {
    effect(() => this.row.set(this.start()));
  }

  ring() {
    this.rung.emit({ row: this.row(), hour: this.hour(), level: this.level$() });
    this.row.update((row) => row + '!');
  }
}
