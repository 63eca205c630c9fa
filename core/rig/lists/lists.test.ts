import Papa from 'papaparse'
import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readNames, writeNames } from '../../midi/names'
import { nineRingsRig } from '../../../demo'
import {
  fromNames,
  guessedColumns,
  INERT,
  namesOf,
  NOTE_FIELDS,
  notesFrom,
  PARAMETER_FIELDS,
  parametersFrom,
  PROGRAM_FIELDS,
  programsFrom,
  readTable,
  type TableRow,
} from '.'

const rowsOf = (text: string): readonly TableRow[] => {
  const read = readTable(text)
  if (!read.ok) throw new Error(read.message)
  return read.rows
}
const parameters = (text: string) => {
  const rows = rowsOf(text)
  return parametersFrom(rows, guessedColumns(PARAMETER_FIELDS, rows), new Set(['taken']))
}

describe('a table', () => {
  it('gives back the cells that were written, with the line of each', () => {
    const cell = fc
      .oneof(fc.string({ maxLength: 8 }), fc.stringMatching(/^'{0,2}[=+@-][a-z0-9]{0,3}$/))
      .map((text) => text.trim())
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('x', 'y'), cell, cell), { minLength: 1, maxLength: 8 }),
        (lines) => {
          const text = Papa.unparse(lines, { delimiter: ',', ...INERT })
          fc.pre(!lines.flat().some((each) => each.includes('\0')))
          expect(rowsOf(text).map(({ cells }) => cells)).toEqual(lines)
          const [first] = rowsOf(text)
          expect(first?.line).toBe(1)
        },
      ),
    )
  })

  it('counts lines over cells that hold several, and over empty ones', () => {
    expect(rowsOf('a,b\n"one\ntwo",x\n\nlast,y').map(({ line }) => line)).toEqual([1, 2, 5])
  })

  it.each([
    [
      'a;b\nc;d',
      [
        ['a', 'b'],
        ['c', 'd'],
      ],
    ],
    [
      'a\tb\nc\td',
      [
        ['a', 'b'],
        ['c', 'd'],
      ],
    ],
    ['\ufeffa,b', [['a', 'b']]],
    [
      '=SUM(A1),+1\n@x,-2',
      [
        ['=SUM(A1)', '+1'],
        ['@x', '-2'],
      ],
    ],
  ])('reads %j as text, cell by cell', (text, cells) => {
    expect(rowsOf(text).map((row) => row.cells)).toEqual(cells)
  })

  it.each<[string, string, RegExp]>([
    ['nothing', ' \n', /nothing in this table/],
    ['an open quotation mark', 'a,b\nc,"d\ne,f', /Line 2: a quotation mark opens/],
    ['no text', 'PK\0\0', /no text/],
    ['a huge one', 'x,y\n'.repeat(1_000_001), /larger than 4 MB/],
    ['too many lines', 'x\n'.repeat(20_001), /more than 20000 lines/],
    ['too many columns', ','.repeat(200) + 'x', /has 201 columns/],
  ])('refuses %s with the line and the reason', (_, text, why) => {
    const read = readTable(text)
    expect(read.ok ? 'read' : read.message).toMatch(why)
  })
})

describe('parameters out of a table', () => {
  it('come with all that the columns say', () => {
    const { items, bad } = parameters(
      'Section,Parameter,CC,Min,Max,Unit,Steps,Type,Choices\n' +
        'Filter,Cutoff,74,20,20000,Hz,,,\nFilter,Slope,,,,,,,12 | 24\nOut > Left,Level,1:nrpn300,-60,6,dB,67,continuous,',
    )
    expect(bad).toEqual([])
    expect(items).toMatchObject([
      {
        id: 'filter-cutoff',
        path: ['Filter'],
        range: { min: 20, max: 20000, unit: 'Hz' },
        fixed: { kind: 'cc', number: 74, channel: null },
      },
      { kind: 'choice', choices: ['12', '24'] },
      { path: ['Out', 'Left'], steps: 67, fixed: { kind: 'nrpn', number: 300, channel: 1 } },
    ])
  })

  it('are taken from the first column where nothing is headed', () => {
    expect(parameters('Cutoff\nDrive\nDrive').items.map(({ id, name }) => [id, name])).toEqual([
      ['cutoff', 'Cutoff'],
      ['drive', 'Drive'],
      ['drive-2', 'Drive'],
    ])
  })

  it.each([
    ['name,from,to\nA,5,5', 'its values run from 5 to 5: the first must be below the second.'],
    ['name,from\nA,5', 'it has one end of its values only: give both, or none.'],
    ['name,from,to\nA,x,5', '“x” is no number.'],
    ['name,cc\nA,200', /“200” is no number or address/],
    ['name,kind\nA,slider', /“slider” is no kind/],
    ['name,unit\n,Hz', 'it has no name.'],
    ['name,values\nA,1', /steps/],
    ['name,choices\nA,one', /one choice only/],
  ])('name the line that cannot be read: %j', (text, why) => {
    const { items, bad } = parameters(`${text}\ngood`)
    expect(items.map(({ name }) => name)).toEqual(['good'])
    expect(bad).toMatchObject([
      { line: 2, message: why instanceof RegExp ? expect.stringMatching(why) : why },
    ])
  })
})

describe('names out of a table', () => {
  it('are notes by number or by name, in the octaves of the destination', () => {
    const rows = rowsOf('Note,Sound\n36,Deep\nC3,Rim\nH2,?\n36,Again\n40,')
    const read = notesFrom(rows, guessedColumns(NOTE_FIELDS, rows), 4)
    expect(read.items).toEqual([
      { number: 36, name: 'Deep' },
      { number: 48, name: 'Rim' },
    ])
    expect(read.bad.map(({ line }) => line)).toEqual([4, 5, 6])
  })

  it('are programs as the destination counts them', () => {
    const rows = rowsOf('1,Cold\n128,Last,2.1\n0,None\n129,Far\n1,Twice')
    const read = programsFrom(rows, guessedColumns(PROGRAM_FIELDS, rows), 1)
    expect(read.items).toEqual([
      { number: 0, name: 'Cold', bank: null },
      { number: 127, name: 'Last', bank: { msb: 2, lsb: 1 } },
    ])
    expect(read.bad.map(({ line }) => line)).toEqual([3, 4, 5])
  })
})

describe('a destination as a MIDI Name Document', () => {
  it.each(['ondrel-vi', 'kettlow'])('%s comes back as it was', (id) => {
    const destination = nineRingsRig('as-performed').destinations.find((each) => each.id === id)
    if (!destination) throw new Error(id)
    const read = readNames(writeNames(namesOf(destination)))
    if (!read.ok) throw new Error(read.message)
    const back = fromNames(read.names, new Set())
    expect(back.left).toEqual([])
    expect(back.noteNames).toEqual(destination.noteNames)
    expect(back.programs).toEqual(destination.programs)
    const kept = destination.parameters.filter(({ fixed }) =>
      ['cc', 'cc14', 'nrpn', 'rpn'].includes(fixed?.kind ?? ''),
    )
    expect(back.parameters.map(({ name, path, fixed }) => ({ name, path, fixed }))).toEqual(
      kept.map(({ name, path, fixed }) => ({ name, path, fixed })),
    )
  })
})
