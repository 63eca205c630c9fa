import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { check } from '../conflicts'
import { printTag } from '../midi'
import { placeKey, type Rig, type RigEdit } from '../rig'
import {
  freeSlots,
  moveTo,
  naiveScore,
  NAIVE_TERMS,
  slotsOf,
  type NaiveAsked,
  type NaiveScore,
  type Slot,
} from '../testing/naive-plan'
import { joined, type MappingInput } from '../testing/mapped-rigs'
import { sending, testController, testRig, type Assigned } from '../testing/rigs'
import { askedSenders, troublesOf } from './free'
import { AllocateRequest, type AllocateInput } from './request'
import { teachingOf } from './teaching'
import { apply, plan } from '../testing/plans'
import { cases } from '../testing/cases'

const ROW = ['k1.turn', 'k2.turn', 'k3.turn']
const OPEN = [20, 21, 22]

const row = {
  id: 'row',
  name: 'Row',
  abilities: { connection: 'usb' as const, stacks: 1, layersAStack: 4 },
  surface: {
    width: 200,
    height: 40,
    controls: [1, 2, 3].map((n) => ({
      id: `k${n}`,
      kind: 'knob' as const,
      label: `Knob ${n}`,
      block: 'row',
      gestures: ['turn' as const],
      place: { x: n * 30 - 25, y: 5, w: 14, h: 14 },
    })),
    blocks: [{ id: 'row', label: 'Row', rows: 1, columns: 3 }],
  },
}

const message = fc
  .record({
    channel: fc.constantFrom(1, 1, 2),
    number: fc.constantFrom<Array<number | 'wanted'>>(20, 20, 21, 22, 7, 'wanted'),
    pinned: fc.boolean(),
  })
  .map(({ channel, number, pinned }) => ({
    ...sending({ kind: 'cc', channel, number }),
    pinned: pinned && number !== 'wanted',
  }))
const some = <T>(value: fc.Arbitrary<T>) => fc.option(value, { nil: undefined, freq: 2 })
const table = (gestures: readonly string[]) =>
  fc
    .tuple(...gestures.map(() => some(message)))
    .map((list) =>
      Object.fromEntries(
        list.flatMap((each, index) => (each ? [[gestures[index] ?? '', each] as const] : [])),
      ),
    )
const mapping = fc
  .record({
    gesture: fc.constantFrom('a/k1.turn', 'a/k2.turn', 'b/k1.turn'),
    parameter: fc.constantFrom('p1', 'p2'),
    learnedAt: fc.constantFrom('1:cc20', '1:cc21', '2:cc20'),
  })
  .map(({ gesture, parameter, learnedAt }): MappingInput => joined(gesture, parameter, { learnedAt }))

const mappings = fc.uniqueArray(mapping, { maxLength: 2, selector: ({ id }) => id })

/** A few controls, of which those that are named are in two layers, over three numbers of two channels. */
const fewOf = (
  inLayers: string[],
  drawn: Record<'base' | 'x' | 'y' | 'b', ReturnType<typeof table>> & {
    mappings: fc.Arbitrary<MappingInput[]>
  },
) =>
  fc
    .record({
      ...drawn,
      policy: fc.constantFrom<Array<NonNullable<AllocateInput['policy']>>>(
        { kind: 'keep' },
        { kind: 'among', channels: [1, 2] },
        { kind: 'each-controller' },
      ),
      isRepair: fc.boolean(),
      preferred: fc.constantFrom<Array<readonly [number, number] | null>>(null, null, [21, 22], [22, 22]),
    })
    .map(({ base, x, y, b, mappings, policy, isRepair, preferred }) => {
      const layers = { mode: 'replace' as const, gestures: inLayers }
      const layer = (id: string, assignments: Assigned) => ({ id, name: id, assignments })
      const { models } = testRig([])
      const rig = testRig(
        [
          testController(
            'a',
            {},
            {
              model: 'row',
              templates: [
                {
                  id: 't',
                  name: 'T',
                  base,
                  stacks: [{ id: 's', name: 'S', ...layers, layers: [layer('x', x), layer('y', y)] }],
                },
              ],
            },
          ),
          testController('b', b, { model: 'row' }),
        ],
        undefined,
        { models: [...models, row], mappings },
      )
      return { rig, policy, isRepair: isRepair && policy.kind !== 'each-controller', preferred }
    })

const anyFew = fewOf(['k1.turn'], {
  base: table(['k2.turn', 'k3.turn']),
  x: table(['k1.turn']),
  y: table(['k1.turn']),
  b: table(['k1.turn']),
  mappings,
})

const rules = [
  { kind: 'avoid' as const, low: 0, high: 19 },
  { kind: 'avoid' as const, low: 23, high: 127 },
]

/** Is something moved to where something else is, which layers do only if they are asked to? */
function sharesAnew(before: Rig, after: Rig): boolean {
  const was = new Map(slotsOf(before).map((slot) => [placeKey(slot.place), slot]))
  const sent = check(after).context.occupancy.senders
  return slotsOf(after).some(({ place, channel, number }) => {
    const old = was.get(placeKey(place))
    const isMoved = old?.channel !== channel || old.number !== number
    const there = sent.filter(
      ({ address }) => address !== null && printTag(address) === `${channel}:cc${number}`,
    )
    return isMoved && there.length > 1
  })
}

/** With two controllers on two channels one of them may go to a third; all others are as good. */
const CHANNELS_TRIED = [1, 2, 3] as const

/** Every way to leave or to move what may move. */
function* ways(rig: Rig, policy: NonNullable<AllocateInput['policy']>, asked: NaiveAsked): Generator<Rig> {
  const slots = freeSlots(rig, asked)
  const isHeardForOthers = ({ place }: Slot, channel: number, number: number): boolean =>
    rig.mappings.some(
      ({ gesture, learnedAt }) =>
        gesture !== `${place.controller}/${place.gesture}` &&
        learnedAt !== null &&
        printTag(learnedAt) === `${channel}:cc${number}`,
    )
  function* from(index: number, edits: readonly RigEdit[]): Generator<Rig> {
    const slot = slots[index]
    if (!slot) {
      const after = apply(rig, edits)
      if (!sharesAnew(rig, after)) yield after
      return
    }
    yield* from(index + 1, edits)
    const channels =
      policy.kind === 'among'
        ? policy.channels
        : policy.kind === 'each-controller'
          ? CHANNELS_TRIED
          : [slot.channel]
    for (const channel of channels)
      for (const number of OPEN)
        if ((channel !== slot.channel || number !== slot.number) && !isHeardForOthers(slot, channel, number))
          yield* from(index + 1, [...edits, moveTo(rig, slot, channel, number)])
  }
  yield* from(0, [])
}

const compare = (a: NaiveScore, b: NaiveScore): number => {
  for (const term of NAIVE_TERMS) if (a[term] !== b[term]) return a[term] - b[term]
  return 0
}

type Few = typeof anyFew extends fc.Arbitrary<infer T> ? T : never

/** A plan has the score that the definitions say, nothing that could be made is better where it is proven, and whom it leaves is named. */
function expectNeverBeaten({ rig, policy, isRepair, preferred }: Few): void {
  const [low, high] = preferred ?? [0, 127]
  const prefer = preferred === null ? [] : [{ kind: 'prefer' as const, low, high }]
  const numbers = preferred && OPEN.filter((number) => number >= low && number <= high)
  const found = plan(rig, {
    kind: isRepair ? 'repair' : 'replan',
    policy,
    rules: [...rules, ...prefer],
  })
  // Cures that need no other number change more than addresses.
  fc.pre(found.cures.length === 0)
  const after = apply(rig, found.edits)
  const isOneForEach = policy.kind === 'each-controller'
  const asked: NaiveAsked = { row: ROW, preferred: numbers, isRepair, isOneForEach }
  const score = naiveScore(rig, after, asked)
  expect(score).not.toBeNull()
  if (!score) return
  expect(found.score).toEqual(score)
  const proven = NAIVE_TERMS.slice(0, NAIVE_TERMS.findIndex((term) => !found.proven.includes(term)) >>> 0)
  for (const way of ways(rig, policy, asked)) {
    const other = naiveScore(rig, way, asked)
    if (!other) continue
    // Terms that are not proven do not count.
    const rest = Object.fromEntries(NAIVE_TERMS.map((term) => [term, 0]))
    const only = (of: NaiveScore): NaiveScore => ({
      ...(rest as unknown as NaiveScore),
      ...Object.fromEntries(proven.map((term) => [term, of[term]])),
    })
    expect(compare(only(other), only(score))).toBeGreaterThanOrEqual(0)
  }
  const free = new Set(freeSlots(rig, asked).map(({ place }) => placeKey(place)))
  const named = new Set(found.shortages.flatMap(({ at }) => at.map(placeKey)))
  expect([...named].filter((place) => free.has(place)).length).toBe(score.errors + score.unmet)
}

const ofThree = anyFew.filter(({ rig }) => slotsOf(rig).length <= 3)

it('scores what its definitions say, is never beaten where it is proven, and names whom it leaves', () => {
  fc.assert(fc.property(ofThree, expectNeverBeaten), cases(4))
}, 120_000)

it('does so where errors may end because something is taught elsewhere', () => {
  const mayEnd = ({ rig, isRepair }: Few): boolean => {
    const checked = check(rig)
    const request = AllocateRequest.parse({ kind: isRepair ? 'repair' : 'replan' })
    const troubles = troublesOf(checked)
    return teachingOf(checked.context, askedSenders(checked, request, troubles).free, troubles) !== null
  }
  const at = (number: number) => ({ ...sending({ kind: 'cc', channel: 1, number }), pinned: false })
  const withOthers = (own: readonly MappingInput[]) =>
    mappings.map((others) => [...own, ...others.filter(({ id }) => own.every((each) => each.id !== id))])
  const none = fc.constant({})
  // In one layer a knob is heard by a mapping of its own, in the other another knob sets that off.
  const ofAnother = fewOf(['k1.turn', 'k2.turn'], {
    base: none,
    x: table(['k2.turn']).map((other) => ({ ...other, 'k1.turn': at(20) })),
    y: table(['k1.turn']).map((other) => ({ ...other, 'k2.turn': at(20) })),
    b: none,
    mappings: withOthers([joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' })]),
  })
  // In one layer a knob sets off what another was learned for, and a mapping of its own hears the other layer.
  const ofItsOwn = fewOf(['k1.turn'], {
    base: table(['k2.turn']),
    x: fc.constant({ 'k1.turn': at(21) }),
    y: fc.constant({ 'k1.turn': at(20) }),
    b: none,
    mappings: fc
      .constantFrom('p1', 'p2')
      .chain((parameter) =>
        withOthers([
          joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
          joined('a/k2.turn', parameter, { learnedAt: '1:cc21' }),
        ]),
      ),
  })
  const layered = fc.oneof(ofAnother, ofItsOwn)
  const isSmall = ({ rig }: Few): boolean => slotsOf(rig).length <= 3
  fc.assert(
    fc.property(
      layered.filter((few) => isSmall(few) && mayEnd(few)),
      expectNeverBeaten,
    ),
    cases(4),
  )
}, 120_000)

it('lies as low as can be where very many find room at once', () => {
  const wanting = Object.fromEntries(
    [1, 2, 3, 4, 5, 6].map((n) => [
      `k${n}.turn`,
      sending({ kind: 'note', keys: { kind: 'one', number: 'wanted' } }),
    ]),
  )
  const crowd = Array.from({ length: 20 }, (_, index) => testController(`c${index}`, wanting))
  const found = plan(testRig(crowd), { kind: 'fill' })
  expect(found.free).toBe(120)
  expect(found).toMatchObject({ bound: null, isLeast: true })
})

it('lies as low where an old mapping of somebody else is heard by nothing', () => {
  const wanting = Object.fromEntries(
    [1, 2, 3, 4, 5, 6].map((n) => [
      `k${n}.turn`,
      sending(n % 2 === 1 ? { kind: 'cc', number: 'wanted' } : { kind: 'cc14', number: 'wanted' }),
    ]),
  )
  const crowd = Array.from({ length: 26 }, (_, index) =>
    testController(`c${index}`, wanting, { homeChannel: 1 + (index % 3) }),
  )
  const odd = testController('z', { 'k1.turn': sending({ kind: 'cc', number: 20 }) }, { homeChannel: 9 })
  const mappings = [joined('z/k1.turn', 'p1', { learnedAt: '10:cc21' })]
  const without = plan(testRig([...crowd, odd]), { kind: 'replan' })
  const found = plan(testRig([...crowd, odd], undefined, { mappings }), { kind: 'replan' })
  expect(without.isLeast).toBe(true)
  expect(found.score).toEqual({ ...without.score, warnings: 1 })
  expect(found.changes.map(({ at, to }) => [at, to])).toEqual(without.changes.map(({ at, to }) => [at, to]))
})
