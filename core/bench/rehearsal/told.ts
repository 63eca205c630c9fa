import { placeWords } from '../../conflicts/words'
import { noteName } from '../../midi'
import { placeRef, type Id, type Mapping, type Place, type Rig } from '../../rig'
import { traceGesture } from '../trace'
import type { Run, Spot } from './run'

/** What one check says of one gesture in one scene. */
export interface Told {
  /** A fault is something that does not work as written; a note is worth knowing before a show. */
  weight: 'fault' | 'note'
  /** What is so, as a sentence. */
  text: string
  /** What to do, as a sentence. */
  cure: string
  place: Place | null
  mapping: Id | null
  /** Does it concern all that the gesture moves, or the one mapping that is named? */
  concerns: 'all' | 'one'
  /** What of a destination it is about; null where it is about no parameter. */
  parameter: { destination: Id; id: Id } | null
}

/** One check of what came of moving a gesture: its name in the report, and what it finds. */
export interface Check {
  id: string
  find: (run: Run) => Told[]
}

/** A gesture in words, of a keyboard with the key that is meant. */
export const moverOf = (rig: Rig, { place }: Spot, mapping: Pick<Mapping, 'key'> | null = null): string =>
  `${mapping === null || mapping.key === null ? '' : `${noteName(mapping.key, rig.middleC)} of `}${placeWords(rig, [place])}`

/** Where the way of what a gesture sends to a mapping's parameter is broken, and what to do. */
export function brokenAt(
  { rig, spot, scene: { state } }: Run,
  mapping: Mapping,
): { why: string; cure: string } {
  const traces = traceGesture(rig, placeRef(spot.place), {
    showing: Object.fromEntries(Object.entries(state.controllers).map(([id, { showing }]) => [id, showing])),
    scopes: Object.fromEntries(Object.entries(state.destinations).map(([id, { scope }]) => [id, scope])),
  })
  const found = traces.find((trace) => trace.mapping === mapping.id)
  return (
    found?.broken ?? {
      why: 'What it sends arrives, and nothing comes of it.',
      cure: 'Follow the message on the Desk.',
    }
  )
}
