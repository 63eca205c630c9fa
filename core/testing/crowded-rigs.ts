import { seeded } from '../allocate/solver/seeded'
import type { AllocateInput } from '../allocate/request'
import type { Rig } from '../rig'
import type { MappingInput } from './mapped-rigs'
import { testController, testDestination, testRig, type Assigned, type MessageInput } from './rigs'

/** How large and how full a crowded rig is. */
export interface Crowd {
  seed: number
  /** About how many gestures may move. */
  gestures: number
  channels: number
  /** The share of numbers that are taken by what may not move, from 0 to 1. */
  full: number
}

export interface CrowdedRig {
  rig: Rig
  request: AllocateInput
}

const range = (count: number, from = 0): number[] => Array.from({ length: count }, (_, index) => from + index)

/** Numbers below are left to the standard, and those from 120 are channel mode. */
const LOWEST = 12
const NUMBERS = range(108, LOWEST)

type Model = NonNullable<NonNullable<Parameters<typeof testRig>[2]>['models']>[number]

/** Knobs in blocks of these sizes. */
function modelOf(id: string, sizes: readonly number[]): Model {
  let number = 0
  const controls = sizes.flatMap((size, block) =>
    range(size).map((column) => ({
      id: `k${number++}`,
      kind: 'knob' as const,
      label: `Knob ${number}`,
      block: `b${block}`,
      gestures: ['turn' as const],
      place: { x: column * 20 + 5, y: block * 20 + 5, w: 14, h: 14 },
    })),
  )
  return {
    id,
    name: id,
    abilities: { connection: 'usb', fourteenBit: true, stacks: 1, layersAStack: 4 },
    surface: {
      width: 340,
      height: sizes.length * 20 + 10,
      controls,
      blocks: sizes.map((size, block) => ({
        id: `b${block}`,
        label: `Block ${block}`,
        rows: 1,
        columns: size,
      })),
    },
  }
}

/** Sizes of blocks for so many controls: from 1 to 16. */
function sizesFor(controls: number, random: () => number): number[] {
  const sizes: number[] = []
  for (let left = controls; left > 0; left -= sizes.at(-1) ?? left)
    sizes.push(Math.min(left, 1 + Math.floor(random() * 16)))
  return sizes
}

/**
 * A rig in which little is free, the same for the same seed: two controllers with blocks of 1 to 16 knobs, one of them
 * in two layers, at two destinations of which the second takes all channels for one and hears the second controller only.
 * Destinations keep numbers amid the others; pairs stand among single numbers, pins within blocks; about half have a
 * number, of which some are learned. A third controller, pinned, fills the numbers.
 */
export function crowdedRig({ seed, gestures, channels, full }: Crowd): CrowdedRig {
  const random = seeded(seed)
  const chance = (share: number): boolean => random() < share
  const any = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T
  const isWide = chance(0.6)
  const shareLayers = chance(0.3)

  // The second controller has to do with one channel's worth of numbers.
  const second = Math.min(Math.floor(gestures * 0.3), 40)
  const layered = Math.floor(gestures * 0.3)
  const own = gestures - second - layered
  const message = (): MessageInput => {
    const channel = 1 + Math.floor(random() * channels)
    const isPair = chance(0.12)
    const number = chance(0.5) ? ('wanted' as const) : any(NUMBERS.filter((each) => !isPair || each < 32))
    return { kind: isPair ? 'cc14' : 'cc', channel, number }
  }
  const table = (from: number, count: number): Assigned =>
    Object.fromEntries(
      range(count, from).map((n) => {
        const sent = message()
        const isGiven = 'number' in sent && sent.number !== 'wanted'
        return [`k${n}.turn`, { messages: [sent], pinned: isGiven && chance(0.15) }]
      }),
    )
  const twice = Math.ceil(layered / 2)
  const first = testController(
    'a',
    {},
    {
      model: 'first',
      templates: [
        {
          id: 't',
          name: 'T',
          base: table(twice, own),
          stacks: [
            {
              id: 's',
              name: 'S',
              gestures: range(twice).map((n) => `k${n}.turn`),
              layers: [
                { id: 'x', name: 'X', assignments: table(0, twice) },
                { id: 'y', name: 'Y', assignments: table(0, layered - twice) },
              ],
            },
          ],
        },
      ],
    },
  )
  const other = testController('b', table(0, second), { model: 'second' })

  const walls = range(channels, 1).flatMap((channel) =>
    NUMBERS.filter(() => chance(full)).map((number) => ({ channel, number })),
  )
  const wall = testController(
    'w',
    Object.fromEntries(
      walls.map((sent, n) => [`k${n}.turn`, { messages: [{ kind: 'cc' as const, ...sent }], pinned: true }]),
    ),
    { model: 'wall' },
  )

  const claims = (id: string) =>
    range(2).map((index) => {
      const low = any(NUMBERS.slice(0, -4))
      return {
        id: `${id}${index}`,
        function: 'its own use',
        kind: 'cc' as const,
        channel: null,
        low,
        high: low + 2,
      }
    })
  const parameters = range(gestures).map((n) => ({ id: `p${n}`, name: `Parameter ${n}` }))
  const mappings = [first, other].flatMap((controller) => {
    const tables = (controller.templates ?? []).flatMap(({ base = {}, stacks = [] }) => [
      base,
      ...stacks.flatMap(({ layers }) => layers.flatMap(({ assignments = {} }) => [assignments])),
    ])
    const seen = new Set<string>()
    return tables.flatMap((assigned) =>
      Object.entries(assigned).flatMap(([gesture, { messages }]): MappingInput[] => {
        const [sent] = messages
        if (!sent || (sent.kind !== 'cc' && sent.kind !== 'cc14') || seen.has(gesture)) return []
        if (sent.number === 'wanted' || typeof sent.number !== 'number' || !chance(0.5)) return []
        seen.add(gesture)
        const tag = sent.kind === 'cc' ? `cc${sent.number}` : `cc${sent.number}+${sent.number + 32}`
        return [
          {
            id: `m-${controller.id}-${gesture.replace('.', '-')}`,
            gesture: `${controller.id}/${gesture}`,
            destination: 'd',
            parameter: `p${seen.size + (controller.id === 'a' ? 0 : own + layered) - 1}`,
            learnedAt: `${String(sent.channel)}:${tag}`,
          },
        ]
      }),
    )
  })

  const cable = (from: string, to: string) => ({
    id: `${from}-${to}`,
    from: { owner: from, port: 'out' },
    to: { owner: to, port: 'in' },
  })
  const avoided = any(NUMBERS.slice(0, -6))
  const preferred = any(NUMBERS.slice(0, -30))
  const rig = testRig(
    [first, other, wall],
    [
      testDestination('d', { parameters, claims: claims('d') }),
      testDestination('e', {
        hears: { playing: { channels: { kind: 'merged' } } },
        claims: claims('e'),
      }),
    ],
    {
      models: [
        modelOf('first', sizesFor(own + twice, random)),
        modelOf('second', sizesFor(Math.max(1, second), random)),
        modelOf(
          'wall',
          range(Math.ceil(walls.length / 16) || 1).map(() => 16),
        ),
      ],
      mappings,
      cables: [cable('a', 'd'), cable('b', 'd'), cable('b', 'e'), cable('w', 'd')],
    },
  )
  return {
    rig,
    request: {
      kind: 'replan',
      shareLayers,
      policy: isWide ? { kind: 'among', channels: range(channels, 1) } : { kind: 'keep' },
      rules: [
        { kind: 'avoid', low: avoided, high: avoided + 5 },
        { kind: 'prefer', low: preferred, high: preferred + 29 },
        ...(['cc', 'cc14'] as const).map((each) => ({
          kind: 'avoid' as const,
          message: each,
          low: 0,
          high: LOWEST - 1,
        })),
      ],
    },
  }
}
