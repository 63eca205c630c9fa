import type { BenchState, ControllerState, DestinationState, Passing } from '#core/bench'
import type { SentMessage } from '#core/midi'
import { placeKey, type GestureKey, type GestureRef, type Id, type Place } from '#core/rig'

/** What of the rig that is played the page draws. */
export type BenchView = Pick<BenchState, 'controllers' | 'destinations' | 'misbehaving'>

/** What has changed of it: of each controller and destination the fields that have, null for one that is gone. */
export interface ViewChange {
  controllers: Readonly<Record<Id, Partial<ControllerState> | null>>
  destinations: Readonly<Record<Id, Partial<DestinationState> | null>>
  misbehaving: BenchState['misbehaving'] | null
}

/** One message that passed, as it crosses: messages and places that it shares with others by their numbers. */
export interface ToldPassing extends Omit<Passing, 'message' | 'place'> {
  message: number | SentMessage | null
  place: number | null
}

/** What is to leave by real ports: the key of the port, and bytes. */
export type Outs = ReadonlyArray<readonly [string, readonly number[]]>

/** What the player tells the page, since it told it last. */
export interface News {
  /** Which beginning it belongs to: what was under way before everything began anew is no news. */
  epoch: number
  change: ViewChange
  passed: readonly ToldPassing[]
  /** Messages and places that are told for the first time; they are numbered in this order, on from those before. */
  messages: readonly SentMessage[]
  places: readonly Place[]
  /** What real hardware has moved, in the order in which it was heard. */
  heard: readonly GestureRef[]
  /** What was moved last by hand that is worth following; null where nothing was. */
  followed: { controller: Id; gesture: GestureKey } | null
  /** The same of what real hardware moved, with when. */
  followedHeard: { controller: Id; gesture: GestureKey; at: number } | null
  ringsCut: number
  faults: number
  ticks: number
}

/** What comes from the worker. */
export type FromPlayer = { kind: 'news'; news: News } | { kind: 'outs'; outs: Outs }

type Fields = Readonly<Record<string, unknown>>

function changedFields<T extends object>(before: T | undefined, now: T): Partial<T> | undefined {
  if (before === now) return undefined
  if (!before) return now
  const fields = Object.entries(now as Fields).filter(([name, value]) => (before as Fields)[name] !== value)
  return fields.length > 0 ? (Object.fromEntries(fields) as Partial<T>) : undefined
}

function changedIn<T extends object>(
  before: Readonly<Record<Id, T>>,
  now: Readonly<Record<Id, T>>,
): Record<Id, Partial<T> | null> {
  const changed: Record<Id, Partial<T> | null> = {}
  if (before === now) return changed
  for (const [id, each] of Object.entries(now)) {
    const fields = changedFields(before[id], each)
    if (fields) changed[id] = fields
  }
  for (const id of Object.keys(before)) if (!(id in now)) changed[id] = null
  return changed
}

/** What has changed from one state of the rig to another, by what is no longer the very same. */
export const changeOf = (before: BenchView, now: BenchView): ViewChange => ({
  controllers: changedIn(before.controllers, now.controllers),
  destinations: changedIn(before.destinations, now.destinations),
  misbehaving: before.misbehaving === now.misbehaving ? null : now.misbehaving,
})

export const NOTHING_SEEN: BenchView = { controllers: {}, destinations: {}, misbehaving: {} }

function withChanges<T extends object>(
  before: Readonly<Record<Id, T>>,
  changes: Readonly<Record<Id, Partial<T> | null>>,
): Readonly<Record<Id, T>> {
  const ids = Object.keys(changes)
  if (ids.length === 0) return before
  const gone = new Set(ids.filter((id) => changes[id] === null))
  const next = Object.fromEntries(Object.entries(before).filter(([id]) => !gone.has(id))) as Record<Id, T>
  for (const id of ids) {
    const change = changes[id]
    if (change) next[id] = { ...next[id], ...change } as T
  }
  return next
}

/** The view after a change. Inverse of `changeOf`: what has not changed stays the very same object. */
export const viewAfter = (before: BenchView, change: ViewChange): BenchView => ({
  controllers: withChanges(before.controllers, change.controllers),
  destinations: withChanges(before.destinations, change.destinations),
  misbehaving: change.misbehaving ?? before.misbehaving,
})

/** Numbers for things that are told again and again. */
function numbering<T extends object>(textOf: (thing: T) => string) {
  const byObject = new WeakMap<T, number>()
  const byText = new Map<string, number>()
  let fresh: T[] = []
  return {
    numberOf: (thing: T): number => {
      const known = byObject.get(thing)
      if (known !== undefined) return known
      const text = textOf(thing)
      let number = byText.get(text)
      if (number === undefined) {
        number = byText.size
        byText.set(text, number)
        fresh.push(thing)
      }
      byObject.set(thing, number)
      return number
    },
    /** What was numbered since this was asked last. */
    takeFresh: (): readonly T[] => {
      const taken = fresh
      fresh = []
      return taken
    },
  }
}

/** Puts what passed into the form in which it crosses. */
export function createTeller() {
  const messages = numbering<SentMessage>((message) => JSON.stringify(message))
  const places = numbering<Place>(placeKey)
  return {
    told: (passing: Passing): ToldPassing => ({
      ...passing,
      // SysEx may say anything, so that a list of all would grow without end.
      message:
        passing.message?.kind === 'sysex'
          ? passing.message
          : passing.message && messages.numberOf(passing.message),
      place: passing.place && places.numberOf(passing.place),
    }),
    takeFresh: () => ({ messages: messages.takeFresh(), places: places.takeFresh() }),
  }
}

/** Reads what a teller has told. The same message or place is the very same object each time. */
export function createHearer() {
  const [messages, places]: [SentMessage[], Place[]] = [[], []]
  return (news: Pick<News, 'passed' | 'messages' | 'places'>): Passing[] => {
    messages.push(...news.messages)
    places.push(...news.places)
    return news.passed.map((told) => ({
      ...told,
      message: typeof told.message === 'number' ? (messages[told.message] ?? null) : told.message,
      place: told.place === null ? null : (places[told.place] ?? null),
    }))
  }
}
