import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { lightInit, lightInitBytes } from '../lights'
import { powerUpShowing, type Rig, type RigInput } from '../rig'
import { joined, rigOf } from '../testing/mapped-rigs'
import {
  layeredTemplates,
  plainModel,
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
} from '../testing/rigs'
import { comeInRig, misbehave, playRig, switchedOn } from './played'
import { lightsNow, showingsOf } from './lights'
import { MOST_ROUNDS, type BenchState, type Passing } from './running'

const IN = { id: 'in', name: 'In', direction: 'in' as const }
const OUT = { id: 'out', name: 'Out', direction: 'out' as const }
const gestures = { gestures: ['k1.turn'], powerUp: 'x' }
const layers = (x: number, y: number) =>
  layeredTemplates({ 'k1.turn': sendingCc(x) }, { 'k1.turn': sendingCc(y) }, gestures)
const toLayer = (controller: string, layer: string) => [
  { kind: 'layers' as const, controller, template: 't', stack: 's', layers: [layer] },
]
const shows = (state: BenchState, id: string): unknown => state.controllers[id]?.showing.layers.s
const moved = (passed: readonly Passing[]): number =>
  passed
    .flatMap(({ arrived }) => arrived.flatMap(({ effects }) => effects))
    .filter(({ kind }) => kind === 'moves').length

describe('what comes in at a controller', () => {
  const choosing = (trigger: object): Rig =>
    testRig([testController('a', {}, { ports: [OUT, IN], templates: layers(20, 21) })], undefined, {
      choices: [
        {
          id: 'c',
          by: { kind: 'incoming', controller: 'a', trigger },
          how: 'this-one',
          targets: toLayer('a', 'y'),
        },
      ] as never,
    })
  it.each([
    [{ kind: 'program', channel: 3, number: 7 }, [0xc2, 7], [0xc2, 8]],
    [{ kind: 'cc', channel: 1, number: 90, value: 4 }, [0xb0, 90, 4], [0xb0, 90, 5]],
    [{ kind: 'note', channel: 16, number: 60 }, [0x9f, 60, 1], [0x9f, 60, 0]],
  ])('chooses a layer by %o', (trigger, right, wrong) => {
    const rig = choosing(trigger)
    expect(shows(comeInRig(rig, switchedOn(rig), 'a', wrong, 0).state, 'a')).toBe('x')
    expect(shows(comeInRig(rig, switchedOn(rig), 'a', right, 0).state, 'a')).toBe('y')
  })

  it('is answered where it asks who is there, if it is meant', () => {
    const rig = testRig([testController('a', {}, { ports: [OUT, IN], deviceNumber: 5 })])
    const asked = (device: number) =>
      comeInRig(rig, switchedOn(rig), 'a', [0xf0, 0x7e, device, 6, 1, 0xf7], 0).passed.map(
        ({ bytes }) => bytes,
      )
    expect(asked(0x7f)).toEqual([[0xf0, 0x7e, 5, 6, 2, 0x7d, 0, 0, 0, 0, 0, 0, 0, 0, 0xf7]])
    expect(asked(5)).toHaveLength(1)
    expect(asked(4)).toHaveLength(0)
  })

  it('comes over cables from other controllers, and a ring is cut and said', () => {
    const shown = (number: number) =>
      sending({ kind: 'program', number, moment: 'layer-shown', channel: 1 } as never)
    const template = (x: number, y: number) =>
      layeredTemplates({ 'k1.turn': shown(x) }, { 'k1.turn': shown(y) }, gestures)
    const ring = (isClosed: boolean): Rig =>
      testRig(
        [
          testController('a', { 'k2.turn': sending({ kind: 'program', number: 5 }) }, { ports: [OUT, IN] }),
          testController('b', {}, { ports: [OUT, IN], templates: template(5, 6) }),
        ].map((each) =>
          each.id === 'a'
            ? {
                ...each,
                templates: template(6, 5).map((t) => ({
                  ...t,
                  base: { 'k2.turn': sending({ kind: 'program', number: 5, moment: 'press' } as never) },
                })),
              }
            : each,
        ),
        [testDestination('d')],
        {
          cables: [
            { id: 'ab', from: { owner: 'a', port: 'out' }, to: { owner: 'b', port: 'in' } },
            ...(isClosed
              ? [{ id: 'ba', from: { owner: 'b', port: 'out' }, to: { owner: 'a', port: 'in' } }]
              : []),
          ],
          choices: ['a', 'b'].flatMap((id) =>
            [5, 6].map((number) => ({
              id: `${id}${number}`,
              by: {
                kind: 'incoming' as const,
                controller: id,
                trigger: { kind: 'program' as const, channel: 1, number },
              },
              how: 'next' as const,
              targets: [
                { kind: 'layers' as const, controller: id, template: 't', stack: 's', layers: ['x', 'y'] },
              ],
            })),
          ),
        },
      )
    const press = { kind: 'press', gesture: 'k2.turn' } as const
    const open = playRig(ring(false), switchedOn(ring(false)), 'a', press, 0)
    expect(shows(open.state, 'b')).toBe('y')
    expect(open.isCut).toBe(false)
    const closed = playRig(ring(true), switchedOn(ring(true)), 'a', press, 0)
    expect(closed.isCut).toBe(true)
    expect(closed.passed.length).toBeLessThanOrEqual(MOST_ROUNDS + 2)
  })

  it('shows a layer on another controller only while a switch is held', () => {
    const rig = testRig(
      [
        testController('a', { 'k1.turn': sendingCc(30, { behaviour: { kind: 'momentary' } }) }),
        testController('b', {}, { templates: layers(20, 21) }),
      ],
      undefined,
      {
        choices: [
          {
            id: 'c',
            by: { kind: 'gesture', gesture: 'a/k1.turn' },
            how: 'while-held',
            targets: toLayer('b', 'y'),
          },
        ],
      },
    )
    const down = playRig(rig, switchedOn(rig), 'a', { kind: 'press', gesture: 'k1.turn' }, 0)
    expect(shows(down.state, 'b')).toBe('y')
    const up = playRig(rig, down.state, 'a', { kind: 'let-go', gesture: 'k1.turn' }, 9)
    expect(shows(up.state, 'b')).toBe('x')
  })
})

function now(rig: Rig, id: string, { controllers }: BenchState) {
  const controller = rig.controllers.find((each) => each.id === id)
  const own = controllers[id]
  if (!controller || !own) throw new Error(`no ${id}`)
  return lightsNow(rig, controller, showingsOf(controllers), own)
}

describe('lights as they are', () => {
  it('show what a wake sequence sets them to, light by light, whatever was there before', () => {
    const rig = nineRingsRig('as-performed')
    const pelluna = rig.controllers.find(({ id }) => id === 'pelluna')
    if (!pelluna) throw new Error('no Pelluna')
    const showing = { pelluna: powerUpShowing(pelluna) }
    const wake = lightInit(rig, [pelluna], showing)
    let state = switchedOn(rig)
    // Everything dark first, so that what is seen comes from the messages.
    for (const message of wake.messages) {
      const [status, number] = lightInitBytes(message)
      state = comeInRig(rig, state, 'pelluna', [status, number, 0], 0).state
    }
    for (const message of wake.messages)
      state = comeInRig(rig, state, 'pelluna', lightInitBytes(message), 0).state
    const seen = new Map(now(rig, 'pelluna', state).map(({ control, entry }) => [control.id, entry.index]))
    expect(wake.messages.length).toBeGreaterThan(20)
    for (const { control, value } of wake.messages) expect(seen.get(control)).toBe(value)
  })

  const model = {
    ...plainModel,
    abilities: {
      ...plainModel.abilities,
      lights: {
        levels: { knob: 'on-off', button: 'on-off', encoder: 'on-off', fader: 'on-off', pad: 'on-off' },
        setBy: { kind: 'note-velocity' },
        palette: [],
      },
    },
  }
  const role = {
    id: 'r',
    name: 'Role',
    letter: 'R',
    states: [
      { name: 'off', colour: '#000000' },
      { name: 'on', colour: '#ffffff' },
    ],
  }
  const lit = (setBy: object, more: Partial<RigInput> = {}, behaviour: object = { kind: 'toggle' }): Rig =>
    testRig(
      [
        testController('a', {
          'k1.turn': { ...sendingCc(20, { behaviour }), light: { role: 'r', setBy } } as never,
          'k2.turn': { ...sendingCc(21, { behaviour }), light: { role: 'r', setBy } } as never,
        }),
      ],
      [testDestination('d', { feedback: true, parameters: [{ id: 'p1', name: 'One', kind: 'switch' }] })],
      { models: [model] as never, lightRoles: [role] as never, ...more },
    )
  const states = (rig: Rig, state: BenchState): unknown[] =>
    now(rig, 'a', state).flatMap(({ role: has, state: is }) => (has ? [is] : []))
  const press = (rig: Rig, state: BenchState, gesture: string): BenchState => {
    const down = playRig(rig, state, 'a', { kind: 'press', gesture }, 0).state
    return playRig(rig, down, 'a', { kind: 'let-go', gesture }, 5).state
  }

  it('follow the press: on while a toggle is on, bright while a button is held', () => {
    const rig = lit({ kind: 'press' })
    const on = press(rig, switchedOn(rig), 'k1.turn')
    expect(states(rig, on)).toEqual(['on', 'off'])
    expect(states(rig, press(rig, on, 'k1.turn'))).toEqual(['off', 'off'])
    const held = lit({ kind: 'press' }, {}, { kind: 'momentary' })
    const down = playRig(held, switchedOn(held), 'a', { kind: 'press', gesture: 'k2.turn' }, 0).state
    expect(states(held, down)).toEqual(['off', 'on'])
  })

  it('are one of many: the one that was pressed last', () => {
    const rig = lit({ kind: 'one-of-many', group: 'g' }, {}, { kind: 'trigger' })
    const first = press(rig, switchedOn(rig), 'k1.turn')
    expect(states(rig, first)).toEqual(['on', 'off'])
    expect(states(rig, press(rig, first, 'k2.turn'))).toEqual(['off', 'on'])
  })

  it('follow what the destination sends back, whoever moved it, unless it sends nothing back', () => {
    const rig = lit(
      { kind: 'feedback' },
      {
        mappings: [
          joined('a/k1.turn', 'p1', { learnedAt: '1:cc20', feedback: true, takeover: 'at-once' }),
          joined('a/k2.turn', 'p1', { id: 'm2', learnedAt: '1:cc21', feedback: true, takeover: 'at-once' }),
        ],
      },
    )
    const start = switchedOn(rig)
    expect(states(rig, start)).toEqual(['off', 'off'])
    const on = press(rig, start, 'k1.turn')
    expect(states(rig, on)).toEqual(['on', 'on'])
    // The toggle of the other knows by now that it is on: its next press sends off.
    expect(states(rig, press(rig, on, 'k2.turn'))).toEqual(['off', 'off'])
    expect(states(rig, press(rig, misbehave(start, 'd', ['no-feedback']), 'k1.turn'))).toEqual(['off', 'off'])
  })
})

describe('a destination that is asked to misbehave', () => {
  const rig = rigOf({ 'k1.turn': sendingCc(20) }, [joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' })], {
    parameters: [{ id: 'p1', name: 'One', range: { min: 0, max: 127 } }],
  })
  const sweep = (of: Rig, state: BenchState) =>
    playRig(of, state, 'a', { kind: 'move', gesture: 'k1.turn', to: 1, overMs: 100 }, 0)
  const [id = ''] = rig.destinations.map((each) => each.id)

  it('loses one message in five, or takes it twice, always the same ones', () => {
    const well = moved(sweep(rig, switchedOn(rig)).passed)
    const loses = moved(sweep(rig, misbehave(switchedOn(rig), id, ['drops'])).passed)
    const doubles = moved(sweep(rig, misbehave(switchedOn(rig), id, ['doubles'])).passed)
    expect(loses).toBe(well - Math.floor(well / 5))
    expect(doubles).toBe(well + Math.floor(well / 5))
  })

  it('takes all channels for one', () => {
    const other = rigOf({ 'k1.turn': sendingCc(20) }, [joined('a/k1.turn', 'p1', { learnedAt: '7:cc20' })], {
      parameters: [{ id: 'p1', name: 'One' }],
    })
    expect(moved(sweep(other, switchedOn(other)).passed)).toBe(0)
    expect(moved(sweep(other, misbehave(switchedOn(other), id, ['merges-channels'])).passed)).toBeGreaterThan(
      0,
    )
  })

  it('jumps at once, where it would wait to be met', () => {
    const there = sweep(rig, switchedOn(rig)).state
    const away = { ...there, controllers: switchedOn(rig).controllers }
    const far: BenchState = {
      ...away,
      destinations: { ...away.destinations, [id]: { ...away.destinations[id]!, controls: {} } },
    }
    const touch = (state: BenchState) =>
      playRig(rig, state, 'a', { kind: 'move', gesture: 'k1.turn', to: 0.2 }, 500).state.destinations[id]
        ?.values.p1
    expect(touch(far)).toBe(127)
    expect(touch(misbehave(far, id, ['jumps']))).toBeLessThan(40)
  })

  it('answers to what it was taught when it was switched on, though the rig has forgotten it', () => {
    const started = switchedOn(rig)
    const forgotten: Rig = { ...rig, mappings: [] }
    expect(moved(sweep(forgotten, started).passed)).toBe(0)
    expect(moved(sweep(forgotten, misbehave(started, id, ['old-mappings'])).passed)).toBeGreaterThan(0)
  })
})
