import { Component, EventEmitter, Input, Output } from '@angular/core';
import { CommonModule } from '@angular/common';
import { FormsModule, NgForm } from '@angular/forms';
import { Booking, seasons } from './parts/booking';

@Component({
  selector: 'orchard-plot-booking',
  standalone: true,
  imports: [
    CommonModule,
    FormsModule,
  ],
  templateUrl: './plot-booking.component.html',
})
export class PlotBookingComponent {
  @Input() crops: string[] = ['leeks', 'beans'];
  @Output() booked = new EventEmitter<Booking>();

  readonly seasons = seasons;
  booking: Booking = {
    plot: '',
    keeper: '',
    // most people come in spring
    season: 'spring',
    crop: 'beans',
    water: '',
  };
  hint = '';

  cropChosen(crop: string): void {
    this.hint = crop === 'beans' ? 'Beans need poles' : '';
  }

  onSubmit(form: NgForm): void {
    if (form.valid) {
      this.booked.emit({ ...this.booking, keeper: this.booking.keeper.trim() });
      this.hint = '';
      form.resetForm({ plot: '', keeper: '', season: 'spring', crop: 'beans', water: '' });
    }
  }

  startOver(form: NgForm): void {
    form.resetForm({ ...this.booking, plot: '', keeper: '' });
  }
}
