import { splitGestureRef } from '../places'
import type { Controller, GestureKey, GestureRef, Id, PortRef, Rig } from '../types'

/** The controllers of a rig that share a model. */
export const controllersOf = (rig: Rig, model: Id): Controller[] =>
  rig.controllers.filter((controller) => controller.model === model)

/**
 * Take everything out of a rig that speaks of gestures which are going: assignments, stacks, choices
 * and accords. A mapping that was learned stays as an old mapping; one not yet taught goes.
 */
export function dropGestures(rig: Rig, isGone: (controller: Id, gesture: GestureKey) => boolean): void {
  for (const controller of rig.controllers) {
    const gone = (gesture: GestureKey): boolean => isGone(controller.id, gesture)
    for (const template of controller.templates) {
      dropKeys(template.base, gone)
      for (const stack of template.stacks) {
        if (stack.gestures.some(gone)) stack.gestures = stack.gestures.filter((gesture) => !gone(gesture))
        for (const layer of stack.layers) dropKeys(layer.assignments, gone)
      }
    }
  }
  const goneRef = (ref: GestureRef): boolean => {
    const { controller, gesture } = splitGestureRef(ref)
    return isGone(controller, gesture)
  }
  rig.mappings = rig.mappings.filter((mapping) => {
    if (mapping.gesture === null || !goneRef(mapping.gesture)) return true
    mapping.gesture = null
    return mapping.learnedAt !== null
  })
  rig.choices = rig.choices.filter(({ by }) => by.kind !== 'gesture' || !goneRef(by.gesture))
  rig.accords = rig.accords.filter((accord) => {
    if (accord.gestures.some(goneRef)) accord.gestures = accord.gestures.filter((ref) => !goneRef(ref))
    return accord.gestures.length >= 2
  })
}

function dropKeys(table: Record<GestureKey, unknown>, isGone: (gesture: GestureKey) => boolean): void {
  for (const gesture of Object.keys(table)) {
    if (isGone(gesture)) Reflect.deleteProperty(table, gesture)
  }
}

/** Is a gesture one that its model's surface no longer has? */
export function isMissing(rig: Rig, model: Id): (controller: Id, gesture: GestureKey) => boolean {
  const surface = rig.models.find((candidate) => candidate.id === model)?.surface
  const present = new Set(
    surface?.controls.flatMap((control) => control.gestures.map((gesture) => `${control.id}.${gesture}`)),
  )
  const owners = new Set(controllersOf(rig, model).map(({ id }) => id))
  return (controller, gesture) => owners.has(controller) && !present.has(gesture)
}

/** Take layers, stacks or a template out of choices and passages that no longer exist. */
export function dropShowings(rig: Rig): void {
  const find = (controllerId: Id, templateId: Id) =>
    rig.controllers.find(({ id }) => id === controllerId)?.templates.find(({ id }) => id === templateId)
  rig.choices = rig.choices.filter((choice) => {
    choice.targets = choice.targets.filter((target) => {
      const template = find(target.controller, target.template)
      if (!template || target.kind === 'template') return template !== undefined
      const layers = template.stacks.find(({ id }) => id === target.stack)?.layers ?? []
      target.layers = target.layers.filter((layer) => layers.some(({ id }) => id === layer))
      return target.layers.length > 0
    })
    return choice.targets.length > 0
  })
  for (const passage of rig.passages) {
    passage.showing = passage.showing.filter((shown) => {
      const template = find(shown.controller, shown.template)
      shown.layers = shown.layers.filter(({ stack, layer }) => {
        const found = template?.stacks.find(({ id }) => id === stack)
        return found !== undefined && (layer === null || found.layers.some(({ id }) => id === layer))
      })
      return template !== undefined
    })
  }
}

/** Take out the cables at ports that are going, and let software no longer open them. */
export function dropPorts(rig: Rig, isGone: (ref: PortRef) => boolean): void {
  rig.cables = rig.cables.filter(({ from, to }) => !isGone(from) && !isGone(to))
  for (const { ports } of rig.destinations) {
    for (const port of ports) {
      if (port.opens && isGone({ owner: port.opens.computer, port: port.opens.port })) port.opens = null
    }
  }
}
