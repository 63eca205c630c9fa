import { senderIn, type ListenState } from './listen'
import { pointsOf, type Point } from './trail'
import type { Sender } from './types'

/**
 * SysEx that differ at one place only: what stands there is a value, or they are several messages of one device. Of a single one
 * that is not known.
 */
export interface SysexFamily {
  /** The one that was heard first: it speaks for all. */
  key: string
  /** The bytes between F0 and F7, with a word where they differ. */
  bytes: ReadonlyArray<number | 'value'>
  /** The byte at that place, each time that one of them came, oldest first. */
  points: readonly Point[]
}

/** Where two messages of one length differ, if it is at one place; null where it is not so. */
function onePlace(a: readonly number[], b: readonly number[]): number | null {
  if (a.length !== b.length) return null
  let place: number | null = null
  for (let index = 0; index < a.length; index++) {
    if (a[index] === b[index]) continue
    if (place !== null) return null
    place = index
  }
  return place
}

/** The SysEx that differ from one at a single place, that at which most do; null where none does. */
export function sysexFamily(state: ListenState, sender: Sender): SysexFamily | null {
  const own = sender.sysex
  if (!own) return null
  const byPlace = new Map<number, Sender[]>()
  for (const other of Object.values(state.senders.system ?? {})) {
    const place = other.sysex && other !== sender ? onePlace(own, other.sysex) : null
    if (place !== null) byPlace.set(place, [...(byPlace.get(place) ?? []), other])
  }
  const [most] = [...byPlace].toSorted(([, a], [, b]) => b.length - a.length)
  if (!most) return null
  const [place, others] = most
  const members = Object.values(state.senders.system ?? {}).filter(
    (each) => each === sender || others.includes(each),
  )
  const points = members.flatMap((each) =>
    pointsOf(each.trail).map(({ at }): Point => {
      const value = each.sysex?.[place] ?? 0
      return { at, value, mark: value }
    }),
  )
  return {
    key: members[0]?.key ?? sender.key,
    bytes: own.map((byte, index) => (index === place ? 'value' : byte)),
    points: points.sort((a, b) => a.at - b.at),
  }
}

/** The SysEx that speaks for another that differs from it at one place; itself where there is none. */
export function sysexKey(state: ListenState, key: string): string {
  const sender = senderIn(state, key)
  return (sender && sysexFamily(state, sender)?.key) ?? key
}
