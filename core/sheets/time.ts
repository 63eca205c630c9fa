const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
]

/** A point in time (ISO 8601, UTC) as it is to be read: “4 May 2026, 19:30 UTC”. */
export function timeWords(at: string): string {
  const [date = '', time = ''] = at.split('T')
  const [year = '', month = '', day = ''] = date.split('-')
  return `${Number(day)} ${MONTHS[Number(month) - 1] ?? month} ${year}, ${time.slice(0, 5)} UTC`
}
