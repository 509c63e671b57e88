import type { Comparison } from '../trial/compare.js';
import type { SeenControl } from '../trial/trace.js';
import { counted, type Paint } from './paint.js';
import { columns } from './table.js';

/** A comparison as JSON. */
export function trialJson(comparison: Comparison): object {
  return {
    version: 1,
    same: comparison.same,
    steps: comparison.steps.map(({ step, words, before, after, same, difference }) => ({
      step,
      words,
      before,
      after,
      same,
      difference,
    })),
    renders: comparison.renders,
    complaints: comparison.complaints,
  };
}

function shown(control: SeenControl): string {
  if (control.checked !== null) return control.checked ? 'ticked' : 'not ticked';
  return control.value === '' ? '(empty)' : control.value;
}

/** Values as they changed, a line for each step that changed one. */
function valuePanel(comparison: Comparison, paint: Paint): string {
  const rows: string[][] = [];
  let last = new Map<string, string>();
  for (const { words, before } of comparison.steps) {
    const now = new Map(before.controls.map((control, index) => [`${index} ${control.label}`, shown(control)]));
    const changed = [...now]
      .filter(([key, value]) => last.has(key) && last.get(key) !== value)
      .map(([key, value]) => `${key.replace(/^\d+ /, '')}: ${value}`);
    const calls = before.calls.map(({ name, arguments: given }) => `${name}(${given.join(', ')})`);
    if (changed.length || calls.length)
      rows.push([words, [...changed, ...calls.map((call) => paint.cyan(call))].join('; ')]);
    last = now;
  }
  return columns(
    rows.map((row) => row.map((cell) => (cell.length > 110 ? `${cell.slice(0, 109)}…` : cell))),
    { indent: '  ' },
  );
}

/** The answer of a trial for people. */
export function trialText(form: string, comparison: Comparison, paint: Paint, verbose: boolean): string {
  const { steps, renders, complaints, same } = comparison;
  const differing = steps.filter((step) => step.difference !== null);
  const out: string[] = [];
  out.push(
    same
      ? `${paint.green('same')}  ${form}: a person who takes these ${counted(steps.length, 'step')} notices nothing`
      : `${paint.red('different')}  ${form}: ${counted(differing.length, 'step')} of ${steps.length} ${differing.length === 1 ? 'differs' : 'differ'}`,
  );
  // a difference that stays on the page is told once, where it first shows
  const told = new Set<string>();
  const first = differing.filter(({ words, difference }) => {
    const what = (difference ?? '').slice((difference ?? '').indexOf(words) + words.length);
    return !told.has(what) && told.add(what);
  });
  for (const { difference } of first.slice(0, 5)) out.push(`  ${difference ?? ''}`);
  if (differing.length > Math.min(5, first.length)) out.push(paint.dim('  --format json has every step'));
  for (const text of complaints.after) out.push(paint.yellow(`  only after: ${text}`));
  for (const text of complaints.before) out.push(paint.dim(`  only before: ${text}`));
  if (renders.before !== null || renders.after !== null) {
    out.push(
      '',
      `components rendered for one typed letter: ${renders.before ?? '?'} before, ${renders.after ?? '?'} after`,
    );
  }
  if (verbose) out.push('', paint.bold('Values as they changed (before)'), valuePanel(comparison, paint));
  return out.join('\n');
}
