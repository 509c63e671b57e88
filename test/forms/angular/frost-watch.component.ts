import { Component, inject, Injectable, output, ViewChild } from "@angular/core";
import { FormsModule, NgForm } from "@angular/forms";

@Injectable({ providedIn: "root" })
export class FrostStation {
  last(): { plot: string; degrees: number } {
    return { plot: "north slope", degrees: -2 };
  }
}

/** Who sits up tonight, and from when on. */
@Component({
  selector: "orchard-frost-watch",
  imports: [FormsModule],
  template: `
    <h3>Frost watch</h3>
    @if (warning) {
      <p role="alert">{{ warning }}</p>
    }
    <form name="watch" #watchForm="ngForm" (ngSubmit)="save()">
      <label for="watcher">Watcher</label>
      <input id="watcher" name="watcher" [(ngModel)]="watch.watcher" required #watcher="ngModel" [attr.aria-invalid]="watcher.touched && watcher.invalid" />
      @if (watcher.touched && watcher.errors?.['required']) {
        <p class="message">Somebody has to watch</p>
      }
      <div ngModelGroup="place" #place="ngModelGroup">
        <label for="plot">Plot</label>
        <input id="plot" name="plot" [(ngModel)]="watch.place.plot" required />
        <label for="degrees">Alarm at</label>
        <input id="degrees" type="number" name="degrees" [(ngModel)]="watch.place.degrees" (ngModelChange)="look()" />
        @if (place.invalid && place.touched) {
          <p>Where is it?</p>
        }
      </div>
      <label for="from">From</label>
      <input id="from" type="time" name="from" [(ngModel)]="watch.from" [ngModelOptions]="{ updateOn: 'blur' }" />
      <p>Starts at {{ watch.from }}</p>
      <button type="submit" [disabled]="!watchForm.form.valid">Watch</button>
      <button type="button" (click)="asLast()">As last night</button>
    </form>
  `,
})
export class FrostWatchComponent {
  private readonly station = inject(FrostStation);
  readonly saved = output<unknown>();

  @ViewChild("watchForm") watchForm!: NgForm;

  watch = { watcher: "", place: { plot: "", degrees: -1 }, from: "22:00" };
  warning = "";

  look() {
    this.warning = this.watch.place.degrees < -5 ? "Bring wood" : "";
  }

  asLast() {
    const last = this.station.last();
    this.watch.place.plot = last.plot;
    this.watch.place.degrees = last.degrees;
  }

  save() {
    if (this.watchForm.invalid) return;
    this.saved.emit(this.watchForm.value);
    this.watchForm.resetForm({ watcher: "", place: { plot: "", degrees: -1 }, from: "22:00" });
  }
}
