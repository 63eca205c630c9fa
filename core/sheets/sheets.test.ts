import * as fc from 'fast-check'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { INERT } from '../rig'
import { destinationMap, SHEET_FORMATS, type SheetDocument } from '.'
import { renderCsv } from './render-csv'
import { renderHtml } from './render-html'
import { renderMarkdown } from './render-markdown'

const rig = nineRingsRig('as-performed')
const sectionOf = (sheet: SheetDocument, heading: string) =>
  sheet.sections.find((section) => section.heading === heading)
const table = (texts: readonly (readonly string[])[]): SheetDocument => ({
  title: 'T',
  subtitle: 'S',
  facts: [],
  sections: [
    {
      heading: 'H',
      table: {
        columns: [{ title: 'A' }, { title: 'B' }],
        rows: texts.map((row) => row.map((text) => ({ text }))),
      },
    },
  ],
})

describe('the destination map', () => {
  it('lists every mapping of the destination with its address, and every parameter once', () => {
    const sheet = destinationMap(rig, 'ondrel-vi')
    const mapped = sectionOf(sheet, 'What moves it')?.table?.rows ?? []
    expect(mapped).toHaveLength(rig.mappings.filter(({ destination }) => destination === 'ondrel-vi').length)
    const brightness = mapped.find(([parameter]) => parameter?.text === 'Filter · Brightness')
    expect(brightness?.map(({ text }) => text)).toEqual([
      'Filter · Brightness',
      'Merrod 49',
      'Slate left–right',
      '2:cc74',
      '0 to 127',
      'everywhere',
      'when met',
      'in order',
    ])
    const names = new Set(
      [...mapped, ...(sectionOf(sheet, 'What nothing moves')?.table?.rows ?? [])].map(([name]) => name?.text),
    )
    expect(names.size).toBe(
      new Set(
        rig.destinations
          .find(({ id }) => id === 'ondrel-vi')
          ?.parameters.map(({ path, name }) => [...path, name].join(' · ')),
      ).size,
    )
  })

  it('names notes and programs in the destination’s own way', () => {
    expect(
      sectionOf(destinationMap(rig, 'kettlow'), 'Notes')?.table?.rows[0]?.map(({ text }) => text),
    ).toEqual(['36', 'C1', 'Deep kick'])
    expect(
      sectionOf(destinationMap(rig, 'ondrel-vi'), 'Programs')?.table?.rows[0]?.map(({ text }) => text),
    ).toEqual(['1', 'pc0.1.0', 'Cold rim'])
  })

  it('says when nothing is there, and refuses a destination that is not', () => {
    const bare = { ...rig, mappings: [] }
    expect(sectionOf(destinationMap(bare, 'siltglass'), 'What moves it')?.note).toBe(
      'No control is joined to it yet.',
    )
    expect(() => destinationMap(rig, 'nobody')).toThrow(RangeError)
  })
})

describe('formats', () => {
  const cell = fc.string({ unit: 'grapheme', maxLength: 12 })
  it('CSV reads back cell by cell, whatever stands in it', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 5 }), (rows) => {
        const parsed = Papa.parse<string[]>(renderCsv(table(rows)).slice(0, -2), { newline: '\r\n' })
        const [headings, ...lines] = parsed.data
        expect(headings).toEqual(['Section', 'A', 'B'])
        const written = lines.map(([, ...cells]) => cells)
        // A spreadsheet would work out a formula: an apostrophe before it keeps it text.
        for (const one of written.flat()) expect(one).not.toMatch(/^(?:[=@].|[+-](?!$|\d+([.,]\d+)?$))/s)
        rows.forEach((row, index) =>
          row.forEach((text, column) => {
            const one = written[index]?.[column]
            expect([text, `'${text}`]).toContain(one)
            expect(one === text).toBe(!INERT.escapeFormulae.test(text))
          }),
        )
      }),
    )
  })

  it('CSV of a table without rows is empty', () => expect(renderCsv(table([]))).toBe(''))

  it('HTML lets no cell become markup, and links to nothing outside', () => {
    const html = renderHtml(table([['<script>alert(1)</script>', '"&\'']]))
    expect(html).not.toContain('<script>')
    expect(html).toContain('&lt;script&gt;')
    expect(html).toContain('&quot;&amp;&#39;')
    expect(html).not.toMatch(/(src|href)=/)
  })

  it('Markdown keeps a row a row', () => {
    const markdown = renderMarkdown(table([['a|b', 'line\nbreak']]))
    expect(markdown).toContain('| a\\|b | line break |')
  })

  it.each(SHEET_FORMATS.map(({ id }) => id))('%s holds every parameter of the map', (id) => {
    const format = SHEET_FORMATS.find((candidate) => candidate.id === id)
    const text = format?.render(destinationMap(rig, 'ferric-mile')) ?? ''
    for (const name of ['Feedback', 'Hiss', 'High cut', 'Trim']) expect(text).toContain(name)
    expect(text).toContain('1:cc106')
  })
})
