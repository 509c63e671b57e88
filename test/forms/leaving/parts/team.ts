export interface Hand {
  name: string;
  hours: string;
}
export interface Team {
  plot: string;
  day: string;
  hands: Hand[];
  note: string;
}
