import { NgModule } from '@angular/core';
import { CommonModule } from '@angular/common';
import { FormsModule } from '@angular/forms';
import { PestSightingComponent } from './pest-sighting.component';

@NgModule({
	imports: [CommonModule, FormsModule],
	declarations: [PestSightingComponent],
	exports: [PestSightingComponent],
})
export class OrchardModule {}
