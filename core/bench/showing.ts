import { powerUpShowing, shownPlace, stackOfLayer, type Controller, type Place, type Showing } from '../rig'

/**
 * What a controller has to show so that a place of it shows, as near as possible to what it shows now: the very same where it does
 * already. Where a layer lies over the place, that layer goes.
 */
export function showingFor(controller: Controller, place: Place, now: Showing): Showing {
  const template = controller.templates.find(({ id }) => id === place.template)
  const base = now.template === place.template ? now : powerUpShowing(controller, place.template)
  const isShown = (showing: Showing): boolean => {
    const shown = shownPlace(controller, showing, place.gesture)
    return shown !== null && shown.layer === place.layer
  }
  if (!template || isShown(base)) return base
  const stack = place.layer === null ? null : stackOfLayer(template, place.layer)
  const chosen = stack ? { ...base, layers: { ...base.layers, [stack.id]: place.layer } } : base
  if (isShown(chosen)) return chosen
  const over = template.stacks.filter(({ id, mode }) => mode === 'lie-over' && id !== stack?.id)
  return { ...chosen, layers: { ...chosen.layers, ...Object.fromEntries(over.map(({ id }) => [id, null])) } }
}
