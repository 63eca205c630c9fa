import { parse as parseCsv } from 'csv-parse/sync'
import * as fc from 'fast-check'
import { Marked, type Token, type Tokens } from 'marked'
import { parse as parseHtml } from 'parse5'
import readXlsx from 'read-excel-file/node'
import { beforeAll, describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { FORMATS } from '../../app/lib/sheet-formats'
import { bookOf, SHEET_FORMATS, sheetsOf, type SheetDocument } from '../../core/sheets'
import { plainSheet } from '../../core/sheets/plain'
import { linesBeside, row, words, columns } from '../../core/sheets/document'
import { AWKWARD_TEXTS, withAwkwardNames } from '../../core/testing/named-rigs'
import { anyMappedRig, anyRig } from '../../core/testing/rigs'
import type { Rig } from '../../core/rig'
import { nodeTools } from './node-tools'
import { writeXlsx } from './xlsx'
import { cases } from '../../core/testing/cases'

/** What every reader gives: the lines of tables as they stand, and all else that is said. */
interface ReadBack {
  lines: string[][]
  said: string
}

const render = (sheet: SheetDocument, id: string): string => {
  const format = SHEET_FORMATS.find((each) => each.id === id)
  if (format?.by !== 'text') throw new Error(`no ${id}`)
  return format.render(sheet)
}

/** A field that a spreadsheet would work out has an apostrophe before it. */
const withoutApostrophe = (text: string): string => (/^'[=+\-@]/.test(text) ? text.slice(1) : text)

function readCsv(sheet: SheetDocument): ReadBack {
  const lines = parseCsv(render(sheet, 'csv'), { record_delimiter: '\r\n' }) as string[][]
  return {
    lines: lines.map((line) => line.map(withoutApostrophe)),
    said: lines.flat().map(withoutApostrophe).join('\n'),
  }
}

const textOf = (tokens: readonly Token[]): string =>
  tokens
    .map((token) =>
      'tokens' in token && token.tokens ? textOf(token.tokens) : 'text' in token ? token.text : '',
    )
    .join('')

function readMarkdown(sheet: SheetDocument): ReadBack {
  const tokens = new Marked({ gfm: true }).lexer(render(sheet, 'markdown'))
  const tables = tokens.filter((token): token is Tokens.Table => token.type === 'table')
  const lines = tables.flatMap(({ rows }) => rows.map((cells) => cells.map((cell) => textOf(cell.tokens))))
  const others = tokens.flatMap((token) => {
    if (token.type === 'list') return (token as Tokens.List).items.map((item) => textOf(item.tokens))
    return 'tokens' in token && token.tokens ? [textOf(token.tokens)] : []
  })
  return { lines, said: others.join('\n') }
}

interface HtmlNode {
  nodeName: string
  value?: string
  childNodes?: HtmlNode[]
}
const inside = (node: HtmlNode): string =>
  node.nodeName === 'style' || node.nodeName === 'svg'
    ? ''
    : (node.value ?? (node.childNodes ?? []).map(inside).join(''))
const named = (node: HtmlNode, name: string): HtmlNode[] =>
  node.nodeName === name ? [node] : (node.childNodes ?? []).flatMap((child) => named(child, name))

function readHtml(sheet: SheetDocument): ReadBack & { root: HtmlNode } {
  const root = parseHtml(render(sheet, 'html')) as unknown as HtmlNode
  const lines = named(root, 'tbody')
    .flatMap((body) => named(body, 'tr'))
    .map((line) => named(line, 'td').map((cell) => inside(cell).replace(/^[☐☑] /, '')))
  return {
    lines,
    said: ['h1', 'h2', 'p', 'dt', 'dd'].flatMap((name) => named(root, name).map(inside)).join('\n'),
    root,
  }
}

async function readBackXlsx(sheet: SheetDocument): Promise<ReadBack> {
  const read = await readXlsx(Buffer.from(await writeXlsx(sheet, nodeTools)), { trim: false })
  const lines = read
    .slice(1)
    .flatMap(({ data }) => data.slice(1).map((line) => line.map((cell) => String(cell ?? ''))))
  return { lines, said: read.flatMap(({ data }) => data.flat().map((cell) => String(cell ?? ''))).join('\n') }
}

const trimmedEnd = (line: readonly string[]): string[] => {
  const copy = [...line]
  while (copy.at(-1) === '') copy.pop()
  return copy
}

/** The lines of the tables of a sheet; without those that a drawing says where the format draws. */
const linesOf = (sheet: SheetDocument, draws = false): string[][] =>
  sheet.sections
    .filter(({ isChapter }) => !isChapter)
    .flatMap((section) => (draws ? linesBeside(section) : (section.table?.rows ?? [])))
    .map(({ cells }) => trimmedEnd(cells.map(({ text }) => text)))

const saidIn = ({ title, subtitle, facts, sections }: SheetDocument): string[] => [
  title,
  subtitle,
  ...facts.flatMap(({ label, value }) => [label, value]),
  ...sections.flatMap(({ note }) => (note === undefined ? [] : [note])),
]

/** Every line of every table is there in its order, and everything else is said, in every format. */
async function holdsAll(sheet: SheetDocument): Promise<void> {
  const csv = readCsv(sheet)
  const withSection = sheet.sections
    .filter(({ isChapter }) => !isChapter)
    .flatMap(({ heading, table }) =>
      (table?.rows ?? []).map(({ cells }) => trimmedEnd([heading, ...cells.map(({ text }) => text)])),
    )
  const kept = csv.lines.map(trimmedEnd)
  for (const line of withSection) expect(kept).toContainEqual(line)
  const readers: Array<[string, ReadBack, string[][]]> = [
    ['Markdown', readMarkdown(sheet), linesOf(sheet)],
    ['HTML', readHtml(sheet), linesOf(sheet, true)],
    ['XLSX', await readBackXlsx(sheet), linesOf(sheet)],
  ]
  for (const [name, read, expected] of readers) {
    expect(read.lines.map(trimmedEnd), `${name}: ${sheet.title}`).toEqual(expected)
    for (const text of saidIn(sheet)) expect(read.said, name).toContain(text)
  }
  for (const text of saidIn(sheet)) expect(csv.said).toContain(text)
}

const everySheet = (rig: Rig): SheetDocument[] =>
  sheetsOf(rig).flatMap(({ sheets }) =>
    sheets.flatMap((each) => [
      each.make(),
      ...each.options.flatMap(({ id, choices }) =>
        choices.slice(1, 2).map((choice) => each.make({ [id]: choice.id })),
      ),
    ]),
  )

describe('every format of a sheet', () => {
  it('holds the same facts: all sheets of the demo', async () => {
    for (const sheet of everySheet(nineRingsRig('as-performed'))) await holdsAll(sheet)
  }, 120_000)

  it('holds the same facts, whatever the rig and its names', async () => {
    await fc.assert(
      fc.asyncProperty(withAwkwardNames(fc.oneof(anyRig, anyMappedRig)), async (rig) => {
        for (const sheet of everySheet(rig)) await holdsAll(sheet)
      }),
      cases(4),
    )
  }, 240_000)

  it('holds whatever stands in a table', async () => {
    const cell = fc.oneof(fc.string({ unit: 'binary', maxLength: 30 }), fc.constantFrom(...AWKWARD_TEXTS))
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 6 }),
        cell,
        async (rows, note) => {
          const sheet: SheetDocument = {
            title: 'T',
            subtitle: 'S',
            facts: [{ label: 'Fact', value: note || 'none' }],
            sections: [
              {
                heading: 'H',
                table: {
                  columns: columns('A', 'B', 'C'),
                  rows: rows.map(([a, b]) => row([words(a), words(b), words('end')])),
                },
              },
            ],
          }
          const flat = plainSheet(sheet)
          const csv = parseCsv(render(flat, 'csv'), { record_delimiter: '\r\n' }) as string[][]
          // A spreadsheet would work out a formula: an apostrophe before it keeps it text.
          for (const one of csv.flat()) expect(one).not.toMatch(/^(?:[=@\t\r].|[+-](?!$|\d+([.,]\d+)?$))/s)
          expect(new Set(csv.map((line) => line.length)).size).toBe(1)
          await holdsAll(flat)
        },
      ),
      cases(16),
    )
  }, 60_000)

  it('lets nothing become markup or ask for anything outside', () => {
    for (const text of AWKWARD_TEXTS) {
      const sheet = plainSheet({
        title: text,
        subtitle: text,
        facts: [{ label: text, value: text }],
        sections: [{ heading: text, note: text }],
      })
      const { root } = readHtml(sheet)
      expect(named(root, 'script')).toEqual([])
      expect(render(sheet, 'html')).not.toMatch(/(src|href)="(?!#)/)
    }
  })

  it('is offered on the page under the same names', () => {
    expect(FORMATS).toEqual(SHEET_FORMATS.map(({ id, name }) => ({ id, name })))
  })
})

describe('XLSX', () => {
  let read: Awaited<ReturnType<typeof readXlsx>>
  beforeAll(async () => {
    const sheet = sheetsOf(nineRingsRig('as-performed'))
      .flatMap(({ sheets }) => sheets)
      .find(({ id }) => id === 'controller syzra')
    if (!sheet) throw new Error('no sheet')
    read = await readXlsx(Buffer.from(await writeXlsx(sheet.make(), nodeTools)))
  })
  it('has numbers as numbers, and a worksheet for each table', () => {
    const [, first] = read
    const head = first?.data[0]
    const from = head?.indexOf('From') ?? -1
    expect(from).toBeGreaterThan(0)
    expect(typeof first?.data[1]?.[from]).toBe('number')
    expect(new Set(read.map(({ sheet }) => sheet)).size).toBe(read.length)
  })
  it('gives every table a name that is its own, however alike the headings', async () => {
    const alike = {
      title: 'T',
      subtitle: 'S',
      facts: [],
      sections: [
        '[a]/very long heading that goes on and on',
        '[a]/very long heading that goes on and off',
        'History',
        "'",
      ].map((heading) => ({ heading, table: { columns: columns('A'), rows: [row([words('x')])] } })),
    }
    const names = (await readXlsx(Buffer.from(await writeXlsx(alike, nodeTools)))).map(({ sheet }) => sheet)
    expect(names).toHaveLength(5)
    expect(new Set(names.map((name) => name.toLowerCase())).size).toBe(5)
    for (const name of names) expect(name.length).toBeLessThanOrEqual(31)
  })
})

describe('the book', () => {
  it('holds its sheets in their order, with the day and the version', async () => {
    const rig = nineRingsRig('as-performed')
    const sheets = sheetsOf(rig).flatMap((group) => group.sheets.slice(0, 1).map((each) => each.make()))
    const book = bookOf(rig.name, sheets, { date: '1 May 2026', version: 'AAAA-BBBB' })
    expect(book.sections.filter(({ isChapter }) => isChapter).map(({ heading }) => heading)).toEqual(
      sheets.map(({ title }) => title),
    )
    const text = render(book, 'html')
    expect(text).toContain('1 May 2026')
    expect(text).toContain('AAAA-BBBB')
    expect(linesOf(book)).toEqual(sheets.flatMap((sheet) => linesOf(sheet)))
  })
  it('says so where nothing is bound', () => {
    expect(bookOf('R', [], { date: '', version: '' }).sections[0]?.heading).toBe('No sheet chosen')
  })
})
