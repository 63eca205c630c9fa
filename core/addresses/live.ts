import {
  rigIndex,
  stackOfLayer,
  type Assignment,
  type GestureKey,
  type Id,
  type Passage,
  type Place,
  type Rig,
} from '../rig'
import type { Sender } from './emission'

/** Where senders stand: a layer, or the base of a template. One object serves many senders. */
export interface Standing {
  controller: Id
  template: Id
  layer: Id | null
  /** The replacing stack that it is a layer of, if any. */
  stack: Id | null
  /** The assignments of a layer that lies over others, if it is one: it hides what it sets. */
  over: Readonly<Record<GestureKey, Assignment>> | null
}

type Spot = Omit<Place, 'gesture'>

/** Can a place be showing during a passage? What a passage leaves unsaid can be anything. */
export function showsIn(rig: Rig, passage: Passage, place: Spot, gesture: GestureKey | null = null): boolean {
  const shown = passage.showing.find((candidate) => candidate.controller === place.controller)
  if (!shown) return true
  if (shown.template !== place.template) return false
  const template = rigIndex(rig)
    .controllers.get(place.controller)
    ?.templates.find((candidate) => candidate.id === place.template)
  if (!template) return true
  if (place.layer === null)
    return !shown.layers.some(({ stack: id, layer }) => {
      const stack = template.stacks.find((candidate) => candidate.id === id)
      const over = stack?.mode === 'lie-over' ? stack.layers.find((each) => each.id === layer) : undefined
      return gesture !== null && over !== undefined && gesture in over.assignments
    })
  const stack = stackOfLayer(template, place.layer)
  const chosen = shown.layers.find((candidate) => candidate.stack === stack?.id)
  return chosen === undefined || chosen.layer === place.layer
}

const hides = (over: Standing, base: Standing, gesture: GestureKey): boolean =>
  over.over !== null && base.layer === null && gesture in over.over

/** Are two senders of one controller excluded from each other by its templates and stacks? */
function areApart(a: Placed, b: Placed): boolean {
  const [one, other] = [a.standing, b.standing]
  if (one === other || one.controller !== other.controller) return false
  if (one.template !== other.template) return true
  if (one.stack !== null && one.stack === other.stack && one.layer !== other.layer) return true
  return hides(one, other, b.place.gesture) || hides(other, one, a.place.gesture)
}

/** A sender, as far as it matters where it stands. */
export type Placed = Pick<Sender, 'standing' | 'place'>

/** Answers when senders can act. In which passages a layer can show is worked out once. */
export interface Liveness {
  /**
   * Can two senders act at the same time? Within a controller: not from different templates, from different
   * replacing layers of one stack, nor where one layer hides the other. Where passages are declared, also only if
   * both show in at least one of them.
   */
  together: (a: Placed, b: Placed) => boolean
  /** The passages in which a sender can act, by their places in the rig; null where none are declared. */
  passages: (sender: Placed) => ReadonlySet<number> | null
}

/** Who can act together in a rig. */
export function livenessOf(rig: Rig): Liveness {
  const isSaid = rig.passages.length > 0
  const byStanding = new Map<Standing, ReadonlySet<number>>()
  const ofPassages = (test: (passage: Passage) => boolean): ReadonlySet<number> =>
    new Set(rig.passages.flatMap((passage, index) => (test(passage) ? [index] : [])))
  const isLaidOver = rig.controllers.some(({ templates }) =>
    templates.some(({ stacks }) => stacks.some(({ mode }) => mode === 'lie-over')),
  )
  const shown = ({ standing, place }: Placed): ReadonlySet<number> => {
    // Only what stands in a base can be hidden by a layer that lies over it.
    if (isLaidOver && standing.layer === null)
      return ofPassages((passage) => showsIn(rig, passage, standing, place.gesture))
    const known = byStanding.get(standing) ?? ofPassages((passage) => showsIn(rig, passage, standing))
    byStanding.set(standing, known)
    return known
  }
  return {
    together: (a, b) => {
      if (areApart(a, b)) return false
      if (!isSaid) return true
      const other = shown(b)
      for (const index of shown(a)) if (other.has(index)) return true
      return false
    },
    passages: (sender) => (isSaid ? shown(sender) : null),
  }
}

/** A place as a sender stands in it. */
export function placedAt(rig: Rig, place: Place): Placed {
  const template = rigIndex(rig)
    .controllers.get(place.controller)
    ?.templates.find(({ id }) => id === place.template)
  const stack = template && place.layer !== null ? stackOfLayer(template, place.layer) : null
  const layer = stack?.layers.find(({ id }) => id === place.layer)
  return {
    place,
    standing: {
      controller: place.controller,
      template: place.template,
      layer: place.layer,
      stack: stack?.mode === 'replace' ? stack.id : null,
      over: stack?.mode === 'lie-over' ? (layer?.assignments ?? null) : null,
    },
  }
}

/** Can two assignments act at the same time? As `Liveness.together`, for places. */
export const liveTogether = (rig: Rig, a: Place, b: Place): boolean =>
  livenessOf(rig).together(placedAt(rig, a), placedAt(rig, b))
