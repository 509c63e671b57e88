import { Component, computed, output, signal } from '@angular/core';
import { FormsModule, NgForm } from '@angular/forms';
import { FormToldDirective } from './form-told.directive';

interface Round {
  tree: string;
  kind: string;
  leaves: number | null;
}

@Component({
  selector: 'orchard-pest-round',
  imports: [FormsModule, FormToldDirective],
  templateUrl: './pest-round.component.html',
})
export class PestRoundComponent {
  readonly stored = output<Round>();
  protected readonly today = 'Tuesday';
  protected readonly kinds = ['scab', 'mildew', 'moth'];
  protected readonly round = signal<Round>({ tree: '', kind: 'scab', leaves: null });
  // more than twenty leaves are told to the office
  protected readonly many = computed(() => (this.round().leaves ?? 0) > 20);
  protected readonly verdict = computed(() => (this.many() ? `Many with ${this.round().kind}` : 'Few'));

  protected store(sheet: NgForm): void {
    if (sheet.invalid) {
      sheet.control.markAllAsTouched();
      return;
    }
    this.stored.emit(this.round());
    sheet.resetForm({ tree: '', kind: 'scab', leaves: null });
  }
}
