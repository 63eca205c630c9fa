import { isWanting, type Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import type { Mapping } from '../rig'
import type { Hearings } from './hearing'
import type { AllocateRequest } from './request'
import type { Takes } from './takes'

/** Names for what senders take of which there is one, so that a parameter is not moved by a control of another layer. */
export interface Apart {
  /** What a sender takes so in a cell; `isStill` if it has it now, and stays. */
  namesAt: (sender: Sender, cell: number, isStill: boolean) => readonly string[]
  /** May a sender not go to a cell, as of it and someone who stays there one would move what the other is taught? */
  isBarred: (sender: Sender, cell: number) => boolean
}

/** So many pairs of senders at most are held apart: each counts at every address that they could have. */
const MOST_PAIRS = 2000

/**
 * Where layers share numbers, a parameter that is taught again where its control goes hears all layers there: nobody of a layer
 * that never shows with it may go to the same cell, unless it is the same gesture, or moves a parameter of its own there, as
 * layers that share do. Null where layers do not share, where nothing is taught, and where there are too many to be held apart.
 *
 * @param senders Those who may move.
 * @param isFree May a sender move, or does it go with one that may?
 * @param takesNow What a sender takes where it is.
 */
export function apartIn(
  { acting, live, occupancy }: CheckContext,
  request: AllocateRequest,
  senders: readonly Sender[],
  hearings: Hearings,
  isFree: (sender: Sender) => boolean,
  takesNow: (sender: Sender) => Takes,
): Apart | null {
  if (!request.shareLayers) return null
  const mayMove = new Set(senders)
  const taughtOf = new Map<Sender, Mapping[]>()
  for (const { isHeard, isOwn, mapping } of hearings.all) {
    // Of several layers of a gesture it is the first that is taught.
    const first = isHeard
      ? occupancy.senders.find((each) => isOwn(each) && (isFree(each) || !isWanting(each)))
      : undefined
    if (first) taughtOf.set(first, [...(taughtOf.get(first) ?? []), mapping])
  }
  if (taughtOf.size === 0) return null
  const taught = [...taughtOf.keys()].filter((sender) => mayMove.has(sender))
  /** Must a sender keep away from where another is taught? */
  const mustKeepAway = (sender: Sender, heard: Sender): boolean =>
    sender.gesture !== heard.gesture &&
    !live(sender, heard) &&
    (taughtOf.get(heard) ?? []).some(
      (mapping) =>
        !(taughtOf.get(sender) ?? []).some(
          (own) => own.destination === mapping.destination && acting([], [mapping, own]),
        ),
    )
  /** Of each sender, beside whom it may not go to a cell, by the name of the two. */
  const pairsOf = new Map<Sender, Map<string, Sender>>()
  const pair = (sender: Sender, name: string, other: Sender): void => {
    pairsOf.set(sender, (pairsOf.get(sender) ?? new Map<string, Sender>()).set(name, other))
  }
  let pairs = 0
  for (const heard of taught)
    for (const other of senders) {
      if (!mustKeepAway(other, heard)) continue
      const name = `${heard.order} not ${other.order}`
      pair(heard, name, other)
      pair(other, name, heard)
      if (++pairs > MOST_PAIRS) return null
    }
  const staying = occupancy.senders.filter((sender) => !isFree(sender))
  const barred = new Map<Sender, ReadonlySet<number>>()
  const barredFor = (sender: Sender): ReadonlySet<number> => {
    const known = barred.get(sender)
    if (known) return known
    const strangers = staying.filter((other) => mustKeepAway(sender, other) || mustKeepAway(other, sender))
    const found = new Set(strangers.flatMap((other) => takesNow(other).own))
    barred.set(sender, found)
    return found
  }

  const now = new Map<Sender, Takes>(senders.map((sender) => [sender, takesNow(sender)]))
  const isThere = (sender: Sender, cell: number): boolean => now.get(sender)?.own.includes(cell) === true
  return {
    isBarred: (sender, cell) => barredFor(sender).has(cell),
    namesAt: (sender, cell, isStill) =>
      [...(pairsOf.get(sender) ?? [])]
        // Who are there together now may stay so.
        .filter(([, other]) => !(isStill && isThere(other, cell)))
        .map(([name]) => `${cell} of ${name}`),
  }
}
