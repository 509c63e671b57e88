/** An approach as people choose it. */
export interface ApproachCard {
  id: string;
  title: string;
  /** What it is good for, in one sentence. */
  goodFor: string;
  /** Whether forms in it can be read in full; otherwise it is only recognised. */
  reads: boolean;
  /** Forms in it are not read in full, and left as far as they are understood. */
  partly?: true;
  /** Forms in it are only read: nothing takes them elsewhere yet. */
  stays?: true;
  /** Ways of stating rules that it allows, the usual one first; its own code alone where left out. */
  rules?: readonly string[];
  /** Whether it can be a target. */
  writes: boolean;
}
