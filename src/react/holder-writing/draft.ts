import type { Span } from '../../form/code.js';
import type { CodePrinter } from '../../form/code-text.js';
import type { RewritePlan } from '../../form/ledger.js';
import type { Control, FormModel, PlainWiring } from '../../form/model.js';
import type { WriteContext } from '../../form/writing.js';
import type { CallTable } from '../calls/table.js';
import type { HookFile } from '../form-hook/hook-file.js';
import { baseNameOf, pascal } from '../form-names.js';
import type { Item } from '../../source/layout.js';

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
  /** Further options, where the hook takes what the form begins as in one. */
  options?: (draft: Draft) => Item[];
}

/** What the caller does along with the rewrite of the state. */
export interface Beside {
  /** Edits of the caller's own: what stands there goes. */
  edits: RewritePlan['edits'];
  /** Lines that stand below the new state, and the names of React that they need. */
  lines: string[];
  adds: string[];
  /** Code that the caller prints elsewhere; its uses are printed along with it. */
  moved?: readonly Span[];
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
  /** The hook that holds the object, where no state variable does. */
  hook: HookWords | undefined;
}

/** A plain control that a hook's own attributes tie to its field. */
export interface WiredControl {
  control: Control;
  wiring: PlainWiring;
}

/** A hook that holds the values, under the names that its members get in a component. */
export interface HookWords {
  file: HookFile;
  one: string;
  reset: string;
  /** The member that is asked for a value as it is now. */
  look: string;
  /** The member, or the hook, that tells the values while rendering, where that takes a call. */
  shown: string;
  /** What such a hook follows. */
  store: string;
  /** The member that gives the attributes of a control. */
  register: string;
  /** The controls that it is used for. */
  wired: WiredControl[];
  /** The members that the new code calls. */
  called: Set<'one' | 'all' | 'reset' | 'look' | 'register'>;
}

/** The names that a hook's members get. */
export function hookWords(hook: HookFile, model: FormModel, context: WriteContext): HookWords {
  const base = pascal(baseNameOf(model));
  const { calls } = hook;
  // functions that take the place of a reducer have names already
  const known = new Set(model.steps?.functions.map(({ name }) => name));
  const free = (...wished: string[]): string => {
    const [first = '', ...others] = wished.filter((name) => !known.has(name));
    return context.freeName(first, ...others);
  };
  const look = calls.looksBack?.by === 'call' ? calls.looksBack.member : undefined;
  const shown =
    calls.shown.by === 'call' ? calls.shown.member : calls.shown.by === 'store' ? calls.shown.hook : undefined;
  return {
    file: hook,
    one: free(calls.one, `set${base}Value`),
    reset: free(calls.reset, `reset${base}`),
    look: look === undefined ? '' : free(look, `get${base}Values`),
    shown: shown === undefined ? '' : free(shown, `${shown}${base}`),
    store: calls.shown.by === 'store' ? free('store', 'formStore') : '',
    register: calls.registers === undefined ? '' : free(calls.registers, `register${base}`),
    wired: [],
    called: new Set(),
  };
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
export function namesFor(
  model: FormModel,
  context: WriteContext,
  known: string | undefined,
  calls?: CallTable,
): Draft['names'] {
  const base = baseNameOf(model);
  const values = known ?? valuesName(model, context);
  // a package’s member keeps the name by which people know it
  const wished = (calls?.from && calls.all) ?? `set${pascal(values)}`;
  return {
    values,
    setter: context.freeName(wished, `set${pascal(values)}`, `change${pascal(values)}`),
    type: model.holder?.type ?? context.freeName(`${base}Values`, `${base}State`),
    initial: model.holder?.initial ?? context.freeName(`initial${base}`, `empty${base}`),
  };
}
