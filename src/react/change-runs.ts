import type { FormModel } from '../form/model.js';
import type { SetUse } from '../form/uses.js';

/** Changes in statements one after another that become one dispatch. */
export interface ChangeRun {
  uses: SetUse[];
  /** Offsets from the first call to the end of the last one, their last semicolon not included. */
  start: number;
  end: number;
  resetsAll: boolean;
}

function isPlain(use: SetUse): boolean {
  return (
    use.statement !== undefined && !use.repeats && use.assignments.every(({ value }) => value.kind !== 'from-previous')
  );
}

/** Whether each change gives its field the constant it began with, and no field is left out. */
function resetsEverything(model: FormModel, uses: readonly SetUse[], text: string): boolean {
  const back = new Set<string>();
  for (const { field: name, value } of uses.flatMap((use) => use.assignments)) {
    const field = model.fields.find((candidate) => candidate.name === name);
    if (!field || field.initial.when !== 'constant') return false;
    const given =
      value.kind === 'value' ? text.slice(value.code.start, value.code.end) || 'undefined' : field.initial.text;
    if (given !== field.initial.text) return false;
    back.add(name);
  }
  return model.fields.every((field) => back.has(field.name));
}

/** Finds the runs of a form: at least two plain changes with nothing but white space between their statements. */
export function changeRuns(model: FormModel, text: string): ChangeRun[] {
  const runs: ChangeRun[] = [];
  let current: SetUse[] = [];
  const close = (): void => {
    const first = current[0];
    const last = current.at(-1);
    const resetsAll = current.length > 0 && resetsEverything(model, current, text);
    // an object of all values stays as its author wrote it
    if (first && last && (current.length > 1 || resetsAll) && (resetsAll || !current.some(({ whole }) => whole))) {
      runs.push({ uses: current, start: first.span.start, end: last.span.end, resetsAll });
    }
    current = [];
  };
  const inside = (use: SetUse): boolean =>
    model.uses.some(
      (outer) =>
        outer !== use && outer.kind === 'set' && outer.span.start <= use.span.start && outer.span.end >= use.span.end,
    );
  for (const use of model.uses) {
    if (use.kind !== 'set') continue;
    if (!isPlain(use) || inside(use)) {
      close();
      continue;
    }
    const last = current.at(-1);
    const between = last?.statement && use.statement ? text.slice(last.statement.end, use.statement.start) : undefined;
    const again = current.some((known) =>
      known.assignments.some(({ field }) => use.assignments.some((other) => other.field === field)),
    );
    if (between === undefined || !/^[\s;]*$/.test(between) || again) close();
    current.push(use);
  }
  close();
  return runs;
}
