import type { AST } from '@angular/compiler';

/** Where a template's text stands: in a file of its own, or inside the class's file from `base` on. */
export interface TemplatePlace {
  file: string;
  base: number;
  text: string;
  inline: boolean;
}

/** A stretch of a file: offsets in the file's text. */
export interface Place {
  start: number;
  end: number;
}

/** An attribute of an element as written: plain, bound, two-way, or an event. */
export interface TemplateAttribute extends Place {
  kind: 'plain' | 'property' | 'attribute' | 'class' | 'style' | 'two-way' | 'event';
  name: string;
  /** What stands between the quotes; undefined for a bare attribute. */
  value: string | undefined;
  /** Where the value stands, quotes not included. */
  valuePlace: Place | undefined;
  expression: AST | undefined;
}

/** A template variable such as `#vessel="ngModel"`, `let row`, or the item of a loop. */
export interface TemplateVariable extends Place {
  name: string;
  kind: 'reference' | 'loop' | 'let' | 'alias';
  /** What a reference asks for, such as `ngForm`; empty for the element itself. */
  exportAs: string;
  element: TemplateElement | undefined;
  /** The list a loop runs over. */
  over: AST | undefined;
  view: TemplateView;
}

/** A part of the template that comes and goes as a whole: the root, a branch of an `@if`, a row of a loop. */
export interface TemplateView extends Place {
  parent: TemplateView | undefined;
  kind: 'root' | 'condition' | 'row' | 'other';
  /** The condition it is shown under, or the list of its rows. */
  expression: AST | undefined;
  /** Whether it is shown where the condition does not hold. */
  negated: boolean;
  variables: TemplateVariable[];
  /** Name of a loop's index, as `i` in `let i = index`. */
  index: string | undefined;
}

/** An element of a template. */
export interface TemplateElement extends Place {
  tag: string;
  /** The offset behind the last attribute, before `>` or `/>`. */
  openEnd: number;
  /** Offset behind the tag's name. */
  nameEnd: number;
  attributes: TemplateAttribute[];
  references: TemplateVariable[];
  parent: TemplateElement | undefined;
  view: TemplateView;
}

/** A name that an expression of the template reads: a class member or a template variable. */
export interface TemplateName extends Place {
  name: string;
  /** Template variable it stands for; undefined for a member of the class. */
  variable: TemplateVariable | undefined;
  /** The node itself and the nodes around it, innermost first. */
  around: AST[];
  view: TemplateView;
  /** Whether it stands in an event's handler. */
  inEvent: boolean;
  element: TemplateElement | undefined;
  attribute: TemplateAttribute | undefined;
}

/** A parsed template. All offsets count in the text of the file it stands in. */
export interface Template {
  place: TemplatePlace;
  elements: TemplateElement[];
  names: TemplateName[];
  views: TemplateView[];
  variables: TemplateVariable[];
  comments: string[];
}

export type TemplateResult =
  { ok: true; template: Template } | { ok: false; problem: { offset: number; reason: string } };
