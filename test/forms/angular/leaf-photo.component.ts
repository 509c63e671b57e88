import { Component, EventEmitter, Output } from '@angular/core';
import { FormsModule } from '@angular/forms';

@Component({
  selector: 'orchard-leaf-photo',
  standalone: true,
  imports: [FormsModule],
  template: `
    <form (ngSubmit)="send()" #f="ngForm">
      <label>Tree <input name="tree" [(ngModel)]="tree" required /></label>
      <label>Photo <input type="file" accept="image/*" (change)="picked($event)" /></label>
      @if (photo) {
        <p>{{ photo.name }}</p>
      }
      <button [disabled]="f.invalid || !photo">Send</button>
    </form>
  `,
})
export class LeafPhotoComponent {
  tree = '';
  photo: File | null = null;

  @Output() sent = new EventEmitter<{ tree: string; photo: string }>();

  picked(event: Event) {
    const input = event.target as HTMLInputElement;
    this.photo = input.files?.[0] ?? null;
  }

  send() {
    if (!this.photo) return;
    this.sent.emit({ tree: this.tree, photo: this.photo.name });
  }
}
