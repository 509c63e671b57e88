import type { CodePrinter } from '../../form/code-text.js';
import type { FormModel } from '../../form/model.js';
import type { WriteContext } from '../../form/writing.js';
import { baseNameOf, pascal } from '../form-names.js';
import type { ActionCollector } from './actions.js';

/** Names that a form's reducer is known by. */
export interface ReducerNames {
  state: string;
  action: string;
  reducer: string;
  initial: string;
  dispatch: string;
  stateVariable: string;
}

/** What the parts of the writer share while one form is written. */
export interface ReducerDraft {
  model: FormModel;
  context: WriteContext;
  names: ReducerNames;
  printer: CodePrinter;
  actions: ActionCollector;
  /** Whether the component needs an action that changes fields to given values, and one that resets. */
  needs: {
    changed: boolean;
    reset: boolean;
    named: boolean;
    /** An action that takes all values; with `updated`, a function of the ones before as well. */
    replaced: boolean;
    updated: boolean;
    guardedFields: string[];
  };
}

/** The names that the reducer and what belongs to it get. */
export function namesFor(model: FormModel, context: WriteContext): ReducerNames {
  const base = baseNameOf(model);
  const full = pascal(model.name);
  const lower = base.charAt(0).toLowerCase() + base.slice(1);
  const lowerFull = full.charAt(0).toLowerCase() + full.slice(1);
  return {
    state: model.holder?.type ?? context.freeName(`${base}State`, `${full}State`, `${base}Values`),
    action: context.freeName(`${base}Action`, `${full}Action`),
    reducer: context.freeName(`${lower}Reducer`, `${lowerFull}Reducer`),
    initial: model.holder?.initial ?? context.freeName(`initial${base}`, `initial${full}`, `initial${base}State`),
    dispatch: model.shared
      ? context.freeName(`dispatch${base}`, `dispatch${full}`)
      : context.freeName('dispatch', `dispatch${base}`),
    stateVariable: model.holder
      ? model.holder.name
      : model.shared
        ? context.freeName(`${lower}State`, `${lowerFull}Values`)
        : context.freeName('state', 'values', `${lower}Values`),
  };
}
