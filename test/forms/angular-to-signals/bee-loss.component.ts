import { Component, EventEmitter, Input, OnChanges, Output } from '@angular/core';
import { NgForm, FormsModule } from '@angular/forms';
import { NgIf } from '@angular/common';

export class BeeLoss {
  constructor(
    public yard = '',
    public lost: number | null = null,
    public cause = 'unknown',
    public reported = false,
  ) {}
}

@Component({
  selector: 'orchard-bee-loss',
  standalone: true,
  imports: [FormsModule, NgIf],
  template: `
    <form #lossForm="ngForm" (ngSubmit)="save(lossForm)">
      <p>
        <label>Yard <input name="yard" [(ngModel)]="loss.yard" required minlength="2" #yard="ngModel"></label>
        <span *ngIf="yard.errors?.['required'] && (yard.touched || lossForm.submitted)">Which yard?</span>
        <span *ngIf="yard.errors?.['minlength']">Longer, please.</span>
      </p>
      <p>
        <label>Lost <input type="number" name="lost" [(ngModel)]="loss.lost" required min="0" max="60" #lost="ngModel"></label>
        <span *ngIf="lost.invalid && lost.dirty">0 to 60.</span>
      </p>
      <p>
        <label><input type="radio" name="cause" value="mites" [(ngModel)]="loss.cause"> Mites</label>
        <label><input type="radio" name="cause" value="hunger" [(ngModel)]="loss.cause"> Hunger</label>
        <label><input type="radio" name="cause" value="unknown" [(ngModel)]="loss.cause"> Unknown</label>
      </p>
      <p *ngIf="loss.cause === 'mites'"><label><input type="checkbox" name="reported" [(ngModel)]="loss.reported"> Reported</label></p>
      <button type="submit" [disabled]="!lossForm.valid || busy">Save</button>
      <button type="button" (click)="undo(lossForm)">Undo</button>
    </form>
  `,
})
export class BeeLossComponent implements OnChanges {
  @Input() known?: BeeLoss;
  @Output() saved = new EventEmitter<BeeLoss>();
  loss = new BeeLoss();
  busy = false;

  ngOnChanges(): void {
    if (this.known) this.loss = new BeeLoss(this.known.yard, this.known.lost, this.known.cause, this.known.reported);
  }

  save(form: NgForm) {
    if (form.invalid) return;
    this.saved.emit(this.loss);
    form.resetForm();
    this.loss = new BeeLoss();
  }

  undo(form: NgForm) {
    form.resetForm({ yard: '', lost: null, cause: 'unknown', reported: false });
  }
}
