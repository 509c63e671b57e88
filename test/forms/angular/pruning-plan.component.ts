import { Component, EventEmitter, Output } from '@angular/core';
import { FormBuilder, FormGroup, Validators } from '@angular/forms';

// both dates or none
const inOrder = (group: FormGroup | any) => {
    const from = group.get('from').value;
    const until = group.get('until').value;
    return from && until && until < from ? { order: true } : null;
};

@Component({
    selector: 'orchard-pruning-plan',
    templateUrl: './pruning-plan.component.html',
    styleUrls: [],
    standalone: false,
})
export class PruningPlanComponent {
    @Output() planned = new EventEmitter<any>();
    plan: FormGroup;
    saved = false;

    constructor(private readonly formBuilder: FormBuilder) {
        this.plan = this.formBuilder.group({
            tree: ['', [Validators.required, Validators.minLength(3)]],
            height: [null, [Validators.min(1), Validators.max(12)]],
            cut: ['', Validators.required],
            from: [''],
            until: [''],
            pin: ['', Validators.required],
            again: [''],
            burn: [true],
            helper: [{ value: 'nobody', disabled: true }],
            mail: ['', Validators.email],
            notes: ['', Validators.maxLength(100)],
        }, { validators: [inOrder, PruningPlanComponent.samePins] });
    }

    static samePins(group: any) {
        return group.get('pin').value === group.get('again').value ? null : { different: true };
    }

    bad(name: string): boolean {
        const control = this.plan.get(name);
        return !!(control?.invalid && control?.touched);
    }

    example() {
        this.plan.patchValue({ tree: 'Old pear', height: 4.5, cut: 'light' });
    }

    save() {
        this.saved = true;
        this.planned.emit(this.plan.value);
    }
}
