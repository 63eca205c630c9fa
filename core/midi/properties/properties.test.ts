import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { narrowed, widened } from './scale'
import {
  PROPERTY_KINDS,
  PROPERTY_WAYS,
  readProperties,
  writeProperties,
  type PropertyControl,
  type PropertyDocument,
} from '.'

const WIDE_MAX = 2 ** 32 - 1
const channel = fc.integer({ min: 1, max: 16 })
const seven = fc.integer({ min: 0, max: 127 })
const title = fc.string({ maxLength: 40, unit: 'grapheme' })

const anyControl: fc.Arbitrary<PropertyControl> = fc
  .record({
    title,
    kind: fc.constantFrom(...PROPERTY_KINDS),
    number: fc.integer({ min: 0, max: 16_383 }),
    channel: fc.option(channel),
    transmit: fc.constantFrom(...PROPERTY_WAYS),
    recognize: fc.constantFrom(...PROPERTY_WAYS),
    bits: fc.constantFrom(7, 14, 32),
    steps: fc.option(fc.integer({ min: 2, max: 128 })),
    ends: fc.option(fc.tuple(seven, seven)),
  })
  .map(({ ends, number, kind, ...rest }) => ({
    ...rest,
    kind,
    number: kind === 'cc' ? number % 128 : kind === 'nrpn' || kind === 'rpn' ? number : 0,
    range: ends ? { low: Math.min(...ends), high: Math.max(...ends) } : null,
  }))

const anyDocument: fc.Arbitrary<PropertyDocument> = fc.record({
  device: fc.option(fc.record({ manufacturer: title, family: title, model: title, version: title })),
  channels: fc.array(fc.record({ title, channel })),
  controls: fc.array(anyControl),
  programs: fc.array(fc.record({ title, bank: fc.record({ msb: seven, lsb: seven }), number: seven })),
})

describe('values of 32 bits', () => {
  it('have the lowest, the middle and the highest where they were, rise all the way, and come back the same', () => {
    for (const bits of [7, 14]) {
      const top = 2 ** bits - 1
      expect([0, 2 ** (bits - 1), top].map((value) => widened(value, bits))).toEqual([0, 2 ** 31, WIDE_MAX])
      let before = -1
      for (let value = 0; value <= top; value++) {
        const wide = widened(value, bits)
        expect(wide).toBeGreaterThan(before)
        expect(narrowed(wide, bits)).toBe(value)
        before = wide
      }
    }
  })

  it('of 7 bits are those of the standard’s own way of repeating what is above the middle', () => {
    // 65 = 64 + 000001: its six bits again and again below it.
    expect(widened(65, 7).toString(2)).toBe('10000010000010000010000010000010')
    expect(widened(127, 7)).toBe(WIDE_MAX)
  })
})

describe('what a device says of itself', () => {
  it('is written and read back the same', () => {
    fc.assert(
      fc.property(anyDocument, (properties) => {
        expect(readProperties(writeProperties(properties))).toEqual({ ok: true, properties, left: [] })
      }),
    )
  })

  it('is written as property exchange has it', () => {
    const text = writeProperties({
      device: { manufacturer: 'Made up', family: 'Rings', model: 'Nine', version: '1' },
      channels: [{ title: 'Lead', channel: 3 }],
      controls: [
        {
          title: 'Width',
          kind: 'nrpn',
          number: 1000,
          channel: 3,
          transmit: 'none',
          recognize: 'absolute',
          bits: 14,
          steps: null,
          range: null,
        },
      ],
      programs: [{ title: 'Glass', bank: { msb: 1, lsb: 2 }, number: 9 }],
    })
    expect(JSON.parse(text)).toEqual({
      DeviceInfo: {
        manufacturerId: [125, 0, 0],
        familyId: [0, 0],
        modelId: [0, 0],
        versionId: [0, 0, 0, 0],
        manufacturer: 'Made up',
        family: 'Rings',
        model: 'Nine',
        version: '1',
      },
      ChannelList: [{ title: 'Lead', channel: 3 }],
      AllCtrlList: [
        {
          title: 'Width',
          ctrlType: 'nrpn',
          ctrlIndex: [7, 104],
          channel: 3,
          transmit: 'none',
          recognize: 'absolute',
          numSigBits: 14,
        },
      ],
      ProgramList: [{ title: 'Glass', bankPC: [1, 2, 9] }],
    })
  })

  it('is read resource by resource, as a device answers, with more in it than we know', () => {
    const read = (value: unknown) => {
      const found = readProperties(JSON.stringify(value))
      if (!found.ok) throw new Error(found.message)
      return found.properties
    }
    const cutoff = { title: 'Cutoff', ctrlType: 'cc', ctrlIndex: [74], priority: 1, default: 64 }
    expect(read([cutoff]).controls).toMatchObject([
      { title: 'Cutoff', kind: 'cc', number: 74, transmit: 'absolute', recognize: 'absolute', bits: 7 },
    ])
    expect(read({ ChCtrlList: [cutoff] }).controls).toHaveLength(1)
    expect(read([{ title: 'Glass', bankPC: [0, 1, 2], category: ['Pad'] }]).programs).toEqual([
      { title: 'Glass', bank: { msb: 0, lsb: 1 }, number: 2 },
    ])
    expect(read([{ title: 'Lead', channel: 2, bankPC: [0, 0, 0] }]).channels).toEqual([
      { title: 'Lead', channel: 2 },
    ])
    expect(read({ manufacturerId: [1, 2, 3], model: 'Nine' }).device).toMatchObject({ model: 'Nine' })
  })

  it('leaves out and names each entry that cannot be used', () => {
    const bad: Array<[unknown, RegExp]> = [
      [
        { title: 'Far', ctrlType: 'cc', ctrlIndex: [128] },
        /“Far” is left out: entry 1 of AllCtrlList has no ctrlIndex/,
      ],
      [{ title: 'Half', ctrlType: 'nrpn', ctrlIndex: [1] }, /has no ctrlIndex/],
      [{ title: 'None', ctrlType: 'cc' }, /has no ctrlIndex/],
      [{ title: 'Odd', ctrlType: 'lever', ctrlIndex: [1] }, /has no ctrlType/],
      [{ title: 'Up', ctrlType: 'cc', ctrlIndex: [1], channel: 17 }, /has no channel/],
      [{ ctrlType: 'cc', ctrlIndex: [1] }, /An entry without a title .* has no title/],
    ]
    for (const [entry, words] of bad) {
      const found = readProperties(JSON.stringify({ AllCtrlList: [entry] }))
      expect(found.ok && found.properties.controls).toEqual([])
      expect(found.ok ? found.left.join() : '').toMatch(words)
    }
    const found = readProperties(
      JSON.stringify({ AllCtrlList: 7, ProgramList: [{ title: 'A', bankPC: [0, 0] }, 7] }),
    )
    expect(found.ok && found.left).toHaveLength(3)
    const many = Array.from({ length: 20_001 }, (_, index) => ({
      title: `P${index}`,
      bankPC: [0, 0, index % 128],
    }))
    const cut = readProperties(JSON.stringify({ ProgramList: many }))
    expect(cut.ok && [cut.properties.programs.length, cut.left.join()]).toEqual([
      20_000,
      'ProgramList has 20001 entries; only the first 20000 are read.',
    ])
  })

  it('is refused where it is something else, with what to do', () => {
    for (const text of ['', '{', '[]', '{}', '7', 'null', '"x"', '{"format":"deft-lattice/rig"}', '[[]]']) {
      const found = readProperties(text)
      expect(found.ok ? text : found.message).toMatch(/Choose the file|it should hold DeviceInfo/)
    }
    expect(readProperties(' '.repeat(8_000_001))).toMatchObject({ ok: false })
  })
})
