/** Counting of programs: a destination's display may begin with 0 or 1; what is sent begins with 0. */
export const shownProgram = (number: number, countsFrom: 0 | 1): number => number + countsFrom

/** The program number (0–127) that is sent for what a display shows; null if there is none. */
export function programShown(shown: number, countsFrom: 0 | 1): number | null {
  const number = shown - countsFrom
  return Number.isInteger(number) && number >= 0 && number <= 127 ? number : null
}
