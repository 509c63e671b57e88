import type { Code, Span } from './code.js';

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

/** A function of the project that checks values and answers with an error or none. */
export interface CheckFunction {
  /** Its body: an expression, or statements in braces. */
  code: Code;
  block: boolean;
  /** Places that ask for a value: the control's own, or that of a field at a path below it. */
  reads: { start: number; end: number; path: string | undefined }[];
  /** Objects that it answers with: the error's key, and what it carries, as the inner text of an object. */
  errors: { start: number; end: number; key: string; detail: string | undefined }[];
}

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
  stated: 'native' | 'code' | 'angular-validators' | 'signal-rules' | 'json-schema';
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
  /** The function of the project that checks it, where that says all by values alone. */
  check?: CheckFunction | undefined;
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
