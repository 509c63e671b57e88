export interface Day {
  day: string;
  pickers: number;
}

export const emptyDay: Day = { day: '2026-09-01', pickers: 6 };
