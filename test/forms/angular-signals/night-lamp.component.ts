import { ChangeDetectorRef, Component, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { LampService } from './lamp.service';

@Component({
  selector: 'app-night-lamp',
  imports: [FormsModule],
  templateUrl: './night-lamp.component.html',
})
export class NightLampComponent {
  private readonly lamps = inject(LampService);
  private readonly changes = inject(ChangeDetectorRef);

  public post = '';
  public minutes: number | null = null;
  public colour: 'red' | 'blue' = 'red';
  public busy = false;
  public answer?: string;

  get tooLong(): boolean {
    return (this.minutes ?? 0) > 90;
  }

  async light(): Promise<void> {
    this.busy = true;
    this.answer = await this.lamps.light(this.post, this.minutes ?? 0, this.colour);
    this.busy = false;
    this.clear();
    this.changes.markForCheck();
  }

  clear(): void {
    this.post = '';
    this.minutes = null;
    this.colour = 'red';
  }
}
