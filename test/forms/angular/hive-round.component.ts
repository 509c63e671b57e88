import { Component, EventEmitter, Output } from '@angular/core';
import { FormsModule, NgForm } from '@angular/forms';

interface HiveEntry {
  hive: string;
  frames: number;
  calm: boolean;
}

interface HiveRound {
  keeper: string;
  entries: HiveEntry[];
}

@Component({
  selector: 'orchard-hive-round',
  standalone: true,
  imports: [FormsModule],
  template: `
    <form #roundForm="ngForm" (ngSubmit)="send(roundForm)">
      <label for="keeper">Keeper</label>
      <input id="keeper" name="keeper" [(ngModel)]="round.keeper" required />
      <!-- one block a hive -->
      @for (entry of round.entries; track entry; let i = $index) {
        <fieldset>
          <legend>Hive {{ i + 1 }} of {{ round.entries.length }}</legend>
          <input
            aria-label="Hive"
            [attr.data-row]="i"
            name="hive{{ i }}"
            [(ngModel)]="entry.hive"
            #hive="ngModel"
            required
            minlength="2"
          />
          @if (hive.invalid && hive.touched) {
            <small class="problem">Name the hive</small>
          }
          <input type="number" aria-label="Frames" name="frames{{ i }}" [(ngModel)]="entry.frames" min="1" max="20" />
          <label><input type="checkbox" name="calm{{ i }}" [(ngModel)]="entry.calm" /> calm</label>
          <button type="button" (click)="drop(i)" [disabled]="round.entries.length === 1">Remove</button>
        </fieldset>
      } @empty {
        <p>No hive yet</p>
      }
      <button type="button" (click)="add()">Another hive</button>
      <p>Frames in all: {{ total }}</p>
      <button type="submit" [disabled]="roundForm.invalid">Send</button>
    </form>
  `,
})
export class HiveRoundComponent {
  round: HiveRound = {
    keeper: '',
    entries: [{ hive: 'North', frames: 8, calm: true }], // the usual one
  };

  @Output() readonly sent = new EventEmitter<HiveRound>();

  get total(): number {
    return this.round.entries.reduce((sum, { frames }) => sum + frames, 0);
  }

  add(): void {
    // calm until it is seen otherwise
    this.round.entries.push({ hive: '', frames: 1, calm: true });
  }

  drop(index: number): void {
    this.round.entries.splice(index, 1);
  }

  send(form: NgForm): void {
    if (form.invalid) return;
    this.sent.emit(this.round);
  }
}
