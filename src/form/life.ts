import type { Span } from './code.js';

/** What status is about, in the words of the trade. */
export type StatusRole =
  | 'errors'
  | 'message'
  | 'touched'
  | 'attempted'
  | 'submitting'
  | 'submitted'
  | 'changed'
  | 'loading'
  | 'valid'
  | 'checking';

/** What the code keeps about the form besides its values. */
export interface Status {
  role: StatusRole;
  /** The name under which the code knows it. */
  name: string;
  /** `by-field`: one for each field; `one`: one for the form, or for a single field; `list`: several without names. */
  shape: 'by-field' | 'one' | 'list';
  /** Worked out from values or other status rather than kept. */
  derived?: boolean;
  span: Span;
}

/** When rules run: `always` while rendering, or by the framework's own validators. */
export type RunMoment = 'first-view' | 'change' | 'blur' | 'submit' | 'always';

/** A place that runs a checker. */
export interface Run {
  moment: RunMoment;
  of: 'all' | string[];
  /** The condition under which it runs, as source text. */
  when: string | null;
  span: Span;
}

/** A function, a schema or a set of attributes that states rules, with every place that runs it. */
export interface Checker {
  name: string;
  runs: Run[];
}

/** Where the markup shows a message. */
export interface GatedMessage {
  /** The field it speaks of; null where it speaks of the form. */
  field: string | null;
  /** The status that opens it, besides that there is a message: any of these, or all of them. */
  after: StatusRole[];
  all?: boolean;
  span: Span;
  /** What a person reads there, and the errors it is for, where the markup says both. */
  text?: string;
  keys?: string[];
}

export type StepKind =
  | 'touch-all'
  | 'attempt'
  | 'check'
  | 'keep-errors'
  | 'stop-if-wrong'
  | 'focus-first'
  | 'begin'
  | 'send'
  | 'field-errors'
  | 'message'
  | 'reset'
  | 'reset-some'
  | 'done'
  | 'end'
  | 'other';

export type StepBranch = 'before' | 'success' | 'failure' | 'always';

/** One step of a submit. */
export interface SubmitStep {
  does: StepKind;
  branch: StepBranch;
  span: Span;
  /** Of a send: the call, as source text. */
  call?: string;
  /** The framework or a library does it by itself. */
  implied?: boolean;
}

/** The function that a form’s event runs to send it, as far as another approach has to take it over. */
export interface SubmitHandler {
  /** What the event is given. */
  given: Span;
  fn: Span;
  /** The name under which the event is given it; `hoisted`: that name can be called above its declaration. */
  name: string | undefined;
  hoisted: boolean;
  async: boolean;
  /** The parameter that takes the event, and whether parentheses stand around it. */
  event: { span: Span; enclosed: boolean } | undefined;
  /** The type written at its name, which speaks of the event. */
  typed: Span | undefined;
  /** Statements that only keep the browser from leaving the page. */
  prevents: Span[];
  /** Why nothing but the form’s own event can run it; undefined where anything could. */
  bound: string | undefined;
  /** It waits for something whose failure it leaves to the page. */
  mayFail: boolean;
  /** Offsets at which buttons of the form that state no type can be given one. */
  untyped: number[];
}

/** How a form is sent. */
export interface SubmitCourse {
  by: 'form' | 'button' | 'effect' | 'none';
  span: Span;
  /** The function that sends it, where the form’s own event runs one of its component. */
  handler?: SubmitHandler | undefined;
  /** Whether the browser's own submit is prevented; null where nothing of the browser's would happen. */
  prevents: boolean | null;
  steps: SubmitStep[];
}

/** A place that changes values beyond a control taking in its own. */
export interface ValueChange {
  span: Span;
  fields: string[];
  /** It is told only as a function of all values. */
  whole: boolean;
}

/** What happens to a form besides its values. */
export interface FormLife {
  status: Status[];
  checkers: Checker[];
  shown: GatedMessage[];
  course: SubmitCourse;
  changed: ValueChange[];
  /** Code of the form’s follows the page’s own reset. */
  followsReset?: boolean;
  /** Changes that an earlier one precedes in the same turn; undefined where the reader does not look. */
  crowded?: Span[];
  /** The moments at which each rule of the model runs, in the model's order. */
  moments: RunMoment[][];
  /** What is shown where a rule is broken, in the same order; where the rule itself does not say it. */
  texts?: (string | undefined)[];
}
