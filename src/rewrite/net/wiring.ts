import type { Code, Span } from '../../form/code.js';
import type { Assignment } from '../../form/uses.js';
import type { PlannedStep } from './caught.js';

/** Spans of calls that change values, and those of the values they give. */
export interface Wiring {
  calls: Span[];
  values: Span[];
  /** Places inside of the values that stand for something else. */
  holes: Span[];
}

/** Where a form's changes stand: calls of the old approach, and the values they give. */
export function wiringSpans({ model, sources, to }: PlannedStep): Wiring {
  const { uses } = model;
  const starts = new Map(model.fields.map(({ name, initial }) => [name, plain(initial.text)]));
  const isStart = (field: string, { file, start, end }: Code): boolean =>
    plain(sources.text(file).slice(start, end)) === starts.get(field);
  const calls: Span[] = [];
  const values: Span[] = [];
  const holes: Span[] = [];
  const addCode = (code: Code): void => {
    values.push(code);
    for (const hole of code.holes) {
      // what is handed over stands for itself where it stands
      const isItself =
        hole.kind === 'given' &&
        hole.code.file === code.file &&
        hole.code.start === hole.start &&
        hole.code.end === hole.end;
      if (!isItself && (hole.kind === 'given' || hole.kind === 'text' || hole.kind === 'previous'))
        holes.push({ file: code.file, start: hole.start, end: hole.end });
      if (hole.kind === 'given') addCode(hole.code);
      if (hole.kind === 'returned') addCode({ ...hole.value, holes: hole.value.holes.filter((one) => one !== hole) });
    }
  };
  // a reducer says once what several places work out alike
  const said = new Set<string>();
  const isAgain = (field: string, { file, start, end }: Code): boolean => {
    const key = `${field}: ${plain(sources.text(file).slice(start, end))}`;
    const again = said.has(key);
    said.add(key);
    return again && to === 'reducer';
  };
  const given = (assignments: readonly Assignment[]): void => {
    for (const { field, value } of assignments) {
      // a start stands where the form begins; that it is the same is looked at by the equality of fields
      if (value.kind === 'value' && !isStart(field, value.code)) addCode(value.code);
      else if (value.kind === 'from-previous' && !isAgain(field, value.body)) addCode(value.body);
    }
  };
  for (const use of uses) {
    switch (use.kind) {
      case 'set':
      case 'made-handler':
        calls.push(use.span);
        given(use.assignments);
        break;
      case 'set-named':
        calls.push(use.span, ...use.spares);
        given(use.rest);
        break;
      case 'depend':
      case 'hand-on':
      case 'hand-on-all':
      case 'read':
      case 'read-all':
      case 'rows':
      case 'make-row':
      case 'change-rows':
      case 'watch':
      case 'reset':
        calls.push(use.span);
        break;
      case 'ask':
        // a form over a signal is asked in other words; that it is asked for the same is looked at by equality
        calls.push(to === 'signal-model' ? (use.asks?.span ?? use.span) : use.span);
        break;
      case 'set-all':
        calls.push(use.span);
        addCode(use.code);
        break;
      default:
        use satisfies never;
    }
  }
  // what a method asks of whichever control it is given
  if (to === 'signal-model')
    for (const { uses: asked } of model.template?.asked ?? [])
      calls.push(...asked.map(({ asks, span }) => asks?.span ?? span));
  return { calls, values, holes };
}

function plain(text: string): string {
  return text.replace(/\s+/g, '').replaceAll('"', "'");
}
