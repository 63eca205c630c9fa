import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import type { Rig } from '../rig'
import { mappingState } from '../mappings'
import {
  plainModel,
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
  type MessageInput,
} from '../testing/rigs'
import { check } from '.'
import {
  type DestinationInput,
  told,
  severities,
  joined,
  rigOf,
  plainCable,
  ruled,
  rewrite,
  merged,
  only,
  learned20,
  sends20,
} from '../testing/mapped-rigs'

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
