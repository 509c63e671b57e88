import { Component } from '@angular/core';

@Component({ selector: 'orchard-crate-loan', templateUrl: './crate-loan.component.html' })
export class CrateLoanComponent {
  told = '';

  lend(event: SubmitEvent): void {
    event.preventDefault();
    this.told = 'Noted.';
  }
}
