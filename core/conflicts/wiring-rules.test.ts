import { describe, expect, it } from 'vitest'
import { perform, type Rig, type RigInput } from '../rig'
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

type CableInput = NonNullable<RigInput['cables']>[number]
type BoxInput = NonNullable<RigInput['boxes']>[number]
type TemplateInput = NonNullable<NonNullable<RigInput['controllers']>[number]['templates']>[number]

const found = (rig: Rig, rule: string): string[] =>
  check(rig)
    .findings.filter((finding) => finding.rule === rule)
    .map(({ severity }) => severity)

/** The kinds of cures offered; each of them must take its finding away and bring no new error. */
function cures(rig: Rig, rule: string): string[] {
  const before = check(rig)
  const finding = before.findings.find((each) => each.rule === rule)
  if (!finding) throw new Error(`${rule} found nothing`)
  const errors = before.findings.filter(({ severity }) => severity === 'error').length
  return before.fixesOf(finding.id).map(({ kind, edits }) => {
    const after = check(perform(rig, 'x', edits).rig).findings
    expect(after.map(({ id }) => id)).not.toContain(finding.id)
    expect(after.filter(({ severity }) => severity === 'error').length).toBeLessThanOrEqual(errors)
    return kind
  })
}

const cable = (from: string, to: string, more: Partial<CableInput> = {}): CableInput => {
  const [fromOwner = '', fromPort = ''] = from.split('.')
  const [toOwner = '', toPort = ''] = to.split('.')
  return {
    id: `${from}-${to}`.replaceAll('.', '-'),
    from: { owner: fromOwner, port: fromPort },
    to: { owner: toOwner, port: toPort },
    ...more,
  }
}
const box = (id: string): BoxInput => ({
  id,
  name: id.toUpperCase(),
  kind: 'merge',
  ports: [
    { id: 'in', name: 'In', direction: 'in' },
    { id: 'back', name: 'Back', direction: 'in' },
    { id: 'out', name: 'Out', direction: 'out' },
  ],
})
const withThru = testDestination('d', {
  ports: [
    { id: 'in', name: 'In', direction: 'in' },
    { id: 'thru', name: 'Thru', direction: 'thru' },
  ],
})

describe('loop', () => {
  const ringed = (back: Partial<CableInput> = {}, forth: Partial<CableInput> = {}): Rig =>
    testRig([testController('a', { 'k1.turn': sendingCc(20) })], [withThru], {
      boxes: [box('m')],
      cables: [cable('a.out', 'm.in'), cable('m.out', 'd.in', forth), cable('d.thru', 'm.back', back)],
    })
  const only = (channel: number) => [{ kind: 'pass' as const, match: { channels: [channel] } }]
  const moved = (from: number, to: number) => [
    { kind: 'rewrite' as const, match: { channels: [from] }, to: { channel: to } },
  ]

  it('finds a ring of thru and box, and offers to take a cable of it out', () => {
    expect(found(ringed(), 'loop')).toEqual(['error'])
    expect(cures(ringed(), 'loop')).toContain('unplug')
  })
  it('names what goes round where rules let only that pass', () => {
    const rig = ringed({ rules: [{ kind: 'pass', match: { kinds: ['note'] } }], otherwise: 'stop' })
    expect(check(rig).findings.find(({ rule }) => rule === 'loop')?.message).toMatch(/^Note messages/)
  })
  it('tries a channel that no rule names too', () => {
    const others = {
      rules: [
        { kind: 'stop' as const, match: { channels: [1] } },
        { kind: 'pass' as const, match: { kinds: ['cc' as const] } },
      ],
    }
    expect(found(ringed({ ...others, otherwise: 'stop' }), 'loop')).toEqual(['error'])
  })
  it('follows rewriting: a channel that is turned into one that stops does not come round', () => {
    expect(found(ringed({ rules: moved(1, 2) }, { rules: only(1), otherwise: 'stop' }), 'loop')).toEqual([])
    expect(found(ringed({ rules: moved(1, 2) }, { rules: moved(2, 1), otherwise: 'stop' }), 'loop')).toEqual([
      'error',
    ])
  })
  it('finds the one number among many that a rule takes to where it goes round', () => {
    // What comes in at 40 leaves at 60, and only 60 passes the ring; 60 itself does not come in.
    const shifted = (start: { low: number; high: number }): Rig =>
      testRig([testController('a', { 'k1.turn': sendingCc(20) })], [withThru], {
        boxes: [box('m')],
        cables: [
          cable('a.out', 'm.in', {
            rules: [{ kind: 'pass', match: { kinds: ['cc'], ...start } }],
            otherwise: 'stop',
          }),
          cable('m.out', 'd.in', {
            rules: [
              { kind: 'rewrite', match: { kinds: ['cc'], low: 30, high: 45 }, to: { number: 50 } },
              { kind: 'pass', match: { kinds: ['cc'], low: 60, high: 60 } },
            ],
            otherwise: 'stop',
          }),
          cable('d.thru', 'm.back', {
            rules: [{ kind: 'pass', match: { kinds: ['cc'], low: 60, high: 60 } }],
            otherwise: 'stop',
          }),
        ],
      })
    expect(found(shifted({ low: 10, high: 50 }), 'loop')).toEqual(['error'])
    expect(found(shifted({ low: 41, high: 50 }), 'loop')).toEqual([])
    expect(found(shifted({ low: 10, high: 39 }), 'loop')).toEqual([])
  })
  it.each<[string, Rig]>([
    ['a ring that lets nothing pass', ringed({ otherwise: 'stop' })],
    [
      'rules of which each stops what the other lets pass',
      ringed({ rules: only(1), otherwise: 'stop' }, { rules: only(2), otherwise: 'stop' }),
    ],
    [
      'a chain that does not close',
      testRig([testController('a', {})], [withThru], {
        boxes: [box('m')],
        cables: [cable('a.out', 'm.in'), cable('m.out', 'd.in')],
      }),
    ],
  ])('stays silent for %s', (_, rig) => expect(found(rig, 'loop')).toEqual([]))
})

describe('double-path', () => {
  const twoWays = (
    second: Partial<CableInput> = {},
    more: Partial<RigInput> = {},
    sent = sendingCc(20),
  ): Rig =>
    testRig(
      [
        testController(
          'a',
          { 'k1.turn': sent },
          {
            ports: [
              { id: 'out', name: 'Out', direction: 'out' },
              { id: 'too', name: 'Too', direction: 'out' },
            ],
          },
        ),
      ],
      [testDestination('d')],
      {
        boxes: [box('m')],
        cables: [cable('a.out', 'd.in'), cable('a.too', 'm.in', second), cable('m.out', 'd.in')],
        ...more,
      },
    )
  it('finds a second way to one input, which can be stopped or unplugged', () => {
    expect(found(twoWays(), 'double-path')).toEqual(['error'])
    expect(new Set(cures(twoWays(), 'double-path'))).toEqual(new Set(['stop', 'unplug']))
  })
  it('stays silent where the second way stops it, or goes elsewhere', () => {
    const stops = { rules: [{ kind: 'stop' as const, match: { channels: [1] } }] }
    expect(found(twoWays(stops), 'double-path')).toEqual([])
    expect(
      found(twoWays({}, { cables: [cable('a.out', 'd.in'), cable('a.too', 'm.in')] }), 'double-path'),
    ).toEqual([])
  })
  it('offers no cable without which another destination would hear nothing', () => {
    const elsewhere = (...more: CableInput[]): Rig => {
      const rig = testRig(
        [
          testController(
            'a',
            { 'k1.turn': sendingCc(20) },
            {
              ports: [
                { id: 'out', name: 'Out', direction: 'out' },
                { id: 'too', name: 'Too', direction: 'out' },
              ],
            },
          ),
          testController('b', { 'k1.turn': sendingCc(21) }),
        ],
        [testDestination('d'), testDestination('e')],
        {
          boxes: [box('m')],
          cables: [cable('a.out', 'd.in'), cable('a.too', 'm.in'), cable('m.out', 'd.in'), ...more],
        },
      )
      return rig
    }
    const labels = (rig: Rig): string[] => {
      const { findings, fixesOf } = check(rig)
      const finding = findings.find(({ rule }) => rule === 'double-path')
      return fixesOf(finding?.id ?? '').map(({ label }) => label)
    }
    expect(labels(elsewhere()).some((label) => label.includes('A · Too'))).toBe(true)
    const kept = labels(elsewhere(cable('m.out', 'e.in')))
    expect(kept.length).toBeGreaterThan(0)
    expect(kept.some((label) => label.includes('A · Too'))).toBe(false)
  })
  it('lets what may come again come twice: programs, with a bank too', () => {
    const program = (bank: { msb: number; lsb: number } | null) =>
      sending({ kind: 'program', number: 3, bank })
    expect(found(twoWays({}, {}, program(null)), 'double-path')).toEqual([])
    expect(found(twoWays({}, {}, program({ msb: 1, lsb: 0 })), 'double-path')).toEqual([])
  })
  it('names only the ways by which it arrives twice', () => {
    const stopped = { id: 'third', otherwise: 'stop' as const }
    const rig = twoWays(
      {},
      {
        cables: [
          cable('a.out', 'd.in'),
          cable('a.too', 'm.in'),
          cable('m.out', 'd.in'),
          cable('a.too', 'm.back', stopped),
        ],
      },
    )
    const finding = check(rig).findings.find((each) => each.rule === 'double-path')
    expect(finding?.message).toContain('by A → D and A → M → D:')
    expect(finding?.things.map(({ id }) => id)).not.toContain('third')
  })
  it('counts local control as a way of its own', () => {
    const unit = (localControl: boolean): Rig =>
      testRig(
        [testController('a', { 'k1.turn': sendingCc(20) })],
        [testDestination('d', { unit: { controller: 'a', localControl } })],
      )
    expect(found(unit(true), 'double-path')).toEqual(['error'])
    expect(cures(unit(true), 'double-path')[0]).toBe('local-off')
    expect(found(unit(false), 'double-path')).toEqual([])
  })
})

describe('port-held', () => {
  const program = (id: string, port: string) =>
    testDestination(id, {
      kind: 'daw',
      ports: [{ id: 'in', name: 'In', direction: 'in', opens: { computer: 'pc', port } }],
    })
  const shared = (sharing: 'shared' | 'exclusive', second = 'usb'): Rig =>
    testRig([testController('a', {})], [program('d', 'usb'), program('e', second)], {
      computers: [
        {
          id: 'pc',
          name: 'Laptop',
          ports: [
            { id: 'usb', name: 'USB', sharing },
            { id: 'usb-2', name: 'USB 2', sharing },
          ],
        },
      ],
      cables: [cable('a.out', 'pc.usb')],
    })
  it('is an error where the port is exclusive, else advice; one of the two can close it', () => {
    expect(found(shared('exclusive'), 'port-held')).toEqual(['error'])
    expect(found(shared('shared'), 'port-held')).toEqual(['advice'])
    expect(cures(shared('exclusive'), 'port-held')).toEqual(['close', 'close'])
  })
  it('stays silent where each has a port', () => {
    expect(found(shared('exclusive', 'usb-2'), 'port-held')).toEqual([])
  })
})

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
    expect(found(wanting(3), 'full')).toEqual(['error'])
    const [finding] = check(wanting(3)).findings.filter(({ rule }) => rule === 'full')
    expect(finding?.message).toMatch(/^3 messages of .+ want a CC number on channel 1, and 2 are left/)
  })
  it('stays silent where there is just room enough', () => expect(found(wanting(4), 'full')).toEqual([]))
  it('takes a house rule for the channel and controller that it names, and for no other', () => {
    const ruled = (more: object): Rig => {
      const rig = wanting(3)
      return { ...rig, houseRules: rig.houseRules.map((rule) => ({ ...rule, ...more })) }
    }
    expect(found(ruled({ channel: 1 }), 'full')).toEqual(['error'])
    expect(found(ruled({ channel: 2 }), 'full')).toEqual([])
    expect(found(ruled({ controller: 'a' }), 'full')).toEqual(['error'])
    expect(found(ruled({ controller: 'b' }), 'full')).toEqual([])
    expect(found(ruled({ controller: 'a', block: 'pads' }), 'full')).toEqual([])
    expect(found(ruled({ message: 'note' }), 'full')).toEqual([])
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
    expect(found(withAbilities(abilities, message), 'out-of-ability')).toEqual(['error'])
    expect(found(withAbilities({}, message), 'out-of-ability')).toEqual([])
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
    expect(found(layered({ stacks: 0 }), 'out-of-ability')).toEqual(['error'])
    expect(found(layered({ layersAStack: 1 }), 'out-of-ability')).toEqual(['error'])
    expect(found(layered({ stacks: 1, layersAStack: 2 }), 'out-of-ability')).toEqual([])
  })
})

describe('stuck', () => {
  const padModel: NonNullable<RigInput['models']>[number] = {
    ...plainModel,
    id: 'pads',
    surface: {
      width: 100,
      height: 40,
      controls: ['p1', 'p2'].map((id, index) => ({
        id,
        kind: 'pad',
        label: id,
        gestures: ['strike'],
        place: { x: index * 30, y: 0, w: 20, h: 20 },
      })),
    },
  }
  const note = (number: number, more: object = {}) =>
    sending({ kind: 'note', keys: { kind: 'one', number }, ...more })
  const paged = (
    first: ReturnType<typeof note>,
    second: ReturnType<typeof note>,
    more: Partial<RigInput> = {},
    by = 'a/p2.strike',
  ): Rig =>
    testRig(
      [
        testController(
          'a',
          {},
          {
            model: 'pads',
            templates: layeredTemplates(
              { 'p1.strike': first },
              { 'p1.strike': second },
              { gestures: ['p1.strike'], powerUp: 'x' },
            ),
          },
        ),
      ],
      [testDestination('d', { parameters: [{ id: 'p1', name: 'Boom', kind: 'note' }] })],
      {
        models: [padModel],
        choices: [
          {
            id: 'c',
            by: { kind: 'gesture', gesture: by },
            how: 'next',
            targets: [{ kind: 'layers', controller: 'a', template: 't', stack: 's', layers: ['x', 'y'] }],
          },
        ],
        ...more,
      },
    )
  it('finds a note whose layer can change while it is held', () => {
    expect(found(paged(note(60), note(62)), 'stuck')).toEqual(['warning'])
  })
  const twoTemplates = (
    first: ReturnType<typeof note>,
    second: ReturnType<typeof note>,
    by = 'a/p2.strike',
  ): Rig =>
    testRig(
      [
        testController(
          'a',
          {},
          {
            model: 'pads',
            templates: [
              { id: 't', name: 'T', base: { 'p1.strike': first } },
              { id: 'u', name: 'U', base: { 'p1.strike': second } },
            ],
          },
        ),
      ],
      undefined,
      {
        models: [padModel],
        choices: [
          {
            id: 'c',
            by: { kind: 'gesture', gesture: by },
            how: 'this-one',
            targets: [{ kind: 'template', controller: 'a', template: 'u' }],
          },
        ],
      },
    )
  it('finds what is held while another template is chosen, unless that sends the same', () => {
    expect(found(twoTemplates(note(60), note(62)), 'stuck')).toEqual(['warning'])
    expect(found(twoTemplates(note(60), note(60)), 'stuck')).toEqual([])
    expect(found(twoTemplates(note(60), note(62), 'a/p1.strike'), 'stuck')).toEqual([])
  })
  it('finds a hold pedal likewise', () => {
    const pedal = (number: number) => sendingCc(number, { behaviour: { kind: 'momentary' } })
    for (const number of [64, 65, 66, 67, 68, 69])
      expect(found(paged(pedal(number), pedal(80)), 'stuck'), `CC ${number}`).toEqual(['warning'])
    for (const number of [63, 70]) expect(found(paged(pedal(number), pedal(80)), 'stuck')).toEqual([])
    expect(found(paged(pedal(80), pedal(81)), 'stuck')).toEqual([])
  })
  it.each<[string, Rig]>([
    ['layers that send the same', paged(note(60), note(60))],
    ['a note that is not let go', paged(note(60, { behaviour: { kind: 'trigger' } }), note(60))],
    ['layers that nothing changes', paged(note(60), note(62), { choices: [] })],
    ['a pad that changes the layer itself', paged(note(60), note(62), {}, 'a/p1.strike')],
    [
      'drum sounds',
      paged(note(60), note(62), {
        mappings: ['1:note60', '1:note62'].map((learnedAt, index) => ({
          id: `m${index}`,
          gesture: 'a/p1.strike',
          destination: 'd',
          parameter: 'p1',
          learnedAt,
        })),
      }),
    ],
  ])('stays silent for %s', (_, rig) => expect(found(rig, 'stuck')).toEqual([]))
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
    expect(found(rig, 'traffic')).toEqual(['warning'])
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
    expect(found(lit(260, 'din'), 'traffic')).toEqual([])
    expect(found(lit(261, 'din'), 'traffic')).toEqual(['warning'])
    expect(found(lit(300, 'usb'), 'traffic')).toEqual([])
  })
  it('counts together only what can be moved at the same time', () => {
    const [first, second] = [nrpn(1), nrpn(2)]
    const templates: TemplateInput[] = [
      { id: 't', name: 'T', base: { 'k1.turn': first } },
      { id: 'u', name: 'U', base: { 'k2.turn': second } },
    ]
    const apart = testRig([testController('a', {}, { templates })], [testDestination('d', { kind: 'synth' })])
    expect(found(onDin(first, second, 'synth'), 'traffic')).toEqual(['warning'])
    expect(found(apart, 'traffic')).toEqual([])
  })
  it.each<[string, Rig]>([
    ['a USB cable', onDin(nrpn(1), nrpn(2), 'daw')],
    ['what is short enough', onDin(nrpn(1, { omitNumber: true }), sendingCc(20), 'synth')],
    ['two plain controllers', onDin(sendingCc(20), sendingCc(21), 'synth')],
  ])('stays silent for %s', (_, rig) => expect(found(rig, 'traffic')).toEqual([]))
})
