import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { perform, type Rig, type RigInput } from '../rig'
import { mappingState } from '../mappings'
import {
  plainModel,
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
  type Assigned,
  type MessageInput,
} from '../testing/rigs'
import { check } from '.'

type MappingInput = NonNullable<RigInput['mappings']>[number]
type CableInput = NonNullable<RigInput['cables']>[number]
type DestinationInput = Parameters<typeof testDestination>[1]

const told = (rig: Rig, rule: string): string[] =>
  check(rig)
    .findings.filter((finding) => finding.rule === rule)
    .map(({ severity, message }) => `${severity}: ${message}`)
const severities = (rig: Rig, rule: string): string[] =>
  told(rig, rule).map((text) => text.slice(0, text.indexOf(':')))

const joined = (
  gesture: string | null,
  parameter: string,
  more: Partial<MappingInput> = {},
): MappingInput => ({
  id: `m-${gesture ?? 'none'}-${parameter}-${more.scope ?? ''}`.replaceAll(/[^a-z0-9-]/g, '-'),
  gesture,
  destination: 'd',
  parameter,
  ...more,
})
const rigOf = (
  base: Assigned,
  mappings: MappingInput[] = [],
  destination: DestinationInput = {},
  more: Partial<RigInput> = {},
): Rig => testRig([testController('a', base)], [testDestination('d', destination)], { mappings, ...more })
const plainCable: CableInput = {
  id: 'a-d',
  from: { owner: 'a', port: 'out' },
  to: { owner: 'd', port: 'in' },
}
const ruled = (rules: CableInput['rules'], otherwise: 'pass' | 'stop' = 'pass'): Partial<RigInput> => ({
  cables: [{ ...plainCable, rules, otherwise }],
})
const rewrite = (match: object, to: object) => ({ kind: 'rewrite' as const, match, to })
const merged = { hears: { playing: { channels: { kind: 'merged' as const } } } }
const only = (...channels: number[]) => ({
  hears: { playing: { channels: { kind: 'only' as const, channels } } },
})
const learned20 = joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' })
const sends20 = { 'k1.turn': sendingCc(20) }

describe('a mapping whose message never arrives is unheard, and says where it stops', () => {
  it.each<[string, Rig, string]>([
    ['no cable', rigOf(sends20, [learned20], {}, { cables: [] }), 'no cable leads from A to D'],
    [
      'a rule that stops it',
      rigOf(sends20, [learned20], {}, ruled([{ kind: 'stop', match: { channels: [1] } }])),
      'the cable A · Out → D · In stops it',
    ],
    ['a channel that is not heard', rigOf(sends20, [learned20], only(2)), 'D does not hear channel 1'],
    [
      'a program that holds the port',
      testRig(
        [testController('a', sends20)],
        [
          testDestination('first', {
            kind: 'daw',
            ports: [{ id: 'in', name: 'In', direction: 'in', opens: { computer: 'pc', port: 'usb' } }],
          }),
          testDestination('d', {
            kind: 'daw',
            ports: [{ id: 'in', name: 'In', direction: 'in', opens: { computer: 'pc', port: 'usb' } }],
          }),
        ],
        {
          mappings: [learned20],
          computers: [
            { id: 'pc', name: 'Laptop', ports: [{ id: 'usb', name: 'USB', sharing: 'exclusive' }] },
          ],
          cables: [{ ...plainCable, to: { owner: 'pc', port: 'usb' } }],
        },
      ),
      'FIRST holds USB of Laptop',
    ],
    [
      'a host that keeps it',
      testRig(
        [testController('a', sends20)],
        [
          testDestination('host', {
            claims: [{ id: 'c', function: 'its clock', kind: 'cc', channel: 1, low: 20, high: 20 }],
          }),
          testDestination('d', { inside: 'host', ports: [] }),
        ],
        { mappings: [learned20] },
      ),
      'HOST keeps it for its clock',
    ],
  ])('%s', (_, rig, why) => {
    expect(severities(rig, 'unheard')).toEqual(['error'])
    expect(told(rig, 'unheard')[0]).toContain(`does not arrive: ${why}.`)
    const [mapping] = rig.mappings
    expect(mapping && mappingState(rig, mapping).agreement).toBe('lost')
  })

  it('the demo without its cables: an error for each controller and destination, and no mapping agrees', () => {
    const rig = { ...nineRingsRig('as-performed'), cables: [] }
    const found = told(rig, 'unheard')
    expect(found.length).toBeGreaterThan(5)
    expect(found.every((text) => text.startsWith('error') && text.includes('no cable leads from'))).toBe(true)
    expect(rig.mappings.filter((mapping) => mappingState(rig, mapping).agreement === 'agrees')).toEqual([])
  })

  it('another control that moves its parameter meanwhile is an old mapping set off', () => {
    const rig = testRig(
      [testController('a', sends20), testController('b', sends20)],
      [testDestination('d')],
      { mappings: [learned20], cables: [{ ...plainCable, from: { owner: 'b', port: 'out' } }] },
    )
    expect(severities(rig, 'ghost')).toEqual(['error'])
  })
})

describe('what is said is what arrives', () => {
  const toOther = rewrite({ kinds: ['cc'], low: 20, high: 20 }, { number: 30 })
  it('names the cable where a message was changed on the way', () => {
    const [text] = told(rigOf(sends20, [learned20], {}, ruled([toOther])), 'unheard')
    expect(text).toBe(
      'warning: Knob 1 (A) sends 1:cc20, which arrives as 1:cc30 through the cable A · Out → D · In, but D · One learned 1:cc20: teach it again.',
    )
    const collision = rigOf({ ...sends20, 'k2.turn': sendingCc(30) }, [], {}, ruled([toOther]))
    expect(told(collision, 'same-address')[0]).toContain(
      'meet at 1:cc30 at D. Knob 1 (A) sends 1:cc20, which the cable A · Out → D · In changes.',
    )
  })
  it('teaches what arrives', () => {
    const rig = rigOf(sends20, [joined('a/k1.turn', 'p1')], {}, ruled([toOther]))
    const { findings, fixesOf } = check(rig)
    const unheard = findings.find(({ rule }) => rule === 'unheard')
    expect(fixesOf(unheard?.id ?? '').map(({ label }) => label)).toEqual(['Teach D · One 1:cc30'])
  })
  it('a number that a cable makes one of bank select or channel mode is reserved; one that it unmakes is not', () => {
    const to120 = ruled([rewrite({ kinds: ['cc'], low: 20, high: 20 }, { number: 120 })])
    expect(severities(rigOf(sends20, [], {}, to120), 'reserved')).toEqual(['error'])
    const from120 = ruled([rewrite({ kinds: ['cc'], low: 120, high: 120 }, { number: 20 })])
    expect(severities(rigOf({ 'k1.turn': sendingCc(120) }, [], {}, from120), 'reserved')).toEqual([])
  })
  it('a controller without a number of its own gets the one that a rule names', () => {
    const bend = { 'k1.turn': sending({ kind: 'pitchBend' }) }
    const toCc = ruled([rewrite({ kinds: ['pitchBend'] }, { kind: 'cc', number: 20 })])
    expect(severities(rigOf(bend, [learned20], {}, toCc), 'unheard')).toEqual([])
  })
})

describe('where something listens, what lands there fits', () => {
  const at = (message: MessageInput, learnedAt: string, destination: DestinationInput = {}): string[] =>
    severities(
      rigOf({ 'k1.turn': sending(message) }, [joined('a/k1.turn', 'p1', { learnedAt })], destination),
      'unheard',
    )
  const span = (more: object): MessageInput => ({
    kind: 'note',
    keys: { kind: 'span', low: 36, high: 48, ...more },
  })
  it('all channels for one', () => {
    expect(at({ kind: 'cc', number: 20, channel: 5 }, '1:cc20', merged)).toEqual([])
    expect(at({ kind: 'cc', number: 20, channel: 5 }, '1:cc20')).toEqual(['warning'])
  })
  it('keys as they are transposed, octave buttons included', () => {
    expect(at(span({ transpose: 12 }), '1:note60')).toEqual([])
    expect(at(span({ transpose: 12 }), '1:note36')).toEqual(['warning'])
    expect(at(span({ octaveReach: 1 }), '1:note60')).toEqual([])
    expect(at(span({ octaveReach: 1 }), '1:note61')).toEqual(['warning'])
  })
  it('a pair of which only the MSB is sent is a plain number', () => {
    expect(at({ kind: 'cc14', number: 20, halves: 'msb-only' }, '1:cc20')).toEqual([])
    expect(at({ kind: 'cc14', number: 20, halves: 'msb-only' }, '1:cc20+52')).toEqual(['advice'])
  })
  it('a pair into a 7-bit number moves it, a 7-bit number into a pair moves it coarsely', () => {
    expect(at({ kind: 'cc14', number: 20 }, '1:cc20')).toEqual([])
    expect(at({ kind: 'cc', number: 20 }, '1:cc20+52')).toEqual(['advice'])
    const fixed = { parameters: [{ id: 'p1', name: 'One', fixed: { kind: 'cc' as const, number: 20 } }] }
    expect(
      severities(
        rigOf({ 'k1.turn': sending({ kind: 'cc14', number: 20 }) }, [joined('a/k1.turn', 'p1')], fixed),
        'unheard',
      ),
    ).toEqual([])
  })
  it('a control that sends the pair besides loses nothing', () => {
    const pair = joined('a/k1.turn', 'p1', { learnedAt: '1:cc16+48' })
    const plain: MessageInput = { kind: 'cc', number: 16 }
    expect(severities(rigOf({ 'k1.turn': sending(plain) }, [pair]), 'unheard')).toEqual(['advice'])
    expect(
      severities(rigOf({ 'k1.turn': sending(plain, { kind: 'cc14', number: 16 }) }, [pair]), 'unheard'),
    ).toEqual([])
  })
  it('a pair is broken as an error only on the channel on which it is heard', () => {
    const heard = (channel: number) =>
      rigOf({ 'k1.turn': sending({ kind: 'cc14', number: 20 }), 'k2.turn': sendingCc(52) }, [], {
        parameters: [{ id: 'fine', name: 'Fine', fixed: { kind: 'cc14', number: 20, channel } }],
      })
    expect(severities(heard(1), 'pair-broken')).toEqual(['error'])
    expect(severities(heard(2), 'pair-broken')).toEqual(['advice'])
  })
  it('controls on a channel of their own have no wrong home channel in common', () => {
    const learned = ['k1', 'k2'].map((knob, index) =>
      joined(`a/${knob}.turn`, index === 0 ? 'p1' : 'p2', { learnedAt: `1:cc${20 + index}` }),
    )
    const on = (more: object) =>
      severities(
        rigOf({ 'k1.turn': sendingCc(20, more), 'k2.turn': sendingCc(21, more) }, learned),
        'unheard',
      )
    expect(on({ channel: 2 })).toEqual(['warning', 'warning'])
  })
  it('the LSB of a pair by itself is another number', () =>
    expect(at({ kind: 'cc14', number: 20 }, '1:cc52')).toEqual(['warning']))
  it('programs with their bank', () => {
    const program = (msb: number): MessageInput => ({ kind: 'program', number: 5, bank: { msb, lsb: 0 } })
    expect(at(program(1), '1:pc1.0.5')).toEqual([])
    expect(at(program(2), '1:pc1.0.5')).toEqual(['warning'])
    expect(at(program(2), '1:pc5')).toEqual([])
  })
  it('transport commands without channel', () => {
    expect(at({ kind: 'mmc', command: 'play' }, 'mmc:play')).toEqual([])
    expect(at({ kind: 'mmc', command: 'stop' }, 'mmc:play')).toEqual(['warning'])
    const rig = rigOf({ 'k1.turn': sending({ kind: 'mmc', command: 'play' }) }, [joined('a/k1.turn', 'p1')])
    expect(severities(rig, 'silent')).toEqual([])
  })
  it('a span is nothing that one parameter can be taught', () => {
    const rig = rigOf({ 'k1.turn': sending(span({})) }, [joined('a/k1.turn', 'p1')])
    const { findings, fixesOf } = check(rig)
    expect(findings.map(({ message }) => message)).toEqual([
      'D · One has not been taught yet, and there is more than one address in what Knob 1 (A) sends: let it send a single one.',
    ])
    expect(fixesOf(findings[0]?.id ?? '')).toEqual([])
  })
})

describe('a per-note zone', () => {
  const zone = {
    'k1.turn': sending({ kind: 'note', keys: { kind: 'zone', low: 60, high: 60, manager: 1, members: 2 } }),
  }
  const others = (message: MessageInput): string[] =>
    check(
      testRig([testController('a', zone), testController('b', { 'k1.turn': sending(message) })]),
    ).findings.map(({ rule, severity }) => `${severity} ${rule}`)
  it('sends notes, bend, pressure and CC 74 on its members, and RPN 6 on its manager', () => {
    expect(others({ kind: 'note', channel: 3, keys: { kind: 'one', number: 60 } })).toEqual([
      'error same-address',
    ])
    expect(others({ kind: 'note', channel: 4, keys: { kind: 'one', number: 60 } })).toEqual([])
    expect(others({ kind: 'pitchBend', channel: 2 })).toEqual(['warning same-address'])
    expect(others({ kind: 'channelPressure', channel: 3 })).toEqual(['warning same-address'])
    expect(others({ kind: 'cc', channel: 3, number: 74 })).toEqual(['error same-address'])
    expect(others({ kind: 'rpn', channel: 1, number: 6 })).toContain('error same-address')
    expect(others({ kind: 'cc', channel: 1, number: 6 })).toEqual(['error parameter-carriers'])
  })
  it('with manager 16 has its members below', () => {
    const low = {
      'k1.turn': sending({
        kind: 'note',
        keys: { kind: 'zone', low: 60, high: 60, manager: 16, members: 2 },
      }),
    }
    const meets = (channel: number) =>
      check(
        testRig([
          testController('a', low),
          testController('b', { 'k1.turn': sending({ kind: 'pitchBend', channel }) }),
        ]),
      ).findings.length
    expect([13, 14, 15, 16].map(meets)).toEqual([0, 1, 1, 0])
  })
  it('does not pass a cable that stops the channels of its members', () => {
    const learned = joined('a/k1.turn', 'p1', { learnedAt: '3:note60' })
    const stopping = (channels: number[]) => ruled([{ kind: 'stop', match: { channels } }])
    expect(severities(rigOf(zone, [learned], {}, stopping([1])), 'unheard')).toEqual([])
    expect(severities(rigOf(zone, [learned], {}, stopping([3])), 'unheard')).toEqual(['warning'])
    expect(severities(rigOf(zone, [learned], {}, stopping([1, 2, 3])), 'unheard')).toEqual(['error'])
  })
  it('and high-resolution velocity occupies CC 88', () => {
    const fine = {
      'k1.turn': sending({ kind: 'note', keys: { kind: 'one', number: 60 }, highResolutionVelocity: true }),
    }
    expect(
      check(testRig([testController('a', { ...fine, 'k2.turn': sendingCc(88) })])).findings.map(
        ({ rule }) => rule,
      ),
    ).toEqual(['same-address'])
  })
})

describe('what is not there', () => {
  it('a control that is purely analog meets nobody', () => {
    const model = structuredClone(plainModel)
    const controls = model.surface.controls.map((control) =>
      control.id === 'k1' ? { ...control, silent: true } : control,
    )
    const rig = testRig([testController('a', { ...sends20, 'k2.turn': sendingCc(20) })], undefined, {
      models: [{ ...model, surface: { ...model.surface, controls } }],
      mappings: [joined('a/k1.turn', 'p1', { learnedAt: '2:cc20' })],
    })
    expect(check(rig).findings.map(({ rule }) => rule)).toEqual(['silent'])
  })
  it('nothing passes a device that is put away', () => {
    const ports = [
      { id: 'in', name: 'In', direction: 'in' as const },
      { id: 'thru', name: 'Thru', direction: 'thru' as const },
    ]
    const through = (inUse: boolean): Rig =>
      testRig(
        [testController('a', sends20), testController('b', {}, { ports, inUse })],
        [testDestination('d')],
        {
          mappings: [learned20],
          cables: [
            { id: 'c1', from: { owner: 'a', port: 'out' }, to: { owner: 'b', port: 'in' } },
            { id: 'c2', from: { owner: 'b', port: 'thru' }, to: { owner: 'd', port: 'in' } },
          ],
        },
      )
    expect(severities(through(true), 'unheard')).toEqual([])
    expect(severities(through(false), 'unheard')).toEqual(['error'])
  })
})

describe('a mapping set off by a control that is not its own', () => {
  const layered = (x: Assigned, y: Assigned, mappings: MappingInput[], more: Partial<RigInput> = {}): Rig =>
    testRig(
      [
        testController(
          'a',
          {},
          {
            templates: [
              {
                id: 't',
                name: 'T',
                stacks: [
                  {
                    id: 's',
                    name: 'S',
                    powerUp: 'x',
                    gestures: ['k1.turn', 'k2.turn'],
                    layers: [
                      { id: 'x', name: 'X', assignments: x },
                      { id: 'y', name: 'Y', assignments: y },
                    ],
                  },
                ],
              },
            ],
          },
        ),
      ],
      [
        testDestination('d', {
          scopes: [
            { id: 'one', name: 'One' },
            { id: 'two', name: 'Two' },
          ],
        }),
      ],
      { mappings, ...more },
    )
  const passage = (id: string, layer: string, scope: string) => ({
    id,
    name: id,
    showing: [{ controller: 'a', template: 't', layers: [{ stack: 's', layer }] }],
    scopes: [{ destination: 'd', scope }],
  })
  it('in another layer', () => {
    expect(severities(layered(sends20, { 'k2.turn': sendingCc(20) }, [learned20]), 'ghost')).toEqual([
      'error',
    ])
    expect(severities(layered(sends20, { 'k2.turn': sendingCc(21) }, [learned20]), 'ghost')).toEqual([])
  })
  it('in place of a control that is off, or moved', () => {
    expect(severities(rigOf({ 'k2.turn': sendingCc(20) }, [learned20]), 'ghost')).toEqual(['error'])
    expect(
      severities(rigOf({ 'k1.turn': sendingCc(30), 'k2.turn': sendingCc(20) }, [learned20]), 'ghost'),
    ).toEqual(['error'])
  })
  it('not where both act together: that is one address twice', () => {
    const rig = rigOf({ ...sends20, 'k2.turn': sendingCc(20) }, [learned20])
    expect(severities(rig, 'ghost')).toEqual([])
    expect(severities(rig, 'same-address')).toEqual(['error'])
  })
  it('also by the LSB of a pair', () => {
    const old = joined(null, 'p1', { learnedAt: '1:cc52' })
    expect(severities(rigOf({ 'k1.turn': sending({ kind: 'cc14', number: 20 }) }, [old]), 'ghost')).toEqual([
      'error',
    ])
  })
  it('only in passages in which its scope counts', () => {
    const rig = (scope: string): Rig =>
      layered(sends20, { 'k2.turn': sendingCc(20) }, [{ ...learned20, scope: 'one' }], {
        passages: [passage('first', 'x', 'one'), passage('second', 'y', scope)],
      })
    expect(severities(rig('one'), 'ghost')).toEqual(['error'])
    expect(severities(rig('two'), 'ghost')).toEqual([])
    const anywhere = layered(sends20, { 'k2.turn': sendingCc(20) }, [{ ...learned20, scope: null }], {
      passages: [passage('first', 'x', 'one'), passage('second', 'y', 'two')],
    })
    expect(severities(anywhere, 'ghost')).toEqual(['error'])
  })
  it('an accord with its control excuses it', () => {
    const accords = [{ id: 'x', name: 'X', reason: 'meant', gestures: ['a/k1.turn', 'a/k2.turn'] }]
    const rig = layered(sends20, { 'k2.turn': sendingCc(20) }, [learned20], { accords })
    expect(check(rig).findings.map(({ rule }) => rule)).not.toContain('ghost')
    expect(severities(rig, 'idle-accord')).toEqual([])
  })
  it('and layers that share, and what two move, are bound by passages too', () => {
    const both = [
      { ...learned20, scope: 'one' },
      joined('a/k2.turn', 'p2', { learnedAt: '1:cc20', scope: 'one' }),
    ]
    const rig = (scope: string): Rig =>
      layered(sends20, { 'k2.turn': sendingCc(20) }, both, {
        passages: [passage('first', 'x', scope), passage('second', 'y', scope)],
      })
    expect(severities(rig('one'), 'layer-share')).toEqual(['error'])
    expect(severities(rig('two'), 'layer-share')).toEqual([])
    const drives = (scope: string): Rig =>
      testRig(
        [testController('a', { ...sends20, 'k2.turn': sendingCc(21) })],
        [
          testDestination('d', {
            scopes: [
              { id: 'one', name: 'One' },
              { id: 'two', name: 'Two' },
            ],
          }),
        ],
        {
          mappings: [
            { ...learned20, scope: 'one' },
            joined('a/k2.turn', 'p1', { learnedAt: '1:cc21', scope: 'one' }),
          ],
          passages: [{ id: 'p', name: 'P', scopes: [{ destination: 'd', scope }] }],
        },
      )
    expect(severities(drives('one'), 'double-drive')).toEqual(['warning'])
    expect(severities(drives('two'), 'double-drive')).toEqual([])
  })
})

describe('a layer that lies over others', () => {
  const shifted = (base: Assigned, over: Assigned, more: Partial<RigInput> = {}): Rig =>
    testRig(
      [
        testController(
          'a',
          {},
          {
            templates: [
              {
                id: 't',
                name: 'T',
                base,
                stacks: [
                  {
                    id: 's',
                    name: 'Shift',
                    mode: 'lie-over',
                    gestures: ['k1.turn', 'k2.turn'],
                    layers: [{ id: 'x', name: 'X', assignments: over }],
                  },
                ],
              },
            ],
          },
        ),
      ],
      undefined,
      more,
    )
  it('hides the control that it sets, and only that', () => {
    expect(
      severities(shifted(sends20, { 'k1.turn': sendingCc(21), 'k2.turn': sendingCc(20) }), 'same-address'),
    ).toEqual([])
    expect(severities(shifted(sends20, { 'k2.turn': sendingCc(20) }), 'same-address')).toEqual(['error'])
  })
  it('a passage in which it shows hides it too', () => {
    const rig = (layer: string | null): Rig => {
      const base = shifted(sends20, { 'k1.turn': sendingCc(21) })
      const controllers = [...base.controllers, ...testRig([testController('b', sends20)]).controllers]
      return {
        ...base,
        controllers,
        cables: testRig([testController('a', {}), testController('b', {})]).cables,
        passages: [
          {
            id: 'p',
            name: 'P',
            showing: [{ controller: 'a', template: 't', layers: [{ stack: 's', layer }] }],
            scopes: [],
          },
        ],
      }
    }
    expect(severities(rig(null), 'same-address')).toEqual(['error'])
    expect(severities(rig('x'), 'same-address')).toEqual([])
  })
  it('makes a knob jump that moves another thing through it', () => {
    const mappings = [
      joined('a/k1.turn', 'p1', { learnedAt: '1:cc20', takeover: 'at-once' }),
      joined('a/k1.turn', 'p2', { learnedAt: '1:cc21' }),
    ]
    expect(severities(shifted(sends20, { 'k1.turn': sendingCc(21) }, { mappings }), 'layer-jump')).toEqual([
      'warning',
    ])
  })
})

describe('layer-jump', () => {
  const knob = (x: MessageInput, y: MessageInput, mappings: MappingInput[]): string[] =>
    severities(
      testRig(
        [
          testController(
            'a',
            {},
            {
              templates: [
                {
                  id: 't',
                  name: 'T',
                  stacks: [
                    {
                      id: 's',
                      name: 'S',
                      powerUp: 'x',
                      gestures: ['k1.turn'],
                      layers: [
                        { id: 'x', name: 'X', assignments: { 'k1.turn': sending(x) } },
                        { id: 'y', name: 'Y', assignments: { 'k1.turn': sending(y) } },
                      ],
                    },
                  ],
                },
              ],
            },
          ),
        ],
        undefined,
        { mappings },
      ),
      'layer-jump',
    )
  it('takes no programs for positions, and no layers that move the same things', () => {
    const programs = [
      joined('a/k1.turn', 'p1', { learnedAt: '1:pc1', takeover: 'at-once' }),
      joined('a/k1.turn', 'p2', { learnedAt: '1:pc2' }),
    ]
    expect(knob({ kind: 'program', number: 1 }, { kind: 'program', number: 2 }, programs)).toEqual([])
    const both = [
      joined('a/k1.turn', 'p1', { learnedAt: '1:cc20', takeover: 'at-once' }),
      joined('a/k1.turn', 'p2', { learnedAt: '1:cc20' }),
    ]
    expect(knob({ kind: 'cc', number: 20 }, { kind: 'cc', number: 20 }, both)).toEqual([])
  })
})

describe('one destination that takes all channels for one', () => {
  const nrpn = (number: number, channel: number, more: object = {}) =>
    sending({ kind: 'nrpn', number, channel, ...more })
  const program = (channel: number, bank: { msb: number; lsb: number } | null) =>
    sending({ kind: 'program', number: 3, channel, bank })
  const two = (a: Assigned, b: Assigned, destination: DestinationInput): Rig =>
    testRig([testController('a', a), testController('b', b)], [testDestination('d', destination)])
  it('mixes parameters of all channels', () => {
    const [a, b] = [{ 'k1.turn': nrpn(1, 1) }, { 'k1.turn': nrpn(2, 2) }]
    expect(severities(two(a, b, {}), 'parameter-interleave')).toEqual([])
    expect(severities(two(a, b, merged), 'parameter-interleave')).toEqual(['warning'])
  })
  it('mixes banks of all channels', () => {
    const base = { 'k1.turn': program(1, null), 'k2.turn': program(2, { msb: 1, lsb: 0 }) }
    expect(severities(rigOf(base), 'bank-drift')).toEqual([])
    expect(severities(rigOf(base, [], merged), 'bank-drift')).toEqual(['warning'])
  })
  it('lets layers share an address on two channels', () => {
    const mappings = [
      joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
      joined('a/k2.turn', 'p2', { learnedAt: '2:cc20' }),
    ]
    const templates = [
      {
        id: 't',
        name: 'T',
        stacks: [
          {
            id: 's',
            name: 'S',
            powerUp: 'x',
            gestures: ['k1.turn', 'k2.turn'],
            layers: [
              { id: 'x', name: 'X', assignments: sends20 },
              { id: 'y', name: 'Y', assignments: { 'k2.turn': sendingCc(20, { channel: 2 }) } },
            ],
          },
        ],
      },
    ]
    const rig = (destination: DestinationInput): Rig =>
      testRig([testController('a', {}, { templates })], [testDestination('d', destination)], { mappings })
    expect(severities(rig({}), 'layer-share')).toEqual([])
    expect(severities(rig(merged), 'layer-share')).toEqual(['error'])
  })
  it('while ports that are told apart keep banks apart', () => {
    const ports = [
      { id: 'in', name: 'In', direction: 'in' as const },
      { id: 'in-2', name: 'In 2', direction: 'in' as const },
    ]
    const rig = (told: 'apart' | 'merged'): Rig =>
      testRig(
        [
          testController('a', { 'k1.turn': program(1, null) }),
          testController('b', { 'k1.turn': program(1, { msb: 1, lsb: 0 }) }),
        ],
        [testDestination('d', { ports, hears: { playing: { ports: told } } })],
        {
          cables: [
            { id: 'c1', from: { owner: 'a', port: 'out' }, to: { owner: 'd', port: 'in' } },
            { id: 'c2', from: { owner: 'b', port: 'out' }, to: { owner: 'd', port: 'in-2' } },
          ],
        },
      )
    expect(severities(rig('merged'), 'bank-drift')).toEqual(['warning'])
    expect(severities(rig('apart'), 'bank-drift')).toEqual([])
  })
  it('names the template of a button that is on both sides', () => {
    const rig = testRig([
      testController(
        'a',
        {},
        {
          templates: [
            { id: 't', name: 'Day', base: { 'k1.turn': program(1, null) } },
            { id: 'u', name: 'Night', base: { 'k1.turn': program(1, { msb: 1, lsb: 0 }) } },
          ],
        },
      ),
    ])
    expect(told(rig, 'bank-drift')[0]).toContain(
      'Knob 1 of “Day” (A) sends a program on channel 1 without a bank, while Knob 1 of “Night” (A) changes',
    )
  })
})

describe('parameters', () => {
  const nrpn = (more: object = {}) => sending({ kind: 'nrpn', number: 5, ...more })
  it('any carrier used plainly where parameters run is an error; increments of a parameter are not plain', () => {
    for (const number of [6, 38, 96, 97, 98, 99, 100, 101])
      expect(
        severities(rigOf({ 'k1.turn': nrpn(), 'k2.turn': sendingCc(number) }), 'parameter-carriers'),
        `${number}`,
      ).toEqual(['error'])
    expect(severities(rigOf({ 'k1.turn': nrpn(), 'k2.turn': sendingCc(95) }), 'parameter-carriers')).toEqual(
      [],
    )
    expect(
      severities(
        rigOf({ 'k1.turn': nrpn(), 'k2.turn': nrpn({ number: 6, steps: 'increments' }) }),
        'parameter-carriers',
      ),
    ).toEqual([])
  })
  it('a parameter sent by hand is one finding', () => {
    const byHand = sending({ kind: 'cc', number: 99 }, { kind: 'cc', number: 98 }, { kind: 'cc', number: 6 })
    const found = told(rigOf({ 'k1.turn': nrpn(), 'k2.turn': byHand }), 'parameter-carriers')
    expect(found).toHaveLength(1)
    expect(found[0]).toContain('Knob 2 (A) sends a parameter by hand with 1:cc99, 1:cc98, 1:cc6')
  })
  it('increments that send their number leave nothing out', () => {
    const two = (more: object): string[] =>
      severities(
        testRig([
          testController('a', { 'k1.turn': nrpn(more) }),
          testController('b', { 'k1.turn': nrpn({ number: 9 }) }),
        ]),
        'parameter-interleave',
      )
    expect(two({ steps: 'increments' })).toEqual(['warning'])
    expect(two({ steps: 'increments', omitNumber: true })).toEqual(['error'])
  })
  it('what a destination keeps may be a carrier or a bank', () => {
    const keeps = (number: number) => ({
      claims: [{ id: 'c', function: 'its own', kind: 'cc' as const, channel: 1, low: number, high: number }],
    })
    expect(severities(rigOf({ 'k1.turn': nrpn() }, [], keeps(98)), 'claimed')).toEqual(['error'])
    expect(
      severities(
        rigOf(
          { 'k1.turn': sending({ kind: 'program', number: 1, bank: { msb: 0, lsb: 0 } }) },
          [],
          keeps(32),
        ),
        'claimed',
      ),
    ).toEqual(['error'])
  })
  it('a pair of which only the MSB is sent is broken where it is heard as a pair', () => {
    const heard = { parameters: [{ id: 'p1', name: 'One', fixed: { kind: 'cc14' as const, number: 17 } }] }
    const base = {
      'k1.turn': sending({ kind: 'cc14', number: 17, halves: 'msb-only' as const }),
      'k2.turn': sendingCc(49),
    }
    expect(severities(rigOf(base, [], heard), 'pair-broken')).toEqual(['error'])
    expect(severities(rigOf(base), 'pair-broken')).toEqual([])
    const both = {
      'k1.turn': sending({ kind: 'cc14', number: 17 }),
      'k2.turn': sending({ kind: 'cc14', number: 17 }),
    }
    expect(severities(rigOf(both), 'pair-broken')).toEqual([])
  })
})

describe('accords', () => {
  const accords = [{ id: 'x', name: 'X', reason: 'meant', gestures: ['a/k1.turn', 'a/k2.turn'] }]
  it('one that excuses two that move one thing is not idle', () => {
    const rig = rigOf(
      { ...sends20, 'k2.turn': sendingCc(21) },
      [learned20, joined('a/k2.turn', 'p1', { learnedAt: '1:cc21' })],
      {},
      { accords },
    )
    expect(check(rig).findings).toEqual([])
    const without = perform(rig, 'x', [{ type: 'accord-remove', accord: 'x' }]).rig
    expect(check(without).findings.map(({ rule }) => rule)).toEqual(['double-drive'])
  })
})

describe('one cause, one finding', () => {
  const six = (more: Partial<Parameters<typeof sendingCc>[1]> = {}): Assigned =>
    Object.fromEntries([1, 2, 3, 4, 5].map((n) => [`k${n}.turn`, sendingCc(20 + n, more)]))
  const learned = (channel: number): MappingInput[] =>
    [1, 2, 3, 4, 5].map((n) => joined(`a/k${n}.turn`, `p${n}`, { learnedAt: `${channel}:cc${20 + n}` }))
  const parameters = { parameters: [1, 2, 3, 4, 5].map((n) => ({ id: `p${n}`, name: `P${n}` })) }
  it('a wrong home channel', () => {
    const rig = testRig(
      [testController('a', six(), { homeChannel: 2 })],
      [testDestination('d', parameters)],
      {
        mappings: learned(1),
      },
    )
    const { findings, fixesOf } = check(rig)
    expect(findings.map(({ rule }) => rule)).toEqual(['unheard'])
    expect(findings[0]?.at).toHaveLength(5)
    const home = fixesOf(findings[0]?.id ?? '').find(({ kind }) => kind === 'home')
    expect(check(perform(rig, 'x', home?.edits ?? []).rig).findings).toEqual([])
  })
  it('a controller that is the copy of another', () => {
    const rig = testRig([testController('a', six()), testController('b', six())])
    const found = told(rig, 'same-address')
    expect(found).toHaveLength(1)
    expect(found[0]).toContain('A and B send the same at 5 addresses')
  })
  it('a controller that was put away', () => {
    const rig = testRig(
      [testController('a', {}, { inUse: false }), testController('b', six())],
      [testDestination('d', parameters)],
      {
        mappings: learned(1),
      },
    )
    const { findings, fixesOf } = check(rig)
    expect(findings.map(({ rule }) => rule)).toEqual(['ghost'])
    const clear = fixesOf(findings[0]?.id ?? '').find(({ kind }) => kind === 'clear')
    expect(check(perform(rig, 'x', clear?.edits ?? []).rig).findings).toEqual([])
  })
  it('a junction that is doubled, for all who pass it', () => {
    const box = (id: string) => ({
      id,
      name: id.toUpperCase(),
      kind: 'merge' as const,
      ports: [
        { id: 'in', name: 'In', direction: 'in' as const },
        { id: 'out', name: 'Out', direction: 'out' as const },
      ],
    })
    const wire = (from: string, to: string, port = 'in') => ({
      id: `${from}-${to}`,
      from: { owner: from, port: 'out' },
      to: { owner: to, port },
    })
    const rig = testRig(
      [testController('a', sends20), testController('b', { 'k1.turn': sendingCc(21) })],
      [testDestination('d')],
      {
        boxes: [box('m'), box('n'), box('o')],
        cables: [
          wire('a', 'm'),
          wire('b', 'm'),
          wire('m', 'n'),
          wire('m', 'o'),
          wire('n', 'd'),
          wire('o', 'd'),
        ],
      },
    )
    expect(told(rig, 'double-path')).toHaveLength(1)
    expect(told(rig, 'double-path')[0]).toContain('gets what A and B send twice')
  })
  it('an id does not change when something unrelated does', () => {
    const rig = testRig([
      testController('a', { ...sends20, 'k2.turn': sendingCc(30) }),
      testController('b', { ...sends20, 'k3.turn': sendingCc(30) }),
    ])
    const ids = check(rig).findings.map(({ id }) => id)
    expect(ids).toHaveLength(2)
    const less = perform(rig, 'x', [
      {
        type: 'assignment',
        at: { controller: 'b', template: 't', layer: null, gesture: 'k3.turn' },
        assignment: null,
      },
    ]).rig
    expect(check(less).findings.map(({ id }) => id)).toEqual(ids.filter((id) => id.includes('cc20')))
  })
})
