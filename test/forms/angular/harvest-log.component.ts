import { Component, EventEmitter, Input, Output } from '@angular/core';
import { NgFor, NgIf } from '@angular/common';
import { FormsModule, NgForm } from '@angular/forms';

interface Grade {
  name: string;
  price: number;
}

const grades: Grade[] = [
  { name: 'Table', price: 3 },
  { name: 'Juice', price: 1 },
];

interface Log {
  variety: string;
  kilos: number | null;
  grade: Grade;
  pickers: string[];
  weather: 'dry' | 'wet';
  day: string;
  cold: boolean;
  cell: string;
  mail: string;
  notes: string;
}

@Component({
  selector: 'orchard-harvest-log',
  standalone: true,
  imports: [NgIf, NgFor, FormsModule],
  templateUrl: './harvest-log.component.html',
})
export class HarvestLogComponent {
  @Input() pickers = ['Ada', 'Bo', 'Cy'];
  @Output() entered = new EventEmitter<Log>();

  readonly grades = grades;
  log: Log = this.blank();
  busy = false;
  answer = '';

  // counted at every look at the page
  get filled(): number {
    return [this.log.variety, this.log.kilos, this.log.day].filter(Boolean).length;
  }

  blank(): Log {
    return {
      variety: '',
      kilos: null,
      grade: grades[0],
      pickers: [],
      weather: 'dry',
      day: '',
      cold: false,
      cell: '',
      mail: '',
      notes: '',
    };
  }

  submit(form: NgForm): void {
    if (form.invalid) {
      this.answer = 'Please look at the marked answers';
      return;
    }
    this.busy = true;
    this.answer = '';
    setTimeout(() => {
      this.entered.emit({ ...this.log });
      this.busy = false;
      this.answer = `Entered ${this.log.kilos} kilos of ${this.log.variety}`;
      form.resetForm(this.blank());
    }, 400);
  }
}
