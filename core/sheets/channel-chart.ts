import {
  busCellKey,
  busesOf,
  claimCovers,
  occupancyOf,
  type Bus,
  type Hit,
  type Occupancy,
} from '../addresses'
import { controllerClass, noteName, type Channel } from '../midi'
import { rigIndex, spansOf, type Destination, type Id, type Rig } from '../rig'
import {
  columns,
  figure,
  numeral,
  row,
  words,
  type Cell,
  type Row,
  type Section,
  type SheetDocument,
} from './document'
import { gestureOf } from './names'

const CHANNELS = Array.from({ length: 16 }, (_, index) => index + 1)
const NUMBERS = Array.from({ length: 128 }, (_, number) => number)
const GRID_WIDTH = 8

type Family = 'cc' | 'note' | 'program'
const FAMILIES: ReadonlyArray<readonly [Family, string]> = [
  ['cc', 'CC'],
  ['note', 'notes'],
  ['program', 'programs'],
]

interface Taken {
  occupancy: Occupancy
  bus: Bus
  destination: Destination
}

const hitsAt = ({ occupancy, bus }: Taken, kind: Family, channel: Channel, number: number): readonly Hit[] =>
  occupancy.cells.get(bus.id)?.get(busCellKey(bus, { kind, channel, number })) ?? []

/** Is a number kept by the destination, or by a host that it runs in? */
function isKept(
  { occupancy: { rig }, bus, destination }: Taken,
  kind: Family,
  channel: Channel,
  number: number,
): boolean {
  const cell = { kind, channel, number }
  const host = destination.inside === null ? null : rigIndex(rig).destinations.get(destination.inside)
  return (
    !bus.hears(cell) ||
    [destination, ...(host ? [host] : [])].some(({ claims }) =>
      claims.some((claim) => claimCovers(claim, cell)),
    )
  )
}

/** Controller numbers that may be handed out: neither bank select, nor what carries parameters, nor channel mode. */
const isForUse = (number: number): boolean =>
  !['bank-select', 'carrier', 'mode'].includes(controllerClass(number))

/** What each controller sends on a channel: “Syzra 24 (8 CC, 2 notes)”. */
function usersOn(taken: Taken, channel: Channel): string {
  const counts = new Map<Id, Map<Family, Set<number>>>()
  for (const [kind] of FAMILIES) {
    for (const number of NUMBERS) {
      for (const { sender } of hitsAt(taken, kind, channel, number)) {
        if (taken.bus.mergesChannels && sender.channel !== channel) continue
        const own = counts.get(sender.place.controller) ?? new Map<Family, Set<number>>()
        counts.set(sender.place.controller, own)
        own.set(kind, (own.get(kind) ?? new Set()).add(number))
      }
    }
  }
  return [...counts]
    .map(([id, own]) => {
      const what = FAMILIES.flatMap(([kind, name]) => {
        const count = own.get(kind)?.size ?? 0
        return count === 0 ? [] : `${count} ${count === 1 && name.endsWith('s') ? name.slice(0, -1) : name}`
      })
      return `${rigIndex(taken.occupancy.rig).controllers.get(id)?.name ?? ''} (${what.join(', ')})`
    })
    .join('; ')
}

const takenNumbers = (taken: Taken, kind: Family, channel: Channel): number[] =>
  NUMBERS.filter((number) => hitsAt(taken, kind, channel, number).length > 0)

function freeNumbers(taken: Taken, kind: Family, channel: Channel): number[] {
  return NUMBERS.filter(
    (number) =>
      hitsAt(taken, kind, channel, number).length === 0 &&
      !isKept(taken, kind, channel, number) &&
      (kind !== 'cc' || isForUse(number)),
  )
}

function rowOf(taken: Taken, channel: Channel): Row {
  const of = (kind: Family): [Cell, Cell] => [
    numeral(takenNumbers(taken, kind, channel).length),
    figure(spansOf(freeNumbers(taken, kind, channel)) || 'none'),
  ]
  const heard =
    taken.bus.hears({ kind: 'cc', channel, number: 1 }) ||
    taken.bus.hears({ kind: 'note', channel, number: 60 })
  return row(
    [
      numeral(channel),
      words(heard ? usersOn(taken, channel) || 'nobody' : 'not heard'),
      ...of('cc'),
      ...of('note'),
    ],
    { kind: 'lattice', bus: taken.bus.id, family: 'cc', channel },
  )
}

/** The channel on which most numbers are taken. */
function busiest(taken: Taken): Channel {
  const counts = CHANNELS.map((channel) =>
    FAMILIES.reduce((sum, [kind]) => sum + takenNumbers(taken, kind, channel).length, 0),
  )
  return CHANNELS[counts.indexOf(Math.max(...counts))] ?? 1
}

/** Who is at a number, in short: the letter of the controller and the control. */
function whoAt(taken: Taken, kind: Family, channel: Channel, number: number): string {
  const { rig } = taken.occupancy
  const names = hitsAt(taken, kind, channel, number).map(({ sender }) => {
    const controller = rigIndex(rig).controllers.get(sender.place.controller)
    return `${controller?.letter ?? ''} ${gestureOf(rig, sender.gesture)}`
  })
  const all = [...new Set(names)]
  const kept = isKept(taken, kind, channel, number) ? ['kept'] : []
  return [...all, ...kept].join(', ')
}

function gridOf(taken: Taken, kind: 'cc' | 'note', channel: Channel): Section {
  const rows = Array.from({ length: 128 / GRID_WIDTH }, (_, down) => {
    const first = down * GRID_WIDTH
    const numbers = NUMBERS.slice(first, first + GRID_WIDTH)
    const name = kind === 'note' ? ` ${noteName(first, taken.destination.middleC)}` : ''
    return row(
      [figure(`${first}${name}`), ...numbers.map((number) => words(whoAt(taken, kind, channel, number)))],
      { kind: 'lattice', bus: taken.bus.id, family: kind, channel },
    )
  })
  const heads = Array.from({ length: GRID_WIDTH }, (_, across) => `+${across}`)
  const title = kind === 'cc' ? `CC on channel ${channel}` : `Notes on channel ${channel}`
  return { heading: `${taken.bus.name}: ${title}`, table: { columns: columns('From', ...heads), rows } }
}

/** The numbers of one channel that are wanted as a grid. */
export type GridChannel = 'none' | 'busiest' | Channel

/**
 * Who uses which channel of a destination for what, how full it is and what is free; the numbers of one channel as a grid.
 * Throws a RangeError for a destination that is not in the rig.
 */
export function channelChart(rig: Rig, id: Id, grid: GridChannel = 'busiest'): SheetDocument {
  const destination = rigIndex(rig).destinations.get(id)
  if (!destination) throw new RangeError(`The rig has no destination “${id}”.`)
  const occupancy = occupancyOf(rig)
  const sections = busesOf(rig)
    .filter((bus) => bus.destination === id)
    .flatMap((bus): Section[] => {
      const taken = { occupancy, bus, destination }
      const channel = grid === 'busiest' ? busiest(taken) : grid
      return [
        {
          heading: bus.name,
          ...(bus.mergesChannels
            ? { note: 'It takes all channels for one: a number taken on one is taken on all.' }
            : {}),
          table: {
            columns: columns(
              { figures: 'Channel' },
              'Used by',
              { figures: 'CC taken' },
              'CC free',
              { figures: 'Notes taken' },
              'Notes free',
            ),
            rows: CHANNELS.map((each) => rowOf(taken, each)),
          },
        },
        ...(channel === 'none' ? [] : [gridOf(taken, 'cc', channel), gridOf(taken, 'note', channel)]),
      ]
    })
  return {
    title: `${destination.name}: channel chart`,
    subtitle: rig.name,
    facts: [
      {
        label: 'Free CC',
        value:
          'without bank select (0, 32), carriers of parameters (6, 38, 96–101) and channel mode (120–127)',
      },
    ],
    sections,
  }
}
