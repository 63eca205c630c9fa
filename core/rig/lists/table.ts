import Papa from 'papaparse'

/** One line of a table: where it stands in the text (from 1), and its cells, trimmed. */
export interface TableRow {
  line: number
  cells: readonly string[]
}

export type TableRead = { ok: true; rows: readonly TableRow[] } | { ok: false; line: number; message: string }

/** How much a table may hold. */
export interface TableLimits {
  /** Letters of the whole text. */
  characters: number
  /** Empty ones included. */
  lines: number
  rows: number
}
const LIST_LIMITS: TableLimits = { characters: 4_000_000, lines: 100_000, rows: 20_000 }
const MOST_COLUMNS = 100

const QUOTE_WORDS: Readonly<Record<string, string>> = {
  MissingQuotes: 'a quotation mark opens a cell and none closes it',
  InvalidQuotes: 'a quotation mark closes a cell, but the cell goes on',
}

/**
 * What a spreadsheet takes for a formula, if it stands first in a cell; a number with its sign it does not. Apostrophes before
 * it count as well, so that one more of them can always be taken away again.
 */
const FORMULA = /^'*(?:[=@](?=.)|[\t\r]|[+-](?!$|\d+(?:[.,]\d+)?$))/s

/** How `Papa.unparse` makes such cells plain text: with an apostrophe before them, which `readTable` takes away again. */
export const INERT = { escapeFormulae: FORMULA } as const

const withoutApostrophe = (cell: string): string =>
  cell.startsWith("'") && FORMULA.test(cell.slice(1)) ? cell.slice(1) : cell

function isLongerThan(text: string, lines: number): boolean {
  let left = lines
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) if (--left < 0) return true
  return false
}

/**
 * Comma-, semicolon- or tab-separated text (RFC 4180) as rows. Empty lines are left out. What looks like a formula is text
 * like any other. Refused whole, with the line and what to do, where it is broken or too large.
 */
export function readTable(text: string, most: TableLimits = LIST_LIMITS): TableRead {
  if (text.length > most.characters)
    return {
      ok: false,
      line: 1,
      message: `This table is larger than ${most.characters / 1_000_000} MB: take out what is not needed.`,
    }
  if (text.includes('\u0000'))
    return { ok: false, line: 1, message: 'This is no text: save the table as CSV, then read it again.' }
  if (isLongerThan(text, most.lines))
    return {
      ok: false,
      line: most.lines,
      message: `This table has more than ${most.lines} lines: take out what is not needed, empty lines too.`,
    }
  // An empty last line would count as one of a single column where the delimiter is guessed.
  const source = text.replace(/^\ufeff/, '').trimEnd()
  const rows: TableRow[] = []
  const broken: Array<{ line: number; message: string }> = []
  let line = 1
  let from = 0
  Papa.parse<string[]>(source, {
    delimitersToGuess: [',', ';', '\t'],
    step: ({ data, errors, meta }, parser) => {
      const own = line
      line += source.slice(from, meta.cursor).split('\n').length - 1
      from = meta.cursor
      const quote = errors.find(({ type }) => type === 'Quotes')
      if (quote)
        broken.push({
          line: own,
          message: `Line ${own}: ${QUOTE_WORDS[quote.code] ?? 'its quotation marks do not match'}.`,
        })
      const cells = data.map((cell) => withoutApostrophe(cell.trim()))
      if (cells.some((cell) => cell !== '')) rows.push({ line: own, cells })
      if (cells.length > MOST_COLUMNS)
        broken.push({
          line: own,
          message: `Line ${own} has ${cells.length} columns, ${MOST_COLUMNS} at most: is it a table?`,
        })
      if (rows.length > most.rows)
        broken.push({ line: own, message: `This table has more than ${most.rows} lines: read it in parts.` })
      if (broken.length > 0) parser.abort()
    },
  })
  const [first] = broken
  if (first) return { ok: false, ...first }
  if (rows.length === 0) return { ok: false, line: 1, message: 'There is nothing in this table.' }
  return { ok: true, rows }
}
