import type { Span, Code } from './code.js';
import type { AskUse, RowPlace, Use } from './uses.js';
import type { FormLife } from './life.js';
import type { Rule, ShownMessage } from './rules.js';

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
  disabled:
    | {
        span: Span;
        text: string;
        constant: boolean;
        /** The class keeps it in step with the value of another field: a condition in which `§` stands for that. */
        usableWhile?: {
          of: string;
          text: string;
          /** The control begins anew whenever that changes and it cannot be used: with a value, or as it began. */
          again?: { given: string | undefined; pipeline: string; parameter: string };
        };
      }
    | undefined;
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

/** The attributes that tie a plain control to its field: it shows the value as it is, and takes in what was typed. */
export interface PlainWiring {
  shows: Span;
  changes: Span;
  name: Span | undefined;
  /** The one call that its handler makes; the handler itself where it is made elsewhere. */
  call: Span;
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
  /** How a plain control of the page is tied to its field, where nothing but that stands in its attributes. */
  wiring?: PlainWiring;
}

/** State of the component that is no part of the form, and why it was left out. */
export interface OtherState {
  name: string;
  line: number;
  why: string;
  /** Whether it is status the form keeps for itself. */
  status: boolean;
  /** What changes it, where a name does. */
  setter?: string | undefined;
}

/** A place the reader could not understand. */
export interface Unclear {
  span: Span;
  what: string;
  why: string;
  /** It is no matter where the values stay in signals. */
  unlessSignal?: true;
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

/** A parameter of a method that stands for whichever control it is given. */
export interface ControlParameter {
  method: string;
  name: string;
  /** The parameter with its type. */
  parameter: Span;
  /** The controls that are given to it. */
  given: Span[];
  /** What is asked of it. */
  uses: AskUse[];
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
  /** The event through which it tells all of its values, and the class of the project that makes it do so. */
  feed?: { attribute: Span; directive: string | undefined } | undefined;
  /** Parameters of methods that stand for whichever control they are given. */
  asked?: ControlParameter[];
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
  /**
   * What it begins as, where that is told only as a whole: an expression, or a function called once. `open`: it may
   * hold more than the fields. `empty`: it is null until it is filled; `type` leaves that out.
   */
  start?: { code: Code; once: boolean; open?: boolean; empty?: boolean } | undefined;
}

/** A function of all values that gives new ones: what a reducer does for one action, where that is told only as a whole. */
export interface StepFunction {
  name: string;
  /** The parameter that takes the values; `asked` where the statements look at it. */
  state: { name: string; type?: string; asked: boolean };
  /** What it is given besides, in order; `key` is the member of the action. */
  parameters: { name: string; key: string; type?: string; optional: boolean }[];
  /** Its statements. */
  body: Code;
}

/** Functions that take the place of a reducer. */
export interface StepFunctions {
  /** The reducer's whole statement. */
  reducer: Span;
  /** What the reducer is called in the form's file, and the module it comes from where that is another file. */
  name: string;
  module: string | undefined;
  functions: StepFunction[];
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
  others: OtherState[];
  declarations: Declaration[];
  names: OwnedName[];
  unclear: Unclear[];
  handlers: number;
  stateVariables: number;
  template?: TemplateForm;
  /** Members that follow all values as a signal, for code that is worked out anew when these change. */
  follows?: Span[];
  /** Lists whose rows the template repeats. */
  lists?: RowList[];
  /** What happens to it besides its values; worked out when it is asked for. */
  life?(): FormLife;
  /** What a reducer does that is told only as a whole. */
  steps?: StepFunctions | undefined;
  /** The variable that holds all values together, where one does. */
  holder?: HolderOfValues | undefined;
}

/** The fields a person edits or sends, without status. */
export function fieldsOf(model: Pick<FormModel, 'fields'>): Field[] {
  return model.fields.filter((field) => field.role === 'field');
}

/** The field of a name; a name that the model lacks is a fault. */
export function fieldNamed(model: Pick<FormModel, 'fields'>, name: string): Field {
  const field = model.fields.find((candidate) => candidate.name === name);
  if (!field) throw new Error(`no field ${name}`);
  return field;
}

/** What a reset that gives a field no value brings: a template's own form knows no start to go back to. */
export function broughtByReset({ resets }: Field, { approach }: Pick<FormModel, 'approach'>): 'initial' | 'null' {
  return resets ?? (approach.startsWith('template') ? 'null' : 'initial');
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
