import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { parseRig, perform } from '..'
import {
  blockToText,
  ledgerRows,
  LEDGER_COLUMNS,
  textToBlock,
  writeBlock,
  type LedgerColumnId,
} from './ledger'
import { cases } from '../../testing/cases'

const rig = nineRingsRig('as-found')
const rows = ledgerRows(rig)
const columns = LEDGER_COLUMNS.map(({ id }) => id)
const at = (id: LedgerColumnId): number => columns.indexOf(id)
const first = rows.findIndex(({ control }) => control === 'Rings')

describe('the ledger', () => {
  it('has a line for every gesture in every layer, and says what the rig says', () => {
    expect(new Set(rows.map(({ key }) => key)).size).toBe(rows.length)
    const fdbk = rows.find(({ control, layer }) => control === 'Fdbk' && layer === 'Overture')
    expect(fdbk).toMatchObject({
      address: 'home:cc74',
      kind: 'CC',
      channel: 'home',
      number: '74',
      low: '0',
      high: '127',
    })
    expect(fdbk?.moves).toContain('Ferric Mile · Tape · Feedback')
    expect(rows.find(({ control }) => control === 'Loop touch')?.kind).toBe('nothing')
  })

  it('goes on naming what a line moved after its address changed, and says to teach it again', () => {
    const line = rows[first]
    if (!line) throw new Error('no such line')
    const written = writeBlock(rig, [line], ['address'], { row: 0, column: 0 }, [['9:cc28+60']])
    if (!written.ok) throw new Error(written.bad[0]?.message)
    const after = ledgerRows(perform(rig, 'x', written.edits).rig).find(({ key }) => key === line.key)
    expect(line.moves).toBe('Loomwright · Track 1 Rings · Volume')
    expect(after?.moves).toBe('Loomwright · Track 1 Rings · Volume (teach again)')
  })

  it('writes a block as one, and reads it back', () => {
    const block = [
      ['1:cc24+56', '3'],
      ['2:cc25+57', '4'],
    ]
    const addressAndChannel = columns.filter((id) => id === 'address' || id === 'channel')
    const written = writeBlock(rig, rows, addressAndChannel, { row: first, column: 0 }, block)
    if (!written.ok) throw new Error(written.bad[0]?.message)
    const after = perform(rig, 'x', written.edits).rig
    expect(parseRig(after).ok).toBe(true)
    expect(
      ledgerRows(after)
        .slice(first, first + 2)
        .map(({ address }) => address),
    ).toEqual(['3:cc24+56', '4:cc25+57'])
  })

  it('refuses a block whole, naming each bad cell', () => {
    const written = writeBlock(rig, rows, columns, { row: first, column: at('channel') }, [
      ['17', '99'],
      ['2', '40'],
      ['3', '20'],
    ])
    expect(written).toEqual({
      ok: false,
      bad: [
        { row: first, column: 'channel', message: '“17” is no channel: use 1 to 16, or home' },
        { row: first, column: 'number', message: '“99” is no number for 14-bit CC: use 1 to 31' },
        { row: first + 1, column: 'number', message: '“40” is no number for 14-bit CC: use 1 to 31' },
      ],
    })
  })

  it('refuses to write what is worked out, unless it is the same', () => {
    const line = rows[first]
    expect(writeBlock(rig, rows, columns, { row: first, column: at('kind') }, [['CC']]).ok).toBe(false)
    expect(writeBlock(rig, rows, columns, { row: first, column: at('kind') }, [[line?.kind ?? '']])).toEqual({
      ok: true,
      edits: [],
      cells: 0,
    })
  })

  it('an empty address turns a gesture off', () => {
    const written = writeBlock(rig, rows, ['address'], { row: first, column: 0 }, [['']])
    expect(written.ok && ledgerRows(perform(rig, 'x', written.edits).rig)[first]?.kind).toBe('nothing')
  })

  it('any lines pasted back onto themselves change nothing', () => {
    fc.assert(
      fc.property(fc.nat(rows.length - 1), fc.integer({ min: 1, max: 6 }), (row, count) => {
        const block = rows.slice(row, row + count).map((line) => columns.map((id) => line[id]))
        expect(writeBlock(rig, rows, columns, { row, column: 0 }, textToBlock(blockToText(block)))).toEqual({
          ok: true,
          edits: [],
          cells: 0,
        })
      }),
      cases(40),
    )
  })

  it('text for spreadsheets reads back, tabs, quotes and line breaks included', () => {
    const cell = fc.string({ unit: fc.constantFrom('a', '"', '\t', '\n', '=', ' ', '1'), maxLength: 5 })
    const block = fc.array(fc.tuple(cell, fc.constant('end')), { minLength: 1, maxLength: 4 })
    fc.assert(fc.property(block, (cells) => void expect(textToBlock(blockToText(cells))).toEqual(cells)))
  })
})
