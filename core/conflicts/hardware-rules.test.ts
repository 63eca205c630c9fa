import { describe, expect, it } from 'vitest'
import type { Rig, RigInput } from '../rig'
import {
  plainModel,
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
  layeredTemplates,
} from '../testing/rigs'
import { check } from '.'
import { cures, severities } from '../testing/mapped-rigs'

type TemplateInput = NonNullable<NonNullable<RigInput['controllers']>[number]['templates']>[number]

describe('full', () => {
  const wanting = (free: number): Rig =>
    testRig(
      [
        testController('a', {
          'k1.turn': sending({ kind: 'cc', number: 'wanted' }),
          'k2.turn': sending({ kind: 'cc', number: 'wanted' }),
          'k3.turn': sending({ kind: 'cc', number: 'wanted' }),
        }),
      ],
      undefined,
      { houseRules: [{ id: 'h', kind: 'avoid', low: free, high: 127 }] },
    )
  it('says how many want a number and how many are left', () => {
    // Below 3 only 1 and 2 can be given: 0 is bank select.
    expect(severities(wanting(3), 'full')).toEqual(['error'])
    const [finding] = check(wanting(3)).findings.filter(({ rule }) => rule === 'full')
    expect(finding?.message).toMatch(/^3 messages of .+ want a CC number on channel 1, and 2 are left/)
  })
  it('stays silent where there is just room enough', () => expect(severities(wanting(4), 'full')).toEqual([]))
  it('takes a house rule for the channel and controller that it names, and for no other', () => {
    const ruled = (more: object): Rig => {
      const rig = wanting(3)
      return { ...rig, houseRules: rig.houseRules.map((rule) => ({ ...rule, ...more })) }
    }
    expect(severities(ruled({ channel: 1 }), 'full')).toEqual(['error'])
    expect(severities(ruled({ channel: 2 }), 'full')).toEqual([])
    expect(severities(ruled({ controller: 'a' }), 'full')).toEqual(['error'])
    expect(severities(ruled({ controller: 'b' }), 'full')).toEqual([])
    expect(severities(ruled({ controller: 'a', block: 'pads' }), 'full')).toEqual([])
    expect(severities(ruled({ message: 'note' }), 'full')).toEqual([])
  })
})

describe('out-of-ability', () => {
  const withAbilities = (abilities: object, message: Parameters<typeof sending>[0]): Rig =>
    testRig([testController('a', { 'k6.turn': sending(message) })], undefined, {
      models: [{ ...plainModel, abilities: { ...plainModel.abilities, ...abilities } }],
    })
  const relative = {
    kind: 'cc',
    number: 20,
    behaviour: { kind: 'relative', encoding: 'twos-complement' },
  } as const
  it.each<[string, object, Parameters<typeof sending>[0]]>([
    ['a kind of message', { kinds: { encoder: ['note'] } }, { kind: 'cc', number: 20 }],
    ['14 bits', { fourteenBit: false }, { kind: 'cc14', number: 20 }],
    ['an encoding', { relativeEncodings: ['offset-binary'] }, relative],
  ])('finds %s that the hardware does not have', (_, abilities, message) => {
    expect(severities(withAbilities(abilities, message), 'out-of-ability')).toEqual(['error'])
    expect(severities(withAbilities({}, message), 'out-of-ability')).toEqual([])
  })
  it('finds more stacks and layers than there is room for', () => {
    const layered = (room: object): Rig =>
      testRig(
        [
          testController(
            'a',
            {},
            {
              templates: layeredTemplates({}, {}, { gestures: ['k1.turn'] }),
            },
          ),
        ],
        undefined,
        { models: [{ ...plainModel, abilities: { ...plainModel.abilities, ...room } }] },
      )
    expect(severities(layered({ stacks: 0 }), 'out-of-ability')).toEqual(['error'])
    expect(severities(layered({ layersAStack: 1 }), 'out-of-ability')).toEqual(['error'])
    expect(severities(layered({ stacks: 1, layersAStack: 2 }), 'out-of-ability')).toEqual([])
  })
})

describe('traffic', () => {
  const nrpn = (number: number, more: object = {}) => sending({ kind: 'nrpn', number, ...more })
  const onDin = (
    first: ReturnType<typeof nrpn>,
    second: ReturnType<typeof nrpn>,
    kind: 'daw' | 'synth',
  ): Rig =>
    testRig([testController('a', { 'k1.turn': first, 'k2.turn': second })], [testDestination('d', { kind })])
  it('says what two parameters at full speed ask of a DIN cable, and how to ask less', () => {
    const rig = onDin(nrpn(1), nrpn(2), 'synth')
    expect(severities(rig, 'traffic')).toEqual(['warning'])
    // 62 values of 12 bytes from each of two knobs, and 12 of clock, at 3.125 bytes a ms.
    const message = check(rig).findings.find(({ rule }) => rule === 'traffic')?.message
    expect(message).toContain(`${Math.round((2 * 62 * 12 + 12) / 3.125)} ms`)
    expect(cures(rig, 'traffic')).toEqual(['lighten'])
  })
  it('says when setting all lights at the start takes longer than two hands', () => {
    const lit = (count: number, connection: 'din' | 'usb'): Rig => {
      const pads = Array.from({ length: count }, (_, index) => `p${index}`)
      const model: NonNullable<RigInput['models']>[number] = {
        ...plainModel,
        id: 'lit',
        abilities: {
          ...plainModel.abilities,
          connection,
          lights: { levels: { pad: 'on-off' }, setBy: { kind: 'note-velocity' } },
        },
        surface: {
          width: 2000,
          height: 40,
          controls: pads.map((id, index) => ({
            id,
            kind: 'pad',
            label: id,
            gestures: ['strike'],
            place: { x: index * 6, y: 0, w: 5, h: 5 },
          })),
        },
      }
      const base = Object.fromEntries(
        pads.map((id, index) => [
          `${id}.strike`,
          sending({ kind: 'note', keys: { kind: 'one', number: index % 128 } }),
        ]),
      )
      return testRig([testController('a', base, { model: 'lit' })], [testDestination('d', { kind: 'daw' })], {
        models: [model],
      })
    }
    // A note on is three bytes: 260 of them take 249.6 ms, 261 take 250.56 ms.
    expect(severities(lit(260, 'din'), 'traffic')).toEqual([])
    expect(severities(lit(261, 'din'), 'traffic')).toEqual(['warning'])
    expect(severities(lit(300, 'usb'), 'traffic')).toEqual([])
  })
  it('counts together only what can be moved at the same time', () => {
    const [first, second] = [nrpn(1), nrpn(2)]
    const templates: TemplateInput[] = [
      { id: 't', name: 'T', base: { 'k1.turn': first } },
      { id: 'u', name: 'U', base: { 'k2.turn': second } },
    ]
    const apart = testRig([testController('a', {}, { templates })], [testDestination('d', { kind: 'synth' })])
    expect(severities(onDin(first, second, 'synth'), 'traffic')).toEqual(['warning'])
    expect(severities(apart, 'traffic')).toEqual([])
  })
  it.each<[string, Rig]>([
    ['a USB cable', onDin(nrpn(1), nrpn(2), 'daw')],
    ['what is short enough', onDin(nrpn(1, { omitNumber: true }), sendingCc(20), 'synth')],
    ['two plain controllers', onDin(sendingCc(20), sendingCc(21), 'synth')],
  ])('stays silent for %s', (_, rig) => expect(severities(rig, 'traffic')).toEqual([]))
})
