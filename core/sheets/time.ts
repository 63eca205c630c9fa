const IN_UTC = { timeZone: 'UTC' } as const
const date = new Intl.DateTimeFormat('en-GB', { ...IN_UTC, dateStyle: 'long' })
const time = new Intl.DateTimeFormat('en-GB', { ...IN_UTC, timeStyle: 'short' })

/** A point in time (ISO 8601, UTC) as it is to be read: “4 May 2026, 19:30 UTC”. */
export function timeWords(at: string): string {
  const when = new Date(at)
  return `${date.format(when)}, ${time.format(when)} UTC`
}
