import type { Passing } from '#core/bench'
import { noteName } from '#core/midi'
import { parameterOf, placeRef, rigIndex, type Id, type Rig } from '#core/rig'
import { plainNumber, spanOf, valueText } from '#core/values'

/** One thing that moved at a destination, as the list of what moves shows it. */
export interface Move {
  key: string
  /** The controller that moved it last. */
  controller: Id
  /** Null where no control of the template sent it. */
  gesture: string | null
  name: string
  /** Its group and destination. */
  place: string
  /** Where it stands between its ends, 0–1; null where it has no value. */
  share: number | null
  text: string
  /** Does it belong to another control, or to none: was it never meant to move? */
  isStranger: boolean
  isHeldBack: boolean
  at: number
}

/** What has not moved for so long, in ms, comes to the top when it moves again. */
const RESTED_MS = 500
/** So many things are listed: the rest are older. */
const MOST = 60

type EffectOf = Passing['arrived'][number]['effects'][number]

function moveOf(rig: Rig, passing: Passing, destinationId: Id, effect: EffectOf, key: string): Move | null {
  const destination = rigIndex(rig).destinations.get(destinationId)
  if (!destination) return null
  const base = {
    key,
    controller: passing.controller,
    gesture: passing.place?.gesture ?? null,
    at: passing.at,
  }
  switch (effect.kind) {
    case 'moves':
    case 'acts': {
      const parameter = parameterOf(destination, effect.parameter)
      if (!parameter) return null
      const mapping = rig.mappings.find(({ id }) => id === effect.mapping)
      const sender = passing.place && placeRef(passing.place)
      const isOwn =
        sender !== null &&
        (mapping
          ? mapping.gesture === sender
          : rig.mappings.some(
              ({ gesture, parameter: joined }) =>
                gesture === sender && joined === (effect.through ?? parameter.id),
            ))
      const span = spanOf(parameter)
      const isMoved = effect.kind === 'moves'
      return {
        ...base,
        name: parameter.name,
        place: [destination.name, ...parameter.path].join(' · '),
        share: isMoved ? (effect.to - span.min) / (span.max - span.min) : null,
        text: isMoved ? valueText(parameter, effect.to) : 'done',
        isStranger: !isOwn,
        isHeldBack: isMoved && effect.isHeldBack,
      }
    }
    case 'function': {
      const claim = destination.claims.find(({ id }) => id === effect.claim)
      return {
        ...base,
        name: claim?.function ?? '',
        place: destination.name,
        share: null,
        text: 'its own function',
        isStranger: false,
        isHeldBack: false,
      }
    }
    case 'sounds': {
      const sound = destination.noteNames.find(({ number }) => number === effect.note)?.name
      return {
        ...base,
        name: sound ?? noteName(effect.note, destination.middleC ?? rig.middleC),
        place: destination.name,
        share: effect.velocity / 127,
        text: effect.velocity > 0 ? `sounds, ${plainNumber(effect.velocity)}` : 'let go',
        isStranger: false,
        isHeldBack: false,
      }
    }
    case 'program':
    case 'lost':
    case 'nothing':
      return null
  }
}

/** One name for each thing that can move at a destination; null for what is not listed. */
function keyOf(destination: Id, effect: EffectOf): string | null {
  switch (effect.kind) {
    case 'moves':
    case 'acts':
      return `${destination}/${effect.parameter}`
    case 'function':
      return `${destination}/claim/${effect.claim}`
    case 'sounds':
      return `${destination}/note/${effect.note}`
    case 'program':
    case 'lost':
    case 'nothing':
      return null
  }
}

/** What moved, newest first, with what has passed now; each thing once. */
export function noteMoves(rig: Rig, before: readonly Move[], passed: readonly Passing[]): readonly Move[] {
  // From the last on: of much that passed, only what each thing came to is put into words.
  const fresh = new Map<string, Move>()
  for (let index = passed.length - 1; index >= 0; index--) {
    const passing = passed[index]
    if (!passing) continue
    for (const { destination, effects } of passing.arrived.toReversed())
      for (const effect of effects.toReversed()) {
        const key = keyOf(destination, effect)
        if (key === null || fresh.has(key)) continue
        const move = moveOf(rig, passing, destination, effect, key)
        if (move) fresh.set(key, move)
      }
  }
  if (fresh.size === 0) return before
  // What goes on moving stays where it is in the list, which would not be readable else.
  const staying = new Set<string>()
  const others = before.map((move) => {
    const next = fresh.get(move.key)
    if (!next || next.at - move.at > RESTED_MS) return move
    staying.add(move.key)
    return next
  })
  return [
    ...[...fresh.values()].filter(({ key }) => !staying.has(key)),
    ...others.filter(({ key }) => !fresh.has(key) || staying.has(key)),
  ].slice(0, MOST)
}
