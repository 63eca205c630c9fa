import { rigIndex, stackOfLayer, type Id, type Passage, type Place, type Rig } from '../rig'

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
export function showsIn(rig: Rig, passage: Passage, place: Omit<Place, 'gesture'>): boolean {
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

/** Where senders stand: a layer, or the base of a template. One object serves many senders. */
export interface Standing {
  controller: Id
  template: Id
  layer: Id | null
  /** The replacing stack that it is a layer of, if any. */
  stack: Id | null
}

/** `liveTogether` for thousands of pairs: in which passages a layer can show is worked out once. */
export function livenessOf(rig: Rig): (a: Standing, b: Standing) => boolean {
  const shows = new Map<Standing, readonly boolean[]>()
  const showsOf = (standing: Standing): readonly boolean[] => {
    const before = shows.get(standing)
    if (before) return before
    const found = rig.passages.map((passage) => showsIn(rig, passage, standing))
    shows.set(standing, found)
    return found
  }
  return (a, b) => {
    if (a !== b && a.controller === b.controller) {
      if (a.template !== b.template) return false
      if (a.stack !== null && a.stack === b.stack && a.layer !== b.layer) return false
    }
    if (rig.passages.length === 0) return true
    const other = showsOf(b)
    return showsOf(a).some((isShown, index) => isShown && other[index] === true)
  }
}
