import { ChangeDetectionStrategy, Component, computed, signal } from '@angular/core';
import { applyEach, FieldTree, form, FormField, FormRoot, max, maxLength, required } from '@angular/forms/signals';

interface Hand {
  name: string;
}

interface Shift {
  date: string;
  tons: number | null;
  crew: { hands: Hand[]; fed: boolean };
}

const quiet: Shift = { date: '', tons: null, crew: { hands: [{ name: '' }], fed: true } };

@Component({
  selector: 'orchard-press-shift',
  imports: [FormField, FormRoot],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './press-shift.component.html',
})
export class PressShiftComponent {
  protected readonly planned = signal<string[]>([]);

  protected readonly values = signal<Shift>(quiet);
  protected readonly shift = form(
    this.values,
    (s) => {
      required(s.date, { message: 'When is it?' });
      required(s.tons, { message: 'How much is pressed?' });
      max(s.tons, ({ valueOf }) => valueOf(s.crew.hands).length * 2, { message: 'Too much for so few hands.' });
      applyEach(s.crew.hands, (h) => {
        required(h.name, { message: 'Whose hand?' });
        maxLength(h.name, 12);
      });
    },
    {
      submission: {
        action: async (all) => {
          const { date, tons } = all().value();
          this.planned.update((lines) => [...lines, `${date}: ${tons ?? 0} t`]);
          all().reset(quiet);
          return undefined;
        },
      },
    },
  );
  protected readonly plan = computed(() => this.planned().filter(Boolean));

  protected bad(field: FieldTree<unknown>): boolean {
    return field().touched() && field().invalid();
  }

  protected says(field: FieldTree<unknown>): string {
    const state = field();
    if (!state.touched()) return '';
    return state
      .errors()
      .map(({ message }) => message)
      .join(' ');
  }

  another(): void {
    this.shift.crew.hands().value.update((hands) => [...hands, { name: '' }]);
  }

  without(at: number): void {
    this.shift.crew.hands().value.update((hands) => [...hands.slice(0, at), ...hands.slice(at + 1)]);
  }
}
