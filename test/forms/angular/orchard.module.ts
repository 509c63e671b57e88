import { NgModule } from '@angular/core';
import { CommonModule } from '@angular/common';
import { FormsModule, ReactiveFormsModule } from '@angular/forms';
import { PruningPlanComponent } from './pruning-plan.component';
import { PestSightingComponent } from './pest-sighting.component';

@NgModule({
	imports: [CommonModule, FormsModule, ReactiveFormsModule],
	declarations: [PestSightingComponent, PruningPlanComponent],
	exports: [PestSightingComponent, PruningPlanComponent],
})
export class OrchardModule {}
