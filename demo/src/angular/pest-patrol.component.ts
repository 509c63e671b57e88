import { Component, EventEmitter, Output } from '@angular/core';
import { FormsModule, NgForm } from '@angular/forms';

export interface Round {
  walker: string;
  rows: number;
  found: boolean;
  what: string;
}

@Component({
  selector: 'orchard-pest-patrol',
  imports: [FormsModule],
  templateUrl: './pest-patrol.component.html',
})
export class PestPatrolComponent {
  @Output() sent = new EventEmitter<Round>();

  // most rounds find nothing
  round: Round = { walker: '', rows: 10, found: false, what: '' };

  send(form: NgForm): void {
    if (form.invalid) return;
    this.sent.emit({ ...this.round, walker: this.round.walker.trim() });
    form.resetForm({ walker: '', rows: 10, found: false, what: '' });
  }
}
