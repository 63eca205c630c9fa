import type { Sender } from '../addresses'
import type { Apart } from './apart'
import type { CheckContext } from '../conflicts'
import { standingKey } from './candidates'
import type { Ground } from './ground'
import type { AllocateRequest } from './request'
import type { Takes } from './takes'

/** Everything of which there is one, by number: mostly cells of destinations. */
export interface Resources {
  /** What a sender takes that goes somewhere. */
  taken: (sender: Sender, takes: Takes) => number[]
  /** What a sender takes that stays where it is. */
  kept: (sender: Sender, takes: Takes) => number[]
  /** Something else of which there is one, by a name of its own. */
  token: (name: string) => number
  /** How many there are so far. */
  count: () => number
}

/** Numbers of cells and of names. */
interface Space {
  cells: Map<number, number>
  named: Map<string, number>
}

/**
 * @param senders Those who may move.
 * @param ground What each of them takes where it is, with all that goes with it.
 * @param apart Who is held apart though its layer may share; null for nobody.
 */
export function resourcesFor(
  { live }: CheckContext,
  request: AllocateRequest,
  senders: readonly Sender[],
  { takesNow, isCarrier }: Pick<Ground, 'takesNow' | 'isCarrier'>,
  apart: Apart | null,
): Resources {
  let count = 0
  const numberIn = <K>(numbers: Map<K, number>, key: K): number => {
    const known = numbers.get(key) ?? count++
    numbers.set(key, known)
    return known
  }
  // Nearly everything is a cell that nobody shares now: such needs no name.
  const emptySpace = (): Space => ({ cells: new Map(), named: new Map() })
  const space = emptySpace()
  const numberOf = (name: string): number => numberIn(space.named, name)

  // What several of them have now they may keep together; another can have it when all of them have gone.
  const holders = new Map<number, Sender[]>()
  const now = new Map<Sender, Takes>()
  const wideSenders: Sender[] = []
  const carried: Sender[] = []
  for (const sender of senders) {
    const takes = takesNow(sender)
    now.set(sender, takes)
    for (const cell of new Set(takes.own)) holders.set(cell, [...(holders.get(cell) ?? []), sender])
    if (takes.wide.length > 0) wideSenders.push(sender)
    if (takes.carried.length > 0) carried.push(sender)
  }
  const hasNow = (sender: Sender, kind: 'wide' | 'carried', cell: number): boolean =>
    now.get(sender)?.[kind].includes(cell) === true
  const pairOf = (a: Sender, b: Sender): string =>
    a.order < b.order ? `${a.order} ${b.order}` : `${b.order} ${a.order}`

  const isShared = (cell: number): boolean => (holders.get(cell)?.length ?? 0) > 1
  const holdersNamed = (sender: Sender, cell: number, stays: boolean): string[] =>
    (stays ? [sender] : (holders.get(cell) ?? [])).map(({ order }) => `${cell} of ${order}`)
  const otherNames = (sender: Sender, { own, wide, carried: carries }: Takes, stays: boolean): string[] => [
    // Senders of one controller have the bend of a channel together, of two of them either this or that one. Of such
    // as are there together now it is said which may stay.
    ...wide.flatMap((cell) =>
      wideSenders
        .filter(
          (other) =>
            other.place.controller !== sender.place.controller && !(stays && hasNow(other, 'wide', cell)),
        )
        .map((other) => `${cell} either ${pairOf(sender, other)}`),
    ),
    // A parameter goes where nobody sends what carries it, or has gone.
    ...(stays ? [] : carries).flatMap((cell) =>
      (holders.get(cell) ?? [])
        .filter((other) => other !== sender)
        .map((other) => `${cell} carries ${sender.order} past ${other.order}`),
    ),
    ...(stays ? own.filter(isCarrier) : []).flatMap((cell) =>
      carried
        .filter((other) => other !== sender && !hasNow(other, 'carried', cell))
        .map((other) => `${cell} carries ${other.order} past ${sender.order}`),
    ),
  ]

  // Layers that may share have each cell once for themselves and once for each layer that can show with them.
  const standings = request.shareLayers
    ? [...new Map(senders.map((sender) => [standingKey(sender), sender])).values()]
    : []
  const ofPairs = new Map<string, Space>()
  const spaceOf = (pair: string): Space => {
    const found = ofPairs.get(pair) ?? emptySpace()
    ofPairs.set(pair, found)
    return found
  }
  const known = new Map<Sender, readonly Space[]>()
  const spacesOf = (sender: Sender): readonly Space[] => {
    if (!request.shareLayers) return [space]
    const before = known.get(sender)
    if (before) return before
    const own = standingKey(sender)
    const found = standings
      .filter((other) => standingKey(other) === own || live(sender, other))
      .map((other) => spaceOf([own, standingKey(other)].toSorted().join(' ')))
    known.set(sender, found)
    return found
  }
  const numbered = (sender: Sender, name: string): number[] =>
    spacesOf(sender).map(({ named }) => numberIn(named, name))

  const all = (sender: Sender, takes: Takes, isKept: boolean): number[] => [
    ...[...new Set(takes.own)].flatMap((cell) =>
      isShared(cell)
        ? holdersNamed(sender, cell, isKept).flatMap((name) => numbered(sender, name))
        : spacesOf(sender).map(({ cells }) => numberIn(cells, cell)),
    ),
    ...otherNames(sender, takes, isKept).flatMap((name) => numbered(sender, name)),
    ...(apart ? [...new Set(takes.own)].flatMap((cell) => apart.namesAt(sender, cell, isKept)) : []).map(
      numberOf,
    ),
  ]
  return {
    taken: (sender, takes) => all(sender, takes, false),
    kept: (sender, takes) => all(sender, takes, true),
    token: (name) => numberOf(`token ${name}`),
    count: () => count,
  }
}
