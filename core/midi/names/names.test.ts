import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readNames, writeNames, type NameDocument } from '.'
import { cases } from '../../testing/cases'

/** A name as documents hold it: no blanks but single ones between words. */
const name = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 12 })
  .map((text) => text.replaceAll(/[\s\p{Cc}\p{Cs}\ufffe\uffff\u200b\ufeff\u0085\u2028\u2029]/gu, ''))
  .filter((text) => text !== '')
const seven = fc.integer({ min: 0, max: 127 })
const named = fc.record({ number: seven, name })

const anyNames: fc.Arbitrary<NameDocument> = fc.record({
  author: fc.constant(''),
  manufacturer: name,
  model: name,
  controls: fc.array(
    fc
      .record({
        type: fc.constantFrom('7bit' as const, '14bit' as const, 'RPN' as const, 'NRPN' as const),
        number: fc.integer({ min: 0, max: 31 }),
        name,
        ends: fc.option(fc.tuple(seven, seven)),
        values: fc.array(named, { maxLength: 3 }),
      })
      .map(({ ends, ...control }) => ({ ...control, min: ends?.[0] ?? null, max: ends?.[1] ?? null })),
    { maxLength: 5 },
  ),
  notes: fc.array(named, { maxLength: 5 }),
  banks: fc.array(
    fc.record({
      name,
      select: fc.option(fc.record({ msb: seven, lsb: seven })),
      patches: fc.array(fc.record({ number: seven, name, label: seven.map(String) }), {
        minLength: 1,
        maxLength: 4,
      }),
    }),
    { maxLength: 3 },
  ),
})

const refused = (text: string): string => {
  const read = readNames(text)
  return read.ok ? 'read' : read.message
}
const wrapped = (inside: string): string =>
  `<?xml version="1.0"?>\n<MIDINameDocument><MasterDeviceNames><Manufacturer>M</Manufacturer><Model>N</Model>${inside}</MasterDeviceNames></MIDINameDocument>`

describe('MIDI Name Documents', () => {
  it('read back what was written', () => {
    fc.assert(
      fc.property(anyNames, (names) => {
        const read = readNames(writeNames(names))
        expect(read).toEqual({ ok: true, names, left: [] })
      }),
    )
  })

  it('take lists from where they are referred to', () => {
    const read = readNames(
      wrapped(
        `<ChannelNameSet Name="s"><AvailableForChannels><AvailableChannel Channel="1" Available="true"/></AvailableForChannels>
         <UsesNoteNameList Name="kit"/><PatchBank Name="A"><UsesPatchNameList Name="p"/></PatchBank></ChannelNameSet>
         <NoteNameList Name="kit"><NoteGroup Name="g"><Note Number="36" Name="Low &amp; dry"/></NoteGroup></NoteNameList>
         <PatchNameList Name="p"><Patch Number="A1" Name="One"/><Patch Number="A2" Name="Two"/></PatchNameList>`,
      ),
    )
    expect(read).toMatchObject({
      ok: true,
      names: {
        notes: [{ number: 36, name: 'Low & dry' }],
        banks: [
          {
            name: 'A',
            select: null,
            patches: [
              { number: 0, label: 'A1', name: 'One' },
              { number: 1, label: 'A2', name: 'Two' },
            ],
          },
        ],
      },
    })
  })

  it('say what they leave out, and go on', () => {
    const read = readNames(
      wrapped(
        '<ChannelNameSet Name="s"><ControlNameList Name="c"><Control Number="200" Name="Far"/><Control Number="7" Name="Near"/></ControlNameList></ChannelNameSet><Extra/>',
      ),
    )
    expect(read).toMatchObject({ ok: true, names: { controls: [{ number: 7 }] } })
    expect(read.ok && read.left).toEqual([
      '“Extra” is not read.',
      'The control “Far” is left out: there is no 7bit number “200”.',
    ])
  })

  it.each<[string, string, RegExp]>([
    ['nothing', '', /Line 1/],
    ['what is not XML', 'name,number\nA,1', /Line 1/],
    ['a tag that is not closed', wrapped('<ChannelNameSet Name="s">'), /Line 2/],
    ['a tag that breaks off', wrapped('') + '\n<Note /', /Line 3/],
    ['nothing but the start of a tag', '<Note /', /Line 1: it breaks off here/],
    ['another document', '<?xml version="1.0"?><score/>', /begins with “score”/],
    ['no device', '<MIDINameDocument/>', /names no device/],
    [
      'entities of its own',
      `<?xml version="1.0"?>\n<!DOCTYPE d [\n<!ENTITY a "aaaa">\n]>${wrapped('')}`,
      /Line 3: it declares entities/,
    ],
    ['rules of its own', `<!DOCTYPE d [ <!ELEMENT x ANY> ]>${wrapped('')}`, /DOCTYPE/],
    ['nested to death', wrapped('<a>'.repeat(100_000) + '</a>'.repeat(100_000)), /more than 40 deep/],
    ['huge', wrapped('x'.repeat(8_000_001)), /larger than 8 MB/],
    ['very many elements', wrapped('<a/>'.repeat(200_001)), /more than 200000 elements/],
  ])('refuse %s with the place and the reason', (_, text, why) => {
    expect(refused(text)).toMatch(why)
  })

  it('never fall over, whatever they are given', () => {
    const piece = fc.constantFrom(
      '<',
      '>',
      '/',
      '"',
      '&',
      '<Note ',
      'Number="1"',
      '<!--',
      ']]>',
      '<MIDINameDocument>',
      '&#x110000;',
      'a',
    )
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 30 }), (pieces) => {
        const read = readNames(pieces.join(''))
        if (!read.ok) expect(read.message).not.toBe('')
      }),
      cases(2000),
    )
  })
})
