import { Component, output } from '@angular/core';
import { FormsModule, NgForm } from '@angular/forms';

interface Stop {
  id: number;
  block: string;
  litres: number | null;
}

interface Tour {
  driver: string;
  agent: string;
  stops: Stop[];
}

@Component({
  selector: 'orchard-spray-tour',
  imports: [FormsModule],
  template: `
    <form #f="ngForm" (ngSubmit)="finish(f)" novalidate>
      <label for="driver">Driver</label>
      <input id="driver" name="driver" [(ngModel)]="tour.driver" required #driver="ngModel" />
      @if (driver.touched && driver.invalid) {
        <em>Who drives?</em>
      }
      <select name="agent" [(ngModel)]="tour.agent" aria-label="Agent">
        <option value="copper">Copper</option>
        <option value="sulphur">Sulphur</option>
      </select>
      <ol>
        @for (stop of tour.stops; track stop.id) {
          <li>
            <input [name]="'block' + stop.id" [(ngModel)]="stop.block" required [attr.aria-label]="'Block ' + ($index + 1)" />
            <input type="number" [name]="'litres' + stop.id" [(ngModel)]="stop.litres" min="1" [attr.aria-label]="'Litres ' + ($index + 1)" />
            @if (stop.litres === null) {
              <span>How much?</span>
            }
            <button type="button" (click)="skip(stop)">Skip {{ $index + 1 }}</button>
          </li>
        }
      </ol>
      <button type="button" (click)="addStop()">Another stop</button>
      <p>{{ tour.stops.length }} stops, {{ litres() }} l</p>
      <button type="submit">Done</button>
    </form>
  `,
})
export class SprayTourComponent {
  readonly done = output<Tour>();
  private last = 1;
  tour: Tour = { driver: '', agent: 'copper', stops: [{ id: 1, block: '', litres: null }] };

  // what the tank must hold
  litres() {
    return this.tour.stops.reduce((sum, stop) => sum + (stop.litres ?? 0), 0);
  }

  addStop() {
    this.last += 1;
    this.tour.stops.push({ id: this.last, block: '', litres: null });
  }

  skip(stop: Stop) {
    this.tour.stops = this.tour.stops.filter((other) => other !== stop);
  }

  finish(f: NgForm) {
    if (f.invalid) {
      f.form.markAllAsTouched();
      return;
    }
    this.done.emit({ ...this.tour, stops: this.tour.stops.map((stop) => ({ ...stop })) });
  }
}
