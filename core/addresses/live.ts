import { rigIndex, stackOfLayer, type Id, type Passage, type Place, type Rig, type Stack } from '../rig'

/** Are two places of one controller excluded from each other by its templates and replacing stacks? */
function apart(rig: Rig, a: Place, b: Place): boolean {
  if (a.template !== b.template) return true
  if (a.layer === null || b.layer === null || a.layer === b.layer) return false
  const template = rigIndex(rig)
    .controllers.get(a.controller)
    ?.templates.find((candidate) => candidate.id === a.template)
  if (!template) return false
  const stack = stackOfLayer(template, a.layer)
  return stack?.mode === 'replace' && stack === stackOfLayer(template, b.layer)
}

/** Can a place be showing during a passage? What a passage leaves unsaid can be anything. */
export function showsIn(rig: Rig, passage: Passage, place: Place): boolean {
  const shown = passage.showing.find((candidate) => candidate.controller === place.controller)
  if (!shown) return true
  if (shown.template !== place.template) return false
  if (place.layer === null) return true
  const template = rigIndex(rig)
    .controllers.get(place.controller)
    ?.templates.find((candidate) => candidate.id === place.template)
  const stack = template ? stackOfLayer(template, place.layer) : null
  const chosen = shown.layers.find((candidate) => candidate.stack === stack?.id)
  return chosen === undefined || chosen.layer === place.layer
}

/**
 * Can two assignments act at the same time? Within a controller: not from different templates, nor
 * from different replacing layers of one stack. Where passages are declared, also only if both show
 * in at least one of them.
 */
export function liveTogether(rig: Rig, a: Place, b: Place): boolean {
  if (a.controller === b.controller && apart(rig, a, b)) return false
  if (rig.passages.length === 0) return true
  return rig.passages.some((passage) => showsIn(rig, passage, a) && showsIn(rig, passage, b))
}

/** What decides whether a place is live together with others: the same for all of a layer. */
export interface LiveClass {
  controller: Id
  template: Id
  /** The replacing stack that it is in a layer of, if any. */
  stack: Stack | null
  layer: Id | null
  /** In which passages it can show; null where none are declared. */
  passages: readonly boolean[] | null
}

/** `liveTogether` for thousands of pairs of places. */
export interface Liveness {
  classOf: (place: Place) => LiveClass
  together: (a: LiveClass, b: LiveClass) => boolean
}

export function livenessOf(rig: Rig): Liveness {
  const byPlace = new Map<Place, LiveClass>()
  const byLayer = new Map<string, LiveClass>()
  const made = (place: Place): LiveClass => {
    const { controller, template, layer } = place
    const key = `${controller}/${template}/${layer ?? ''}`
    const before = byLayer.get(key)
    if (before) return before
    const found = rigIndex(rig)
      .controllers.get(controller)
      ?.templates.find(({ id }) => id === template)
    const stack = found && layer !== null ? stackOfLayer(found, layer) : null
    const fresh: LiveClass = {
      controller,
      template,
      stack: stack?.mode === 'replace' ? stack : null,
      layer,
      passages:
        rig.passages.length === 0 ? null : rig.passages.map((passage) => showsIn(rig, passage, place)),
    }
    byLayer.set(key, fresh)
    return fresh
  }
  return {
    classOf: (place) => {
      const before = byPlace.get(place)
      if (before) return before
      const found = made(place)
      byPlace.set(place, found)
      return found
    },
    together: (one, other) => {
      if (one.controller === other.controller && one !== other) {
        if (one.template !== other.template) return false
        if (one.stack !== null && one.stack === other.stack) return false
      }
      const { passages } = one
      return passages === null || passages.some((shows, index) => shows && other.passages?.[index] === true)
    },
  }
}
