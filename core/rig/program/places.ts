import type { Place } from '../places'
import type { Controller, GestureKey, Id, Template } from '../types'

/**
 * Where gestures stand in a template: each in every layer of the stacks that cover it (or those asked
 * for), else in the base. A lying-over layer that leaves a gesture unset is not among them.
 */
export function placesOver(
  controller: Controller,
  template: Template,
  gestures: readonly GestureKey[],
  layers: 'all-layers' | readonly Id[],
): Place[] {
  const at = { controller: controller.id, template: template.id }
  const wanted = (layer: Id): boolean => layers === 'all-layers' || layers.includes(layer)
  const covered = template.stacks.map((stack) => ({ stack, gestures: new Set(stack.gestures) }))
  return gestures.flatMap((gesture): Place[] => {
    const stacks = covered.flatMap((each) => (each.gestures.has(gesture) ? each.stack : []))
    const inLayers = stacks.flatMap((stack) =>
      stack.layers
        .filter(({ id, assignments }) => wanted(id) && (stack.mode === 'replace' || gesture in assignments))
        .map(({ id }) => ({ ...at, layer: id, gesture })),
    )
    const isReplaced = stacks.some(({ mode }) => mode === 'replace')
    const inBase = !isReplaced && (layers === 'all-layers' || inLayers.length === 0)
    return inBase ? [...inLayers, { ...at, layer: null, gesture }] : inLayers
  })
}

/** The layers of the stacks that cover any of these gestures, with their stacks. */
export function layersOver(
  template: Template,
  gestures: readonly GestureKey[],
): Array<{ stack: string; id: Id; name: string }> {
  const wanted = new Set(gestures)
  return template.stacks
    .filter((stack) => stack.gestures.some((gesture) => wanted.has(gesture)))
    .flatMap((stack) => stack.layers.map(({ id, name }) => ({ stack: stack.name, id, name })))
}
