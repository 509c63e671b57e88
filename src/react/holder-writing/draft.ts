import type { CodePrinter } from '../../form/code-text.js';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import type { WriteContext } from '../../form/writing.js';
import type { HookFile } from '../form-hook/hook-file.js';
import { baseNameOf, pascal } from '../form-names.js';

/** How a form asks a generated hook for its values, where that takes more than what they begin as. */
export interface HookCall {
  /** The variable that holds the values; a free name where left out. */
  values?: string;
  /** What the hook begins with, where that is no object of values; the caller writes what stands above then. */
  begins?: { arguments: string; type: string | undefined };
  /** A further argument behind what the form begins as. */
  more?: string | undefined;
  /** Further members that the component takes, with the names they get: `errors: problems`. */
  also: string[];
}

/** What the caller does along with the rewrite of the state. */
export interface Beside {
  /** Edits of the caller's own: what stands there goes. */
  edits: RewritePlan['edits'];
  /** Lines that stand below the new state, and the names of React that they need. */
  lines: string[];
  adds: string[];
}

/** What a file imports of a generated file beside the hook, and lines of imports that stand along with it. */
export interface FurtherImports {
  names: string[];
  lines: string[];
}

export interface Draft {
  call: HookCall | undefined;
  model: FormModel;
  context: WriteContext;
  /** The variable that holds the values, its setter, and the names of its type and of what it begins as. */
  names: { values: string; setter: string; type: string; initial: string };
  printer: CodePrinter;
  needs: { reset: boolean; values: boolean };
  /** Names of constants for values that are worked out before the change that takes them. */
  constants: Set<string>;
  /** The project's hook that holds the object, where no state variable does; and its members that are called. */
  hook: { file: HookFile; one: string; reset: string; called: Set<'one' | 'all' | 'reset'> } | undefined;
}

/** A name for the variable that holds all values: the form's own, or a free one. */
export function valuesName(model: FormModel, context: WriteContext): string {
  const base = baseNameOf(model);
  const lower = base.charAt(0).toLowerCase() + base.slice(1);
  return (
    model.holder?.name ??
    (model.shared ? context.freeName(`${lower}Values`) : context.freeName('values', `${lower}Values`))
  );
}

/** The names that the object of values and what belongs to it get. */
export function namesFor(model: FormModel, context: WriteContext, known: string | undefined): Draft['names'] {
  const base = baseNameOf(model);
  const values = known ?? valuesName(model, context);
  return {
    values,
    setter: context.freeName(`set${pascal(values)}`, `change${pascal(values)}`),
    type: model.holder?.type ?? context.freeName(`${base}Values`, `${base}State`),
    initial: model.holder?.initial ?? context.freeName(`initial${base}`, `empty${base}`),
  };
}
