import { Directive, inject } from '@angular/core';
import { outputFromObservable } from '@angular/core/rxjs-interop';
import { NgForm } from '@angular/forms';
import { debounceTime } from 'rxjs';

/** Tells what a form holds. */
@Directive({ selector: 'form[formTold]' })
export class FormToldDirective {
  readonly formTold = outputFromObservable(inject(NgForm).form.valueChanges.pipe(debounceTime(0)));
}
