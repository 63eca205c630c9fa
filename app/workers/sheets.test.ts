import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { nodeTools } from '../../shared/sheets/node-tools'
import { createSheetMaker } from './sheets'

const maker = () => createSheetMaker(nodeTools)

describe('the maker of sheets', () => {
  it('gives only what can cross to the page, and every sheet of its list', () => {
    const own = maker()
    const groups = structuredClone(own.take(nineRingsRig('as-performed')))
    const ids = groups.flatMap(({ sheets }) => sheets.map(({ id }) => id))
    expect(new Set(ids).size).toBe(ids.length)
    for (const id of ids)
      expect(structuredClone(own.make({ id, chosen: {} }))?.sections.length).toBeGreaterThan(0)
  })

  it('makes sheets of the rig that it was given last', () => {
    const own = maker()
    const rig = nineRingsRig('as-performed')
    own.take(rig)
    expect(own.make({ id: 'card corvel', chosen: {} })).not.toBeNull()
    own.take({ ...rig, name: 'Another', controllers: rig.controllers.filter(({ id }) => id !== 'corvel') })
    expect(own.make({ id: 'card corvel', chosen: {} })).toBeNull()
    expect(own.make({ id: 'checklist', chosen: {} })?.subtitle).toBe('Another')
  })

  it('finds the line that holds all words, wherever it is', () => {
    const own = maker()
    own.take(nineRingsRig('as-performed'))
    const { hits, count } = own.search('FERRIC high CUT 1:cc109', 5)
    expect(count).toBeGreaterThan(0)
    for (const { sheet, section, line, text } of hits) {
      const row = own.make({ id: sheet, chosen: {} })?.sections[section]?.table?.rows[line]
      expect(
        row?.cells
          .map((cell) => cell.text)
          .filter(Boolean)
          .join(' · '),
      ).toBe(text)
    }
    expect(own.search('nowhere to be found', 5)).toEqual({ hits: [], count: 0 })
  })

  it('refuses a sheet that is gone, and a format that is none, in words', async () => {
    const own = maker()
    own.take(nineRingsRig('as-performed'))
    await expect(own.write({ id: 'map nobody', chosen: {} }, 'csv', '')).rejects.toThrow(
      'no longer in the rig',
    )
    await expect(own.write({ id: 'checklist', chosen: {} }, 'doc', '')).rejects.toThrow('No format')
  })
})
