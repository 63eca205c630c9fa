import * as fc from 'fast-check'
import type { Cable, PortRef, Rig } from '../rig'
import { sending, sendingCc, testController, testDestination, testRig } from './rigs'

/**
 * Where messages go, walked cable by cable along every way, without any of the code that it is there to judge: for rigs
 * as `anyWiredRig` makes them, in which rules look at nothing but kind, channel and number.
 */
interface Walking {
  kind: 'cc' | 'note'
  channel: number
  number: number
}

function after(cable: Cable, walking: Walking): Walking | null {
  for (const rule of cable.rules) {
    const { kinds, channels, low, high } = rule.match
    if (kinds.length > 0 && !kinds.includes(walking.kind)) continue
    if (channels.length > 0 && !channels.includes(walking.channel)) continue
    if (low !== null && walking.number < low) continue
    if (high !== null && walking.number > high) continue
    if (rule.kind === 'pass') return walking
    if (rule.kind === 'stop') return null
    return {
      kind: walking.kind,
      channel: rule.to.channel ?? walking.channel,
      number: rule.to.number === null ? walking.number : rule.to.number + walking.number - (low ?? 0),
    }
  }
  return cable.otherwise === 'pass' ? walking : null
}

/** The cables that begin where what arrives at an owner goes on. */
function onward(rig: Rig, { owner }: PortRef): Cable[] {
  const box = rig.boxes.find(({ id }) => id === owner)
  const other = [...rig.controllers, ...rig.destinations].find(({ id }) => id === owner)
  const ports = box
    ? box.ports.filter(({ direction }) => direction !== 'in')
    : (other?.ports.filter(({ direction }) => direction === 'thru') ?? [])
  return rig.cables.filter(({ from }) => from.owner === owner && ports.some(({ id }) => id === from.port))
}

const outsOf = (rig: Rig, owner: string): Cable[] => {
  const found = [...rig.controllers, ...rig.destinations].find(({ id }) => id === owner)
  const outs = found?.ports.filter(({ direction }) => direction === 'out') ?? []
  return rig.cables.filter(({ from }) => from.owner === owner && outs.some(({ id }) => id === from.port))
}

/** Can something that an out of the rig sends come back on a cable as what it was there? */
export function naiveLoops(rig: Rig): boolean {
  const comesRound = (
    cable: Cable,
    walking: Walking,
    before: ReadonlySet<string>,
    done: Set<string>,
  ): boolean => {
    const on = after(cable, walking)
    if (!on) return false
    const state = `${cable.id} ${on.kind} ${on.channel} ${on.number}`
    if (before.has(state)) return true
    if (done.has(state)) return false
    const path = new Set([...before, state])
    const isRound = onward(rig, cable.to).some((next) => comesRound(next, on, path, done))
    done.add(state)
    return isRound
  }
  const owners = [...rig.controllers.filter(({ inUse }) => inUse), ...rig.destinations]
  const done = new Set<string>()
  return owners.some(({ id }) =>
    outsOf(rig, id).some((cable) =>
      (['cc', 'note'] as const).some((kind) =>
        [1, 2, 3].some((channel) =>
          [17, 18, 19, 20, 21, 22, 23, 24, 60].some((number) =>
            comesRound(cable, { kind, channel, number }, new Set(), done),
          ),
        ),
      ),
    ),
  )
}

/** Every message that comes to a destination by more than one way as one address: sender and destination. */
export function naiveDoubled(rig: Rig): string[] {
  return rig.controllers.flatMap((controller) => {
    if (!controller.inUse) return []
    return Object.entries(controller.templates[0]?.base ?? {}).flatMap(([gesture, { messages }]) => {
      const [message] = messages
      if (message?.kind !== 'cc' && message?.kind !== 'note') return []
      const channel = message.channel === 'home' ? controller.homeChannel : message.channel
      const number =
        message.kind === 'cc' ? message.number : message.keys.kind === 'one' ? message.keys.number : 0
      return rig.destinations.flatMap((destination) => {
        const ways = new Map<string, number>()
        const walk = (cable: Cable, walking: Walking, passed: readonly string[]): void => {
          const on = after(cable, walking)
          if (!on || passed.includes(cable.to.owner)) return
          if (cable.to.owner === destination.id) {
            const { channels } = destination.hears.playing
            if (channels.kind === 'only' && !channels.channels.includes(on.channel)) return
            const address = `${on.kind} ${channels.kind === 'merged' ? '' : on.channel} ${on.number}`
            ways.set(address, (ways.get(address) ?? 0) + 1)
            return
          }
          for (const next of onward(rig, cable.to)) walk(next, on, [...passed, cable.to.owner])
        }
        const start: Walking = { kind: message.kind, channel, number: Number(number) }
        for (const cable of outsOf(rig, controller.id)) walk(cable, start, [controller.id])
        return [...ways.values()].some((count) => count > 1)
          ? [`${controller.id}/${gesture} ${destination.id}`]
          : []
      })
    })
  })
}

const none = { kinds: [], channels: [], low: null, high: null }
const RULES: ReadonlyArray<Cable['rules']> = [
  [],
  [],
  [],
  [{ kind: 'stop', match: { ...none, kinds: ['cc'] } }],
  [{ kind: 'stop', match: { ...none, channels: [1] } }],
  [
    {
      kind: 'rewrite',
      match: { ...none, channels: [1] },
      to: { kind: null, channel: 2, number: null, range: null },
    },
  ],
  [
    {
      kind: 'rewrite',
      match: { ...none, kinds: ['cc'], low: 20, high: 20 },
      to: { kind: null, channel: null, number: 21, range: null },
    },
  ],
  [
    {
      kind: 'rewrite',
      match: { ...none, low: 20, high: 22 },
      to: { kind: null, channel: null, number: 21, range: null },
    },
    { kind: 'stop', match: { ...none, low: 23, high: null } },
  ],
  [
    {
      kind: 'rewrite',
      match: { ...none, low: 19, high: 23 },
      to: { kind: null, channel: 1, number: 18, range: null },
    },
  ],
]

const FROM: readonly PortRef[] = [
  { owner: 'a', port: 'out' },
  { owner: 'b', port: 'out' },
  ...['x', 'y', 'z'].map((owner) => ({ owner, port: 'out' })),
  { owner: 'd', port: 'thru' },
  { owner: 'e', port: 'out' },
]
const TO: readonly PortRef[] = [
  ...['x', 'y', 'z'].flatMap((owner) => ['in-1', 'in-2'].map((port) => ({ owner, port }))),
  { owner: 'd', port: 'in' },
  { owner: 'e', port: 'in' },
]

type Channels = { kind: 'apart' } | { kind: 'merged' } | { kind: 'only'; channels: number[] }

/** Two controllers, three boxes and two destinations, wired at random, with and without rules. */
export const anyWiredRig: fc.Arbitrary<Rig> = fc
  .record({
    cables: fc.uniqueArray(
      fc.record({
        from: fc.nat(FROM.length - 1),
        to: fc.nat(TO.length - 1),
        rules: fc.nat(RULES.length - 1),
      }),
      { minLength: 3, maxLength: 10, selector: ({ from, to }) => `${from} ${to}` },
    ),
    hearing: fc.constantFrom<Channels[]>(
      { kind: 'apart' },
      { kind: 'merged' },
      { kind: 'only', channels: [1] },
    ),
    inUse: fc.boolean(),
  })
  .map(({ cables, hearing, inUse }) =>
    testRig(
      [
        testController('a', {
          'k1.turn': sendingCc(20),
          'k2.turn': sendingCc(21, { channel: 2 }),
          'k3.turn': sending({ kind: 'note', channel: 1, keys: { kind: 'one', number: 60 } }),
        }),
        testController('b', { 'k1.turn': sendingCc(20, { channel: 2 }) }, { inUse }),
      ],
      [
        testDestination('d', {
          hears: { playing: { channels: hearing } },
          ports: [
            { id: 'in', name: 'In', direction: 'in' },
            { id: 'thru', name: 'Thru', direction: 'thru' },
          ],
        }),
        testDestination('e', {
          ports: [
            { id: 'in', name: 'In', direction: 'in' },
            { id: 'out', name: 'Out', direction: 'out' },
          ],
        }),
      ],
      {
        boxes: ['x', 'y', 'z'].map((id) => ({
          id,
          name: id.toUpperCase(),
          kind: 'merge',
          ports: [
            { id: 'in-1', name: 'In 1', direction: 'in' },
            { id: 'in-2', name: 'In 2', direction: 'in' },
            { id: 'out', name: 'Out', direction: 'out' },
          ],
        })),
        cables: cables.map(({ from, to, rules }, index) => ({
          id: `c${index}`,
          from: FROM[from] ?? { owner: 'a', port: 'out' },
          to: TO[to] ?? { owner: 'd', port: 'in' },
          rules: RULES[rules] ?? [],
        })),
      },
    ),
  )
