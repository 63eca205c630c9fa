/**
 * Names from a pattern, one for each of `count` controls: `{1}` counts up from 1 (`{5}` from 5),
 * `{a}` runs through letters. A pattern of several lines, or of several cells as pasted from a
 * spreadsheet, is a list: one name each, and what is beyond it keeps its name (null).
 */
export function namesByPattern(pattern: string, count: number): Array<string | null> {
  const cells = pattern
    .split(/[\t\r\n]+/)
    .map((cell) => cell.trim())
    .filter((cell) => cell !== '')
  if (cells.length > 1) return Array.from({ length: count }, (_, index) => cells[index] ?? null)
  const [only] = cells
  if (only === undefined) return Array.from({ length: count }, () => null)
  return Array.from({ length: count }, (_, index) => filled(only, index))
}

const filled = (pattern: string, index: number): string =>
  pattern.replace(/\{(\d+|[a-zA-Z])\}/g, (_, start: string) =>
    /\d/.test(start) ? String(Number(start) + index) : letters(start, index),
  )

/** `a` + 0 → a, + 25 → z, + 26 → aa. */
function letters(start: string, index: number): string {
  const isCapital = start === start.toUpperCase()
  let number = start.toLowerCase().charCodeAt(0) - 97 + index
  let text = ''
  do {
    text = String.fromCharCode(97 + (number % 26)) + text
    number = Math.floor(number / 26) - 1
  } while (number >= 0)
  return isCapital ? text.toUpperCase() : text
}
