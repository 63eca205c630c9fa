import type { Sender } from '../addresses'
import { isWanting } from '../addresses'
import type { Check, Draft } from '../conflicts'
import { RULES } from '../conflicts'
import type { Id } from '../rig'
import { sentAway } from './away'
import { followersIn } from './followers'
import { whyFixed } from './movable'
import type { AllocateRequest } from './request'

/** An error that moving can cure: of each two that stay together, or of each that stays alone, it remains. */
export interface Trouble {
  message: string
  senders: readonly Sender[]
  /** Who may not stay even alone. */
  alone: ReadonlySet<string>
  /** Who may not stay together: at most one of each group. */
  cliques: ReadonlyArray<readonly string[]>
  /** The mapping that all of them set off, where it ends too if that is taught elsewhere; else null. */
  setsOff: Id | null
}

/** Who meets whom, as groups of which one may stay: all of them at once where each meets each, else two by two. */
function cliquesOf(meetings: ReadonlyArray<readonly [Sender, Sender]>): string[][] {
  const pairs = new Map(
    meetings.map((pair) => {
      const keys = pair.map(({ key }) => key).toSorted()
      return [keys.join(' '), keys] as const
    }),
  )
  const all = [...new Set([...pairs.values()].flat())]
  return pairs.size === (all.length * (all.length - 1)) / 2 ? [all] : [...pairs.values()]
}

/** What a rule says has to move, as who may stay with whom. */
function constraints({ moves = [], meetings }: Draft): Pick<Trouble, 'alone' | 'cliques'> {
  if (meetings) return { alone: new Set(), cliques: cliquesOf(meetings) }
  const sets = moves.map((list) => list.map(({ key }) => key))
  const all = [...new Set(sets.flat())]
  const [first, second] = sets
  if (!first) return { alone: new Set(), cliques: [] }
  if (!second) return { alone: new Set(first), cliques: [] }
  const isAllButOne = sets.length === all.length && sets.every((set) => set.length === all.length - 1)
  if (isAllButOne) return { alone: new Set(), cliques: [all] }
  const both = first.filter((key) => second.includes(key))
  return {
    alone: new Set(both),
    cliques: first.flatMap((a) => second.filter((b) => a !== b).map((b) => [a, b])),
  }
}

/** The errors of a rig that other numbers could cure. */
export function troublesOf({ reports, asides }: Pick<Check, 'reports' | 'asides'>): Trouble[] {
  const meant = new Set(asides.map(({ finding }) => `${finding.rule} ${finding.message}`))
  return reports
    .filter(({ rule, draft }) => {
      const owner = RULES[rule]
      return (
        draft.severity === 'error' && owner?.byNumbers === true && !meant.has(`${owner.id} ${draft.message}`)
      )
    })
    .map(({ draft }) => ({
      message: draft.message,
      senders: draft.senders,
      setsOff: draft.setsOff ?? null,
      ...constraints(draft),
    }))
    .filter(({ alone, cliques }) => alone.size > 0 || cliques.length > 0)
}

/**
 * Whom a request is about, in the order of the rig: those who may be moved, and those who may not.
 *
 * @param unpinned The place (`placeKey`) whose pin does not count.
 */
export function askedSenders(
  { context }: Pick<Check, 'context'>,
  request: AllocateRequest,
  troubles: readonly Trouble[],
  unpinned: string | null = null,
): { free: Sender[]; fixed: Sender[] } {
  const inTrouble = new Set(
    troubles
      .filter(
        ({ senders }) =>
          request.kind !== 'make-room' ||
          senders.some(({ place }) => place.controller === request.controller),
      )
      .flatMap(({ senders }) =>
        senders.map((sender) => (followersIn(context).leaderOf(sender) ?? sender).key),
      ),
  )
  const isAsked = (sender: Sender): boolean => {
    switch (request.kind) {
      case 'fill':
        return isWanting(sender)
      case 'repair':
        return inTrouble.has(sender.key)
      case 'replan':
        return true
      case 'avoid':
        return sentAway(request, sender)
      case 'stand-in':
        return false
      case 'make-room':
        return sender.place.controller === request.controller ? isWanting(sender) : inTrouble.has(sender.key)
    }
  }
  const asked = context.occupancy.senders.filter(isAsked)
  const [free, fixed] = partition(asked, (sender) => whyFixed(context, request, sender, unpinned) === null)
  return { free, fixed }
}

function partition<T>(all: readonly T[], isFirst: (one: T) => boolean): [T[], T[]] {
  const parts: [T[], T[]] = [[], []]
  for (const one of all) parts[isFirst(one) ? 0 : 1].push(one)
  return parts
}
