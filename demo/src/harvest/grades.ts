export type Grade = "press" | "second" | "first";

/** The grade of a delivery by its weight in kilos; windfall only goes to the press. */
export function gradeFor(kilos: number, windfall: boolean): Grade {
  if (windfall) return "press";
  return kilos >= 100 ? "first" : "second";
}
