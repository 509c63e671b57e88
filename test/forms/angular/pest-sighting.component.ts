import { Component, EventEmitter, Output } from '@angular/core';

type Sighting = {
	pest: string;
	looks: string;
	leaves: number;
	remarks: string;
};

@Component({
	standalone: false,
	selector: 'orchard-pest-sighting',
	templateUrl: './pest-sighting.component.html',
})
export class PestSightingComponent {
	@Output() reported = new EventEmitter<Sighting>();

	// what was seen
	sighting: Sighting = { pest: '', looks: '', leaves: 0, remarks: '' };
	sent = false;

	report() {
		this.reported.emit(Object.assign({}, this.sighting));
		this.sent = true;
	}
}
