import type { Step } from './steps.js';

/** A control as a person meets it. */
export interface SeenControl {
  label: string;
  tag: string;
  type: string;
  value: string;
  checked: boolean | null;
  disabled: boolean;
}

/** A call of a function that the form was given, an event it emitted, a request or an alert; arguments as text. */
export interface SeenCall {
  name: string;
  arguments: string[];
}

/** What the page shows at one moment. */
export interface Seen {
  controls: SeenControl[];
  buttons: { label: string; disabled: boolean }[];
  /** Visible text, a line for each block. */
  text: string[];
  /** The author's own classes, in the order of the page: `tag.class`. */
  classes: string[];
  /** Roles and aria attributes. */
  aria: string[];
  focus: string;
  calls: SeenCall[];
  leftPage: boolean;
  complaints: string[];
  /** A step that could not be done, in words. */
  trouble: string | null;
}

/** A form that was played: what was seen at first and after each step. */
export interface Trace {
  steps: { step: Step; seen: Seen }[];
  /** Times that components rendered for one typed letter, on average; null where that is not counted. */
  renders: number | null;
}

/** What the parent asks of the player. */
export interface PlayRequest {
  versions: { name: 'before' | 'after'; bundle: string }[];
  /** Steps to play; left out, they are found on the first version's page. */
  steps?: Step[];
  hints: Hints;
  answers: Record<string, Answer[]>;
  requests: RequestAnswer[];
}

/** What the source tells about good and bad values. */
export interface Hints {
  /** Two clicks come one after the other, so that what is due at once is done between them. */
  clicksApart?: boolean;
  /** Texts that keep a rule, by the label, name or id of a control. */
  right: Record<string, string[]>;
  wrong: Record<string, string[]>;
  submit: string[];
}

/** What a function that the form was given answers, call after call; the last answer repeats. `after` in milliseconds. */
export interface Answer {
  gives?: unknown;
  fails?: { message: string; status?: number } & Record<string, unknown>;
  after?: number;
}

/** What a request is answered; `url` is a part of the address. */
export interface RequestAnswer {
  url?: string;
  status?: number;
  json?: unknown;
  fails?: string;
  after?: number;
}

export type PlayReply =
  | { ok: true; traces: { name: 'before' | 'after'; trace: Trace }[] }
  | { ok: false; version: 'before' | 'after'; reason: string };
