import type { Writer } from '../form/writing.js';
import type { FormModel } from '../form/model.js';
import type { Script } from '../source/script.js';
import type { Component } from './components.js';
import type { FormRegion } from './form-regions.js';
import type { JsxControl } from './jsx-controls.js';

/** One form as it stands in the source, before anything is known of its approach. */
export interface FormSite {
  script: Script;
  component: Component;
  region: FormRegion;
  /** Every form of the component, this one among them. */
  regions: readonly FormRegion[];
  /** Elements of the whole component that may be controls. */
  candidates: readonly JsxControl[];
  /** Parses another file of the project; undefined where there is none or it does not parse. */
  load(from: string, specifier: string): Script | undefined;
  /** Names under which the project's own components take their value. */
  ownValueNames: readonly string[];
}

/** A site that follows an approach. */
export interface Recognised {
  fields: string[];
  /** What keeps the form from being read. */
  obstacle?: string;
  /** The form in full; left out where the approach is only recognised. */
  read?: () => FormModel;
  /** The reader tells fields and controls alone: what happens to the form besides is not read from its code. */
  partly?: true;
  /**
   * The natural first step out of it, where no writer takes the form as it stands: routes to others begin with it.
   * `direct`: the approaches whose writers do take it.
   */
  leave?: { to: string; write: Writer; direct?: readonly string[] };
}

/** A way of handling form state in React. */
export interface ReactApproach {
  id: string;
  title: string;
  /** What it is good for, in one sentence. */
  goodFor: string;
  /** Ways of stating rules that it allows, the usual one first; code alone where left out. */
  rules?: readonly string[];
  /** Whether forms in it can be read in full. */
  reads: boolean;
  /** Forms in it are not read in full, and left as far as they are understood. */
  partly?: true;
  /** What is seen of a site that follows the approach; undefined where it does not. */
  recognise(site: FormSite): Recognised | undefined;
  write?: Writer;
  /** The approach that a form has to follow before the writer can take it; any that is read in full where left out. */
  writesFrom?: string;
}
