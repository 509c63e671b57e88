/** An approach as people choose it. */
export interface ApproachCard {
  id: string;
  title: string;
  /** What it is good for, in one sentence. */
  goodFor: string;
  /** Whether forms in it can be read in full; otherwise it is only recognised. */
  reads: boolean;
  /** Whether it can be a target. */
  writes: boolean;
}
