export interface Graft {
  scion: string;
  stock: "M9" | "M26";
  on: string;
  method: "whip" | "cleft" | undefined;
  draft: string;
}

let kept = "two buds";

/** What was written down last time. */
export function readDraft(): string {
  return kept;
}

export function keepDraft(text: string): void {
  kept = text;
}
