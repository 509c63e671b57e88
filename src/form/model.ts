/** A stretch of a file's text: offsets in UTF-16 units, `end` not included. `file` is an absolute path. */
export interface Span {
  file: string;
  start: number;
  end: number;
}

/** A piece of source text that a writer may print elsewhere or with other names in it. */
export interface Code extends Span {
  /** Places inside that stand for something else than their own text, in order, not overlapping. */
  holes: Hole[];
}

/** A place inside a piece of code, and what it stands for. */
export type Hole =
  /** The value a field held before the update that this code computes. */
  | { kind: 'previous'; start: number; end: number; field: string; shorthand?: string }
  /**
   * Other code takes this place: an argument that was handed over, or a member of it (`suffix` such as `.value`).
   * `wrap` where it needs parentheses.
   */
  | { kind: 'given'; start: number; end: number; code: Code; suffix: string; wrap: boolean; shorthand?: string }
  /** A text takes this place: what a name stands for in a handler that was made anew. */
  | { kind: 'text'; start: number; end: number; text: string; shorthand?: string }
  /** A name of the surrounding scope; it has to be handed over when the code moves out of that scope. */
  | {
      kind: 'captured';
      start: number;
      end: number;
      name: string;
      type: string | undefined;
      stable: boolean;
      shorthand?: string;
    }
  /** An expression of a `return`; `unchanged` where it gives the previous value back. */
  | { kind: 'returned'; start: number; end: number; value: Code; unchanged: boolean };

export type ValueKind =
  'text' | 'number' | 'boolean' | 'date' | 'choice' | 'many choices' | 'file' | 'group' | 'list of rows' | 'other';

/** One named value of a form. */
export interface Field {
  /** Path of the field, such as `address.town`. */
  name: string;
  kind: ValueKind;
  /**
   * `field`: a person edits it or it is sent. `status`: the form keeps it for itself (errors, submitting, …)
   * in the same place as its fields.
   */
  role: 'field' | 'status';
  /** Type as source text; undefined where the code does not tell it. */
  type: string | undefined;
  /** Whether the type was written by the author rather than taken from the initial value. */
  typeWritten: boolean;
  initial: Initial;
  /** Comments of the declaration that belong to this field: on lines of their own before it, and behind it. */
  commentsBefore: string[];
  commentBehind: string | undefined;
  /** The names under which the source knows it and its setter; empty where it has none of its own. */
  names: { value?: string; setter?: string };
  declared: Span;
  /** What a reset that gives it no value brings; the initial value where it is left out. */
  resets?: 'initial' | 'null';
  /** The object of values lacks it until it is set for the first time. */
  absent?: boolean;
  /** It begins as a number or a boolean, and a control gives it text. */
  drifts?: boolean;
  /** The source types the form loosely, so that nothing in it expects null. */
  loose?: boolean;
}

/** A field's initial value. */
export interface Initial {
  code: Code | undefined;
  text: string;
  /** `constant`: the same at every time and place; `each-render`: an expression; `once`: a function called at the first render. */
  when: 'constant' | 'each-render' | 'once';
  /** The code is a function that gives the value, rather than the value itself. */
  callable?: boolean;
  /** Offset of the last declaration of the component that it needs; it cannot stand above that. */
  needsFrom?: number;
}

/** What ties a template's element to a field: attributes that belong to the approach, and what they say. */
export interface TemplateBinding {
  /** Attributes that go when another approach takes over, in order. */
  attributes: Span[];
  /** Offset in the template where an attribute can be put. */
  at: number;
  /** The element's own `name`, where it is plain text. */
  name: string | undefined;
  /** When the field takes what was typed. */
  updateOn: 'blur' | 'submit' | undefined;
  /** The condition under which the control cannot be used, as source text; undefined where it always can. */
  disabled: { span: Span; text: string; constant: boolean } | undefined;
  /** What runs when a person changed the value: the handler's text, in which `$event` is the new value. */
  changed: { span: Span; code: Code }[];
  /** The name under which the template asks it for its status. */
  reference: string | undefined;
  /** The control comes and goes with a part of the template. */
  shownWhen: { text: string; negated: boolean } | undefined;
  /** It stands outside of the form, or is no part of its values. */
  standalone: boolean;
  /** The row it stands in: the list's field, and what names the row there. */
  rows: { list: string; row: RowPlace } | undefined;
  /** Event through which the element itself reports a change. */
  event: 'input' | 'change';
}

/** The element or component that shows and edits a field. */
export interface Control {
  field: string;
  /** Tag name as written. */
  element: string;
  /** The element's `type`, where it is plain text. */
  type: string | undefined;
  name: string | undefined;
  label: string | undefined;
  /** Property that shows the value, and event that changes it. */
  shows: string | undefined;
  changes: string | undefined;
  /** What the handler does to the value on its way in, as source text; undefined when it is taken as it is. */
  wayIn: string | undefined;
  span: Span;
  binding?: TemplateBinding;
}

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
  /** An expression that does not look at the previous value; `operator` joins it to that one, as `+` in `count += 2`. */
  | { kind: 'value'; code: Code; operator?: string }
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
  /** Key of the object property whose shorthand the span is. */
  key?: string | undefined;
}

/** Changes one or several fields in one step. */
export interface SetUse extends UseBase {
  kind: 'set';
  assignments: Assignment[];
  /** Every field goes back to its initial value. */
  resetsAll: boolean;
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

/** A setter or dispatch function in a list of dependencies; `list` is the whole array. */
export interface DependUse extends UseBase {
  kind: 'depend';
  list: Span;
}

/** Replaces all values, or merges some of them in. */
export interface SetAllUse extends UseBase {
  kind: 'set-all';
  code: Code;
  merge: boolean;
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

/** What a rule asks for, in a form that every way of stating rules can write. Values are source text. */
export type Constraint =
  | { kind: 'required' | 'required-true' | 'email' | 'integer' }
  /** Anything but null; `missing`: anything but undefined as well. */
  | { kind: 'present'; missing?: 'fails' }
  /** Text of more than white space. */
  | { kind: 'not-blank' }
  | { kind: 'min' | 'max' | 'above' | 'below'; value: string; of?: NumberOf; nan?: 'fails' }
  /** `trimmed`: white space at both ends does not count. */
  | { kind: 'min-length' | 'max-length'; value: string; trimmed?: true }
  /** `text`: a pattern that the whole value has to match; `expression`: code that gives a pattern. `not`: it must not match. */
  | { kind: 'pattern'; form: 'text' | 'expression'; value: string; not?: true }
  /** The values it may have, as literals of the source. */
  | { kind: 'one-of'; values: string[] }
  /** It has to be the same as another field. */
  | { kind: 'equal'; to: string }
  | { kind: 'custom'; code: string; async: boolean };

/** What a limit counts: the field's own value, or the number that its text is turned into first. */
export type NumberOf = 'value' | 'Number' | 'parseFloat' | 'parseInt';

/** A condition on a field that has to hold for a rule to count. `literal` is source text. */
export type Guard =
  | { field: string; is: 'filled' | 'empty' | 'not-blank' | 'blank' | 'true' | 'false' }
  | { field: string; is: 'equals' | 'differs'; literal: string }
  | { field: string; is: 'meets' | 'breaks'; constraint: Constraint };

/** A condition on fields. `code` keeps its source text. */
export interface Rule {
  fields: string[];
  kind: 'required' | 'length' | 'range' | 'pattern' | 'email' | 'one of' | 'equal' | 'custom';
  /** The condition as source text. */
  condition: string;
  message: string | undefined;
  /** The message is computed from values, so that `message` is code in the marks of a template. */
  computed?: boolean;
  moment: 'change' | 'blur' | 'submit';
  stated: 'native' | 'code' | 'angular-validators' | 'json-schema';
  span: Span;
  constraint?: Constraint;
  /** Conditions on fields that have to hold for the rule to count. */
  guards?: Guard[];
  /** A condition that has to hold for the rule to count, as source text of the place it stands in. */
  guard?: string;
  /** Path of the group that a rule over several fields belongs to; empty for the whole form. */
  of?: string;
  /** The name its message is kept under, where that is no field of its own. */
  key?: string;
  /** Its message is kept under a name: that of a field, or `key`. */
  keyed?: boolean;
  /** The function that states it in code, and the statement, case or property of that which does. */
  statedIn?: { fn: Span; piece: Span };
}

/** A place in the markup that shows a message of a rule. */
export interface ShownMessage {
  /** The name the message is kept under; undefined where any message can show. */
  key: string | undefined;
  span: Span;
  /** It waits for more than the message itself: that the field was touched, or the form sent. */
  waits: boolean;
  /** The message is worked out anew while a person types. */
  live: boolean;
}

/** What happens from the first view to after the submit. */
export interface LifeCycle {
  values: 'constants' | 'props' | 'loaded later';
  submit: {
    line: number;
    how: 'form' | 'button' | 'none';
    handler: string | undefined;
    preventsDefault: boolean;
    async: boolean;
    /** Calls that hand the values on, as source text. */
    sends: string[];
  };
  resets: { line: number; what: 'all' | 'some' }[];
}

/** State of the component that is no part of the form, and why it was left out. */
export interface OtherState {
  name: string;
  line: number;
  why: string;
  /** Whether it is status the form keeps for itself. */
  status: boolean;
}

/** A place the reader could not understand. */
export interface Unclear {
  span: Span;
  what: string;
  why: string;
}

/** A piece of source that holds or declares the form's state and goes when another approach takes over. */
export interface Declaration {
  /** `state`: where values are declared; `support`: a type, constant or function that only the old approach needs. */
  role: 'state' | 'support' | 'alias';
  span: Span;
  /** The statement it is a part of, where other declarations in it stay. */
  statement?: Span;
  what: string;
}

/** A name that belongs to the form; every reference to it has to be accounted for. */
export interface OwnedName {
  file: string;
  name: string;
  /** Offset of the identifier that declares it. */
  declaredAt: number;
  /** Its references, where no scope of a script tells them: members of a class, names in a template. */
  references?: Span[];
}

/** How a form stands in a template: the form's element, or the whole template where there is none. */
export interface TemplateForm {
  /** File of the template; the class's own where it is inline. */
  file: string;
  /** The form's element; undefined where controls stand without one. */
  element: Span | undefined;
  /** Attributes of it that belong to the approach. */
  attributes: Span[];
  /** Offset where an attribute can be put. */
  at: number;
  /** The name under which the template knows the form, and where it is declared. */
  reference: string | undefined;
  /** The class's own name for the form, where it has one. */
  member: string | undefined;
  /** Member of the class that asks the template for the form. */
  query?: string | undefined;
  /** Methods whose parameter is the form, or the control of a field: name of the method and of the parameter. */
  given: { method: string; parameter: Span; name: string; argument: Span[]; of: string | undefined }[];
  /** When all of its fields take what was typed. */
  updateOn: 'blur' | 'submit' | undefined;
  /** Groups of fields and the attributes that name them. */
  groups: { name: string; attributes: Span[]; at: number; reference: string | undefined }[];
}

/** A list whose rows the template repeats; its fields are called `lines[].kilos`. */
export interface RowList {
  /** The list's own field. */
  field: string;
  /** What a row is called where the template repeats it. */
  item: string;
  /** Type of a row as source text; undefined where the source tells none. */
  type: string | undefined;
  /** Types written for parameters that stand for a row, and for results that are one. */
  typed: Span[];
  /** Where the template repeats it: the list's expression, the index's name, and where one could be declared. */
  loops: { list: Span; index: string | undefined; indexAt: number | undefined }[];
  /** Attributes of the template that only place controls among the rows. */
  attributes: Span[];
}

/** A variable that holds all values of a form. */
export interface HolderOfValues {
  name: string;
  /** Name of its type, where the file has one. */
  type: string | undefined;
  /** Name of the constant it begins as, where it begins as one. */
  initial: string | undefined;
}

/** One form, whatever its framework and approach. */
export interface FormModel {
  /** Name of the component, with the form's own name behind a colon where the component holds several. */
  id: string;
  name: string;
  component: string;
  framework: 'react' | 'angular' | 'vue';
  approach: string;
  file: string;
  files: string[];
  line: number;
  typescript: boolean;
  /** The component's whole declaration, export and leading comments not included. */
  span: Span;
  /** Where declarations for the component can be put: the start of its statement with leading comments. */
  before: number;
  /** Whether a form in the same component comes along, so that names need telling apart. */
  shared: boolean;
  fields: Field[];
  controls: Control[];
  uses: Use[];
  rules: Rule[];
  /** Where messages show; undefined where the reader does not look. */
  messages?: ShownMessage[];
  lifeCycle: LifeCycle;
  others: OtherState[];
  declarations: Declaration[];
  names: OwnedName[];
  unclear: Unclear[];
  handlers: number;
  stateVariables: number;
  template?: TemplateForm;
  /** Lists whose rows the template repeats. */
  lists?: RowList[];
  /** The variable that holds all values together, where one does. */
  holder?: HolderOfValues | undefined;
}

/** The fields a person edits or sends, without status. */
export function fieldsOf(model: Pick<FormModel, 'fields'>): Field[] {
  return model.fields.filter((field) => field.role === 'field');
}

/** Whether a field stands in the rows of a list: `lines[].kilos`. */
export function isRowField(name: string): boolean {
  return name.includes('[]');
}

/** The list of a row's field, and the field's own path inside the row. */
export function rowFieldParts(name: string): { list: string; key: string } {
  const at = name.indexOf('[]');
  return { list: name.slice(0, at), key: name.slice(at + 3) };
}
