import type { Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { standingKey } from './candidates'
import type { Ground, Takes } from './ground'
import type { AllocateRequest } from './request'

/** Everything of which there is one, by number: cells of destinations, and what of several only one may keep. */
export interface Resources {
  /** What a sender takes that goes somewhere. */
  taken: (sender: Sender, takes: Takes) => number[]
  /** What a sender takes that stays where it is; `isLeft` if it is in an error there. */
  kept: (sender: Sender, takes: Takes, isLeft: boolean) => number[]
  /** Something else of which there is one, by a name of its own. */
  token: (name: string) => number
  /** How many there are so far. */
  count: () => number
}

/**
 * @param senders Those who may move.
 * @param ground What each of them takes where it is, with all that goes with it.
 * @param groups Of each, by key, only one may stay where it is.
 */
export function resourcesFor(
  { live }: CheckContext,
  request: AllocateRequest,
  senders: readonly Sender[],
  { takesNow, isCarrier }: Pick<Ground, 'takesNow' | 'isCarrier'>,
  groups: ReadonlyArray<readonly string[]>,
): Resources {
  const numbers = new Map<string, number>()
  const numberOf = (name: string): number => {
    const known = numbers.get(name) ?? numbers.size
    numbers.set(name, known)
    return known
  }

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

  const namesOf = (sender: Sender, { own, wide, carried: carries }: Takes, stays: boolean): string[] => [
    ...[...new Set(own)].flatMap((cell) => {
      const sharing = holders.get(cell) ?? []
      if (sharing.length < 2) return [String(cell)]
      return (stays ? [sender] : sharing).map(({ order }) => `${cell} of ${order}`)
    }),
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
  const numbered = (sender: Sender, name: string): number[] => {
    if (!request.shareLayers) return [numberOf(name)]
    const own = standingKey(sender)
    return standings
      .filter((other) => standingKey(other) === own || live(sender, other))
      .map((other) => numberOf(`${name} ${[own, standingKey(other)].toSorted().join(' ')}`))
  }

  const stays = new Map<string, number[]>()
  groups.forEach((group, index) => {
    for (const key of group) stays.set(key, [...(stays.get(key) ?? []), numberOf(`group ${index}`)])
  })

  const all = (sender: Sender, takes: Takes, isKept: boolean): number[] =>
    namesOf(sender, takes, isKept).flatMap((name) => numbered(sender, name))
  return {
    taken: (sender, takes) => all(sender, takes, false),
    kept: (sender, takes, isLeft) => [
      ...all(sender, takes, true),
      ...(isLeft ? [] : (stays.get(sender.key) ?? [])),
    ],
    token: (name) => numberOf(`token ${name}`),
    count: () => numbers.size,
  }
}
