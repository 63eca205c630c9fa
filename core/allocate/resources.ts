import type { Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { standingKey } from './candidates'
import type { Takes } from './ground'
import type { AllocateRequest } from './request'

/** Everything of which there is one, by number: cells of destinations, and what of several only one may keep. */
export interface Resources {
  /** What a sender takes that goes somewhere. */
  taken: (sender: Sender, takes: Takes) => number[]
  /** What a sender takes that stays where it is. */
  kept: (sender: Sender, takes: Takes) => number[]
  /** How many there are so far. */
  count: () => number
}

/**
 * @param takesNow What each of `senders`, those who may move, takes where it is.
 * @param groups Of each, by key, only one may stay where it is.
 */
export function resourcesFor(
  { live }: CheckContext,
  request: AllocateRequest,
  senders: readonly Sender[],
  takesNow: (sender: Sender) => Takes,
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
  const wideSenders: Sender[] = []
  for (const sender of senders) {
    const { own, wide } = takesNow(sender)
    for (const cell of new Set(own)) holders.set(cell, [...(holders.get(cell) ?? []), sender])
    if (wide.length > 0) wideSenders.push(sender)
  }
  const namesOf = (sender: Sender, { own, wide }: Takes, stays: boolean): string[] => [
    ...[...new Set(own)].flatMap((cell) => {
      const sharing = holders.get(cell) ?? []
      if (sharing.length < 2) return [String(cell)]
      return (stays ? [sender] : sharing).map(({ order }) => `${cell} of ${order}`)
    }),
    // Senders of one controller have the bend of a channel together, of two of them either this or that one.
    ...wide.flatMap((cell) =>
      wideSenders
        .filter(({ place }) => place.controller !== sender.place.controller)
        .map((other) => `${cell} ${[sender.order, other.order].toSorted((a, b) => a - b).join(' and ')}`),
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
    kept: (sender, takes) => [...all(sender, takes, true), ...(stays.get(sender.key) ?? [])],
    count: () => numbers.size,
  }
}
