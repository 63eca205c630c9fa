const TIME = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' })
const DAY = new Intl.DateTimeFormat(undefined, { weekday: 'short', day: 'numeric', month: 'short' })

/** The time of day of a moment, in ms since 1970; empty where it is not known. */
export const clock = (at: number | null): string => (at === null ? '' : TIME.format(at))

/** From one moment to another, with the day. */
export function dayAndTime(from: number, to: number): string {
  const [first, last] = [TIME.format(from), TIME.format(to)]
  return `${DAY.format(to)}, ${first === last ? last : `${first}–${last}`}`
}
