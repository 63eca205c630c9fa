import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { sendersOf } from '../addresses'
import { drivesOf, resolveMappings } from '../mappings'
import { rigIndex, type Rig, type RigInput } from '../rig'
import { endsOf, mappedRange } from '../values'
import { joined, merged, rewrite, rigOf, ruled } from '../testing/mapped-rigs'
import { anyRig, sending, sendingCc } from '../testing/rigs'
import { passageShown } from './passage-shown'
import { beginPassage, playRig, showOnRig, switchedOn } from './played'
import type { BenchState, Passing } from './running'
import type { Effect } from './destination'
import { meantBy } from './selection'
import type { Hand } from './hands'
import { cases } from '../testing/cases'

function playedBy(rig: Rig, hands: readonly Hand[], from: BenchState = switchedOn(rig)): Passing[] {
  let state = from
  return hands.flatMap((hand, index) => {
    const next = playRig(rig, state, 'a', hand, index * 1000)
    state = next.state
    return [...next.passed]
  })
}
const effects = (passed: readonly Passing[]): Effect[] =>
  passed.flatMap(({ arrived }) => arrived.flatMap((each) => each.effects))
const sweep: Hand[] = [
  { kind: 'move', gesture: 'k1.turn', to: 1, overMs: 900 },
  { kind: 'move', gesture: 'k1.turn', to: 0, overMs: 900 },
]
const valuesOf = (passed: readonly Passing[], parameter = 'p1'): number[] =>
  effects(passed).flatMap((effect) =>
    effect.kind === 'moves' && effect.parameter === parameter ? [effect.to] : [],
  )
const percent = { parameters: [{ id: 'p1', name: 'One', range: { min: 0, max: 100, unit: '%' } }] }
const learned = (more: object = {}): NonNullable<RigInput['mappings']> => [
  joined('a/k1.turn', 'p1', { learnedAt: '1:cc20', ...more }),
]
const k20 = { 'k1.turn': sendingCc(20) }

describe('a rig that is played', () => {
  it('brings every mapped parameter to the ends that the value maths say, for any rig', () => {
    fc.assert(
      fc.property(anyRig, (rig) => {
        for (const resolved of resolveMappings(rig)) {
          const { mapping, parameter, destination } = resolved
          if (mapping.expects.kind !== 'absolute' || mapping.scope !== null) continue
          for (const drive of drivesOf(rig, resolved)) {
            if (drive.travel.kind !== 'sweep' || parameter.kind === 'action') continue
            const { sender } = drive
            const controller = rigIndex(rig).controllers.get(sender.place.controller)
            if (!controller) throw new Error('no controller')
            let state: BenchState = switchedOn(rig)
            const before = state.controllers[controller.id]
            if (!before) throw new Error('not switched on')
            const showing = { ...before.showing, layers: { s: sender.place.layer } }
            state = {
              ...state,
              controllers: { ...state.controllers, [controller.id]: { ...before, showing } },
            }
            const seen: number[] = []
            for (const [index, to] of [1, 0, 1].entries()) {
              const hand: Hand = { kind: 'move', gesture: sender.place.gesture, to, overMs: 2000 }
              const next = playRig(rig, state, controller.id, hand, index * 5000)
              state = next.state
              for (const { arrived } of next.passed)
                for (const each of arrived.filter((one) => one.destination === destination.id))
                  for (const effect of each.effects)
                    if (effect.kind === 'moves' && effect.mapping === mapping.id && !effect.isHeldBack)
                      seen.push(effect.to)
            }
            // What is relative to a selection moves what is selected, as far as that goes.
            const meant = meantBy(destination, parameter, null)
            const ends = endsOf(drive.travel, mappedRange(mapping, meant))
            // What takeover holds back for good is never met; else both ends are reached.
            if (seen.length === 0) continue
            expect(Math.max(...seen)).toBeCloseTo(ends.highest)
            expect(Math.min(...seen)).toBeCloseTo(ends.lowest)
          }
        }
      }),
      cases(148),
    )
  })

  it('arrives in the cells of its emissions, and moves nothing at what nobody reaches', () => {
    fc.assert(
      fc.property(anyRig, (rig) => {
        const reached = new Set<string>()
        for (const { mapping, meeting } of resolveMappings(rig))
          for (const sender of meeting) reached.add(`${sender.gesture} ${mapping.id}`)
        for (const sender of sendersOf(rig)) {
          if (sender.place.controller !== 'a' || sender.place.layer !== null) continue
          const hands: Hand[] = [
            { kind: 'move', gesture: sender.place.gesture, to: 1 },
            { kind: 'press', gesture: sender.place.gesture },
          ]
          for (const { place, arrived } of playedBy(rig, hands))
            for (const { effects: list } of arrived)
              for (const effect of list)
                if ((effect.kind === 'moves' || effect.kind === 'acts') && effect.mapping !== null) {
                  const own = rig.mappings.find(({ id }) => id === effect.mapping)
                  if (own?.gesture === `a/${place?.gesture}`)
                    expect(reached.has(`a/${place?.gesture} ${effect.mapping}`)).toBe(true)
                }
        }
      }),
      cases(115),
    )
  })

  it('moves a parameter both ways, inverted where it is said', () => {
    const values = valuesOf(playedBy(rigOf(k20, learned(), percent), sweep))
    expect([Math.min(...values), Math.max(...values)]).toEqual([0, 100])
    const turned = valuesOf(
      playedBy(rigOf(k20, learned({ inverted: true, takeover: 'at-once' }), percent), sweep),
    )
    expect([turned[0]! > 95, turned.at(-1)]).toEqual([true, 100])
  })

  it('is held back until it is met, and then follows', () => {
    const rig = rigOf(k20, learned(), percent)
    const state = switchedOn(rig)
    const high: BenchState = {
      ...state,
      destinations: { d: { values: { p1: 50 }, scope: null, controls: {}, selected: null, received: 0 } },
    }
    const heard = effects(playedBy(rig, sweep.slice(0, 1), high))
    const first = heard.findIndex((effect) => effect.kind === 'moves' && !effect.isHeldBack)
    expect(first).toBeGreaterThan(50)
    expect(heard.slice(0, first).every((effect) => effect.kind === 'moves' && effect.to === 50)).toBe(true)
  })

  it('jumps where clicks are taken for positions, and creeps the other way round', () => {
    const clicks = {
      'k1.turn': sendingCc(20, { behaviour: { kind: 'relative', encoding: 'twos-complement' } }),
    }
    const hand: Hand = { kind: 'click', gesture: 'k1.turn', by: -1 }
    expect(valuesOf(playedBy(rigOf(clicks, learned({ takeover: 'at-once' }), percent), [hand]))).toEqual([
      100,
    ])
    const right = learned({ expects: { kind: 'relative', encoding: 'twos-complement' } })
    const up: Hand = { ...hand, by: 3 }
    const rule = { ...percent, stepRule: { kind: 'fraction' as const, of: 0.01 } }
    expect(valuesOf(playedBy(rigOf(clicks, right, rule), [up]))).toEqual([1, 2, 3])
    const wrong = learned({ expects: { kind: 'relative', encoding: 'offset-binary' } })
    expect(valuesOf(playedBy(rigOf(clicks, wrong, rule), [{ ...hand, by: 1 }]))).toEqual([0])
  })

  it('is changed by cables: a note becomes a switch, a range becomes half', () => {
    const strike = { 'k6.push': sending({ kind: 'note', keys: { kind: 'one', number: 51 } } as never) }
    const toPedal = ruled([rewrite({ kinds: ['note'], low: 51, high: 51 }, { kind: 'cc', number: 64 })])
    const pedal = [joined('a/k6.push', 'p1', { learnedAt: '1:cc64', takeover: 'at-once' })]
    const hands: Hand[] = [
      { kind: 'press', gesture: 'k6.push', force: 0.3 },
      { kind: 'let-go', gesture: 'k6.push' },
    ]
    expect(valuesOf(playedBy(rigOf(strike, pedal, percent, toPedal), hands))).toEqual([100, 0])
    const half = ruled([rewrite({}, { range: { low: 0, high: 63 } })])
    const values = valuesOf(playedBy(rigOf(k20, learned(), percent, half), sweep))
    expect(Math.max(...values)).toBeCloseTo((63 / 127) * 100)
  })

  it('moves a stranger’s parameter where channels are taken for one', () => {
    const other = { 'k1.turn': sendingCc(20, { channel: 5 }) }
    const heard = (destination: object): number =>
      valuesOf(playedBy(rigOf(other, learned(), { ...percent, ...destination }), sweep)).length
    expect(heard({})).toBe(0)
    expect(heard(merged)).toBeGreaterThan(100)
  })

  it('is taken by what a destination keeps for itself', () => {
    const claims = [{ id: 'c', function: 'its clock', kind: 'cc' as const, low: 20, high: 20 }]
    const heard = effects(playedBy(rigOf(k20, learned(), { ...percent, claims }), sweep.slice(0, 1)))
    expect(new Set(heard.map(({ kind }) => kind))).toEqual(new Set(['function']))
  })

  it('is late on a crowded DIN cable, by as many bytes as stand before it', () => {
    const rig = rigOf(k20, learned(), percent)
    const din: Rig = {
      ...rig,
      models: rig.models.map((model) => ({
        ...model,
        abilities: { ...model.abilities, connection: 'din' as const },
      })),
    }
    const passed = playedBy(din, [{ kind: 'move', gesture: 'k1.turn', to: 1, overMs: 40 }])
    // 3 bytes take 0.96 ms, and a reading comes every 4 ms.
    expect(
      passed
        .map(({ at, arrived }) => (arrived[0]?.at ?? 0) - at)
        .every((late) => Math.abs(late - 0.96) < 1e-9),
    ).toBe(true)
    const atOnce = playedBy(din, [{ kind: 'click', gesture: 'k1.turn', by: 10 }])
    expect(atOnce.map(({ arrived }) => Math.round((arrived[0]?.at ?? 0) * 100))).toEqual(
      Array.from({ length: 10 }, (_, index) => 96 * (index + 1)),
    )
  })

  it('switches scope by an action, and another mapping of the control counts from then on', () => {
    const destination = {
      scopes: [{ id: 's', name: 'S' }],
      parameters: [
        ...percent.parameters,
        { id: 'p2', name: 'Two', range: { min: 0, max: 100, unit: '%' } },
        { id: 'go', name: 'Go', kind: 'action' as const, switchesTo: 's' },
      ],
    }
    const rig = rigOf(
      { ...k20, 'k6.push': sendingCc(30, { behaviour: { kind: 'trigger' } }) },
      [
        ...learned(),
        joined('a/k1.turn', 'p2', { learnedAt: '1:cc20', scope: 's' }),
        joined('a/k6.push', 'go', { learnedAt: '1:cc30' }),
      ],
      destination,
    )
    const passed = playedBy(rig, [...sweep, { kind: 'press', gesture: 'k6.push' }, ...sweep])
    const at = passed.findIndex(({ place }) => place?.gesture === 'k6.push')
    expect(valuesOf(passed.slice(0, at), 'p2')).toEqual([])
    expect(valuesOf(passed.slice(at), 'p1')).toEqual([])
    expect(valuesOf(passed.slice(at), 'p2').length).toBeGreaterThan(100)
  })
})

describe('the demo', () => {
  it('moves two parameters at once as found, and its passages set everything', () => {
    const rig = nineRingsRig('as-found')
    const { passed } = playRig(
      rig,
      switchedOn(rig),
      'syzra',
      { kind: 'move', gesture: 'fader-1.slide', to: 1, overMs: 400 },
      0,
    )
    const moved = new Set(
      passed.flatMap(({ arrived }) =>
        arrived.flatMap(({ destination, effects: list }) =>
          list.flatMap((effect) => (effect.kind === 'moves' ? [`${destination} ${effect.parameter}`] : [])),
        ),
      ),
    )
    expect(moved.size).toBeGreaterThan(1)
    const performed = nineRingsRig('as-performed')
    for (const passage of performed.passages) {
      const { state } = beginPassage(performed, switchedOn(performed), passage, 0)
      for (const { destination, scope } of passage.scopes)
        expect(state.destinations[destination]?.scope).toBe(scope)
      for (const { controller, template } of passage.showing)
        expect(state.controllers[controller]?.showing.template).toBe(template)
    }
  })

  it('lets one switch choose on another controller too', () => {
    const rig = nineRingsRig('as-performed')
    const knobs = (state: BenchState) => state.controllers.syzra?.showing.layers.knobs
    const start = switchedOn(rig)
    const hand: Hand = { kind: 'press', gesture: 'foot-1.press' }
    const pressed = playRig(rig, start, 'umbrek', hand, 0).state
    expect([knobs(start), knobs(pressed)]).toEqual(['overture', 'rings'])
  })

  it('tells which passage is shown, from what all controllers show', () => {
    const rig = nineRingsRig('as-performed')
    const shown = (state: BenchState): string | undefined =>
      passageShown(rig.passages, (id) => state.controllers[id]?.showing)?.id
    const start = switchedOn(rig)
    const pressed = playRig(rig, start, 'umbrek', { kind: 'press', gesture: 'foot-1.press' }, 0).state
    for (const passage of rig.passages)
      expect(shown(beginPassage(rig, start, passage, 0).state)).toBe(passage.id)
    expect(shown(pressed)).toBe('rings')
    // One controller that shows something else is enough to be in none.
    const syzra = pressed.controllers.syzra
    if (!syzra) throw new Error('no controller')
    const other = showOnRig(
      rig,
      pressed,
      'syzra',
      { ...syzra.showing, layers: { ...syzra.showing.layers, knobs: 'transit' } },
      1,
    )
    expect(shown(other.state)).toBeUndefined()
    // Where two passages ask for the same, neither is told; one that says nothing never is.
    const [first] = rig.passages
    if (!first) throw new Error('no passage')
    const twice = [first, { ...first, id: 'again' }]
    const showing = (id: string) => start.controllers[id]?.showing
    expect(passageShown([first], showing)?.id).toBe(first.id)
    expect(passageShown(twice, showing)).toBeNull()
    expect(passageShown([{ ...first, showing: [] }], showing)).toBeNull()
  })
})
