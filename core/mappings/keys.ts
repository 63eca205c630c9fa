import { keysFacet, noteName } from '../midi'
import { findGesture, gestureName, type Mapping, type Message, type Rig } from '../rig'

/** The keys of a keyboard that a message plays, by the notes they are written as; null where it plays one note, or none. */
export function keysOf(message: Message | undefined): { low: number; high: number } | null {
  if (message?.kind !== 'note' && message?.kind !== 'polyPressure') return null
  return message.keys.kind === 'one' ? null : keysFacet.written(message.keys)
}

/** What moves a mapping, in words: the control with what is done to it, and its key where it is one; null if it is gone. */
export function moverName(rig: Rig, { gesture, key }: Pick<Mapping, 'gesture' | 'key'>): string | null {
  const found = gesture === null ? null : findGesture(rig, gesture)
  if (!found) return null
  const name = gestureName(found.control, found.gesture)
  return key === null ? name : `${name} ${noteName(key, rig.middleC)}`
}
