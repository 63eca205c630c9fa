import type { Sender } from '../addresses'
import { sameAddress } from '../midi'
import { memo, memoOf, type GestureRef, type Id, type LearnedAddress, type Mapping, type Rig } from '../rig'
import { lessonOf, resolveMappings, type ResolvedMapping } from './resolved'

/** What a destination can be taught, and who sends it. */
export interface Lesson {
  sender: Sender
  address: LearnedAddress
}

const byGesture = memo(
  (rig: Rig) => [rig.mappings],
  (rig): ReadonlyMap<GestureRef, readonly Mapping[]> => {
    const found = new Map<GestureRef, Mapping[]>()
    for (const mapping of rig.mappings) {
      if (mapping.gesture === null) continue
      const list = found.get(mapping.gesture)
      if (list) list.push(mapping)
      else found.set(mapping.gesture, [mapping])
    }
    return found
  },
)

/** Clicks go to what expects clicks, everything else to what does not. */
const suits = ({ message }: Sender, { expects }: Mapping): boolean =>
  ('behaviour' in message && message.behaviour.kind === 'relative') === (expects.kind === 'relative')

/** Is it what was learned, apart from the channel? */
const isNearly = (address: LearnedAddress, was: LearnedAddress | null): boolean =>
  was !== null &&
  sameAddress(
    address.scope === 'channel' && was.scope === 'channel' ? { ...address, channel: was.channel } : address,
    was,
  )

/** The lessons of all mappings of one gesture, by mapping: of those that are heard, by whom they are heard. */
function lessonsOf(rig: Rig, gesture: GestureRef): ReadonlyMap<Id, Lesson> {
  const resolved = resolveMappings(rig, byGesture(rig).get(gesture) ?? [])
  const busy = new Set(resolved.flatMap(({ meeting }) => meeting))
  const lessons = new Map<Id, Lesson>()
  for (const { mapping, destination, listening, senders, meeting } of resolved) {
    if (listening?.by === 'chart') continue
    let best: { lesson: Lesson; misfits: number } | null = null
    for (const sender of meeting.length > 0 ? meeting : senders) {
      const address = lessonOf(rig, sender, destination.id, mapping.key)
      if (address === null) continue
      const misfits =
        (suits(sender, mapping) ? 0 : 4) +
        (busy.has(sender) ? 2 : 0) +
        (isNearly(address, mapping.learnedAt) ? 0 : 1)
      if (best === null || misfits < best.misfits) best = { lesson: { sender, address }, misfits }
    }
    if (best === null) continue
    busy.add(best.lesson.sender)
    lessons.set(mapping.id, best.lesson)
  }
  return lessons
}

const lessonsIn = memoOf((rig: Rig) => {
  const known = new Map<GestureRef, ReadonlyMap<Id, Lesson>>()
  return (gesture: GestureRef): ReadonlyMap<Id, Lesson> => {
    const found = known.get(gesture) ?? lessonsOf(rig, gesture)
    known.set(gesture, found)
    return found
  }
})

/**
 * What the destination of a mapping can be taught, and who sends it; null where it learns nothing, and where nothing
 * arrives that can be taught. Where a control sends in several layers: from a layer that sends what is expected (clicks
 * or positions), that moves nothing else yet, and whose number is the one that was learned. So several mappings of one
 * control get a layer each, as far as there are layers.
 */
export const teachable = (rig: Rig, { mapping }: Pick<ResolvedMapping, 'mapping'>): Lesson | null =>
  mapping.gesture === null ? null : (lessonsIn(rig)(mapping.gesture).get(mapping.id) ?? null)
