import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { destinationMap, type SheetDocument } from '.'

const rig = nineRingsRig('as-performed')
const sectionOf = (sheet: SheetDocument, heading: string) =>
  sheet.sections.find((section) => section.heading === heading)
describe('the destination map', () => {
  it('lists every mapping of the destination with its address, and every parameter once', () => {
    const sheet = destinationMap(rig, 'ondrel-vi')
    const mapped = sectionOf(sheet, 'What moves it')?.table?.rows ?? []
    expect(mapped).toHaveLength(rig.mappings.filter(({ destination }) => destination === 'ondrel-vi').length)
    const brightness = mapped.find(({ cells: [parameter] }) => parameter?.text === 'Filter · Brightness')
    expect(brightness?.cells.map(({ text }) => text)).toEqual([
      'Filter · Brightness',
      'Merrod 49',
      'Slate left–right',
      '2:cc74',
      '0 to 127',
      'as moved',
      'straight',
      'when met',
      '1',
      'everywhere',
      'in order',
    ])
    const names = new Set(
      [...mapped, ...(sectionOf(sheet, 'What nothing moves')?.table?.rows ?? [])].map(
        ({ cells: [name] }) => name?.text,
      ),
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
      sectionOf(destinationMap(rig, 'kettlow'), 'Notes')?.table?.rows[0]?.cells.map(({ text }) => text),
    ).toEqual(['36', 'C1', 'Deep kick'])
    expect(
      sectionOf(destinationMap(rig, 'ondrel-vi'), 'Programs')?.table?.rows[0]?.cells.map(({ text }) => text),
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
