import type { FormModel } from '../form/model.js';
import type { Figures, Rewrite } from './results.js';

/** Lines, state variables and handlers of a form. */
export function figuresOf(model: FormModel, text: string): Figures {
  return {
    lines: linesOf(text),
    stateVariables: model.stateVariables,
    handlers: model.handlers,
  };
}

/** How many lines a text has. */
export function linesOf(text: string): number {
  return text.split(/\r?\n/).length - (/\n$/.test(text) ? 1 : 0);
}

/** Rewrites of several forms of one file, one after the other, as one. */
export function joined(parts: readonly Rewrite[]): Rewrite {
  const [first, ...rest] = parts;
  if (!first) throw new Error('nothing was rewritten');
  return rest.reduce((whole, part) => {
    const files = [...whole.files];
    for (const change of part.files) {
      const index = files.findIndex((known) => known.file === change.file);
      const known = files[index];
      if (known) files[index] = { ...known, after: change.after };
      else files.push(change);
    }
    return {
      ...whole,
      files,
      ledger: [...whole.ledger, ...part.ledger],
      figures: {
        before: summed(whole.figures.before, part.figures.before),
        after: { ...summed(whole.figures.after, part.figures.after), lines: part.figures.after.lines },
      },
      dependencies: [...whole.dependencies, ...part.dependencies],
    };
  }, first);
}

function summed(a: Figures, b: Figures): Figures {
  return { lines: a.lines, stateVariables: a.stateVariables + b.stateVariables, handlers: a.handlers + b.handlers };
}
