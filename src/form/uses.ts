import type { Span, Code } from './code.js';

export type Surrounding = 'render' | 'event' | 'submit' | 'effect' | 'callback' | 'child' | 'module';

/** Which row of a list is meant: the one a name stands for, or the one at an index. */
export type RowPlace =
  | { kind: 'named'; name: string }
  /** `mayMiss`: the source expects that there may be no such row. */
  | { kind: 'at'; index: Code; mayMiss: boolean };

interface UseBase {
  span: Span;
  where: Surrounding;
  /** The row, where the field is one of a list's rows: `lines[].kilos`. */
  row?: RowPlace;
}

/** New value of one field in a change. */
export type NewValue =
  /**
   * An expression that does not look at the previous value; `operator` joins it to that one, as `+` in `count += 2`.
   * `effects`: to work it out may do something besides, or give another value the next time.
   */
  | { kind: 'value'; code: Code; operator?: string; effects?: boolean }
  /** Computed from what the fields held before; `body` is an expression or a function body in braces. */
  | {
      kind: 'from-previous';
      body: Code;
      block: boolean;
      reads: string[];
      parameter: string | undefined;
      whole: Code | undefined;
    }
  /** The field's initial value. */
  | { kind: 'initial' };

export interface Assignment {
  field: string;
  value: NewValue;
}

/** Reads one field. */
export interface ReadUse extends UseBase {
  kind: 'read';
  field: string;
  /** Key of the object property that the span covers, shorthand or written out; a shorthand keeps its key. */
  key: string | undefined;
}

/** Reads all values at once. */
export interface ReadAllUse extends UseBase {
  kind: 'read-all';
  /** `held`: every value the form holds; `shown`: without those of disabled and hidden controls. `held` if left out. */
  what?: 'held' | 'shown';
  /** They are spread into a new object; the span covers the values alone. */
  spread?: boolean;
  /** Single values are asked of them right there: by a pattern, or by a computed name. */
  named?: boolean;
  /** They stand in the list of what a hook depends on. */
  listed?: boolean;
  /** That hook works out a value that nothing follows: how often it does makes no difference. */
  memo?: boolean;
  /** Key of the object property whose shorthand the span is. */
  key?: string | undefined;
}

/** Changes one or several fields in one step. */
export interface SetUse extends UseBase {
  kind: 'set';
  assignments: Assignment[];
  /** Every field goes back to its initial value. */
  resetsAll: boolean;
  /**
   * The new values of all fields as the author writes them, or a function that makes them of the ones before; `merges`
   * is what it lays over these, where it looks at none of them.
   */
  whole?: { code: Code; merges: Code | undefined };
  /** The new values may hold more than the fields. */
  open?: boolean;
  /** The statement that is nothing but this change. */
  statement: Span | undefined;
  /** The change is the whole body of an arrow function. */
  arrowBody: boolean;
  /** Values read from the surrounding render are the latest: nothing changed them earlier in the same turn. */
  fresh: boolean;
  /** The same change may come again without an end if setting an equal value renders again. */
  repeats: boolean;
  /** Nobody who follows the field is told. */
  quiet?: boolean;
  /** What the author called this change: the name of the function that makes it, or of the action. */
  called: string | undefined;
}

/** A change that is made where nothing came before it, and that nobody gave a name. */
export function plainChange(made: Pick<SetUse, 'span' | 'where' | 'row' | 'assignments'>): SetUse {
  return {
    ...made,
    kind: 'set',
    resetsAll: false,
    statement: undefined,
    arrowBody: false,
    fresh: true,
    repeats: false,
    called: undefined,
  };
}

/** Changes the field whose name is computed. */
export interface SetNamedUse extends UseBase {
  kind: 'set-named';
  key: Code;
  /** The value as the source computes it, whatever the name is. */
  value: Code;
  /** Declarations of the handler that nothing needs where each field gets its own value. */
  spares: Span[];
  /** The names the key can have, and the value each of those fields gets. */
  choices: Assignment[];
  /** Fields that change along with it, whatever the name is. */
  rest: Assignment[];
  /** The source does not tell which fields it is: any of them. */
  any?: boolean;
  /** The type of all values, where key and value are typed by it together: `<K extends keyof V>(name: K, value: V[K])`. */
  typedBy?: string;
  statement: Span | undefined;
  arrowBody: boolean;
}

/** A handler made by calling a function of the form with a field's name: `change('town')`. */
export interface MadeHandlerUse extends UseBase {
  kind: 'made-handler';
  /** Parameters of the handler as written, with parentheses. */
  parameters: string;
  assignments: Assignment[];
}

/** Hands a setter on as a value. */
export interface HandOnUse extends UseBase {
  kind: 'hand-on';
  field: string;
  /** `value`: the receiver calls it with values; `updater`: it may also call it with a function of the previous value. */
  takes: 'value' | 'updater';
  /** Whether the place gives the parameter its type. */
  typed: boolean;
  /** The receiver must get the same function at every render. */
  stable: boolean;
  shorthand: string | undefined;
}

/** Hands the setter of all values on as a value. */
export interface HandOnAllUse extends UseBase {
  kind: 'hand-on-all';
  /** `value`: the receiver calls it with all values; `updater`: it may also call it with a function of the previous ones. */
  takes: 'value' | 'updater';
  typed: boolean;
  stable: boolean;
  shorthand: string | undefined;
}

/** A setter or dispatch function in a list of dependencies; `list` is the whole array, `of` the function that it is for. */
export interface DependUse extends UseBase {
  kind: 'depend';
  list: Span;
  of: Span;
}

/** Replaces all values, or merges some of them in. */
export interface SetAllUse extends UseBase {
  kind: 'set-all';
  /** The new values, or a function of the ones before. */
  code: Code;
  merge: boolean;
  /** Nothing that follows the fields is told of it. */
  quiet?: boolean;
  /** Why it is told only as a whole, not field by field. */
  why?: string;
  /**
   * The code is a function of the values before: what it gives, in which these stand as holes; undefined where it is
   * more than one expression. Left out where the code gives the new values themselves.
   */
  from?: { body: Code | undefined };
  /** The new values are what a function gives that takes the ones before, and what else it is given. */
  step?: { name: string; takesValues: boolean; arguments: (Code | undefined)[] };
  /** The new values may hold more than the fields. */
  open?: boolean;
  /** The keys that given values have by what is written or typed; undefined where nothing tells them. */
  gives?: { key: string; optional: boolean }[];
  /** The fields that may change; any where it is left out. */
  fields?: string[] | undefined;
  /** Values read from the surrounding render are the latest, as in `SetUse`. */
  fresh?: boolean;
  /** The function that makes the change. */
  within?: Span;
  statement?: Span | undefined;
  /** The change is the whole body of an arrow function. */
  arrowBody?: boolean;
}

/** Puts the form, or one field, back to its start or to given values, with its touched and dirty status. */
export interface ResetUse extends UseBase {
  kind: 'reset';
  /** The field; undefined for the whole form. */
  of: string | undefined;
  values: Code | undefined;
  /** Whether it also forgets that the form was submitted. */
  clearsSubmitted: boolean;
}

/** Asks the form or one field for its status, or tells it: `vessel.invalid`, `form.markAllAsTouched()`. */
export interface AskUse extends UseBase {
  kind: 'ask';
  /** The field or group of fields; undefined for the whole form. */
  of: string | undefined;
  /** What is asked for; undefined where the object itself is handed on. */
  member: string | undefined;
  /** The name that stands for it at this place, where a plain name does. */
  named: string | undefined;
  /** What ties the object to what is asked of it, the last part of the span: `.`, `?.`, or nothing. */
  joint: '' | '.' | '?.';
  /** Whether it is asked in the template rather than in the class. */
  inTemplate: boolean;
  /** What is asked, in full; undefined where the object itself is handed on. */
  asks?: Asked | undefined;
  /** The parameter that it is asked of, where that stands for whichever control is given. */
  through?: string;
}

/** What a control or a form is asked for, or told: `errors?.['required']`, `hasError('min')`, `markAsTouched()`. */
export interface Asked {
  /** From the object to the end of what is asked of it. */
  span: Span;
  /** The key of an error that is asked for. */
  error?: string;
  /** What is asked of that error: `min` in `errors['min'].min`. */
  detail?: string;
  /** What it is called with; undefined where it is no call. */
  given?: Code[];
  /** It is a statement of its own. */
  statement: boolean;
}

/** Code that runs whenever a field changes: `town.valueChanges.subscribe((town) => …)`. */
export interface WatchUse extends UseBase {
  kind: 'watch';
  /** The field; undefined for the whole form. */
  of: string | undefined;
  /** The function that runs, as source text. */
  code: Code;
  statement: Span;
}

/** Looks at a list of rows without its values: repeats it, counts it, looks for a row in it. The span is the list alone. */
export interface RowsUse extends UseBase {
  kind: 'rows';
  list: string;
  /** `items`: its rows one by one; `length`: how many they are. */
  what: 'items' | 'length';
}

/** Adds, removes or exchanges rows of a list. */
export interface ChangeRowsUse extends UseBase {
  kind: 'change-rows';
  list: string;
  change:
    | { kind: 'add'; values: Code[]; at: Code | undefined }
    | { kind: 'remove'; at: Code | 'last' }
    | { kind: 'remove-row'; row: Code }
    | { kind: 'clear' }
    | { kind: 'replace'; values: Code };
}

/** Builds the controls of a new row; another approach needs their values alone. */
export interface MakeRowUse extends UseBase {
  kind: 'make-row';
  list: string;
  values: { key: string; code: Code | undefined }[];
}

export type Use =
  | ReadUse
  | ReadAllUse
  | SetUse
  | SetNamedUse
  | MadeHandlerUse
  | HandOnUse
  | HandOnAllUse
  | DependUse
  | SetAllUse
  | ResetUse
  | AskUse
  | WatchUse
  | RowsUse
  | ChangeRowsUse
  | MakeRowUse;

/** Uses of a form's or a control's object, as only frameworks with such objects know them. */
export type ControlUse = ResetUse | AskUse | WatchUse | RowsUse | ChangeRowsUse | MakeRowUse;

const controlKinds: ReadonlySet<Use['kind']> = new Set<ControlUse['kind']>([
  'reset',
  'ask',
  'watch',
  'rows',
  'change-rows',
  'make-row',
]);

/** Whether a use asks a control or the form as an object, which state of a component is not. */
export function isControlUse(use: Use): use is ControlUse {
  return controlKinds.has(use.kind);
}
