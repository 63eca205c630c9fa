const TIME = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' })
const DAY = new Intl.DateTimeFormat(undefined, { weekday: 'short', day: 'numeric', month: 'short' })

/** The time of day of a moment, in ms since 1970; empty where it is not known. */
export const clock = (at: number | null): string => (at === null ? '' : TIME.format(at))

/** A moment in a few words: the time, with the day where it is not today. */
export function shortly(at: number, now: number = Date.now()): string {
  return new Date(at).toDateString() === new Date(now).toDateString() ? clock(at) : dayAndTime(at, at)
}

/** From one moment to another, with the day. */
export function dayAndTime(from: number, to: number): string {
  const [first, last] = [TIME.format(from), TIME.format(to)]
  return `${DAY.format(to)}, ${first === last ? last : `${first}–${last}`}`
}
