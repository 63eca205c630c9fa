import { powerUpShowing, type Showing } from './places'
import type { Controller, Id, Passage, Rig } from './types'

/** What a passage lets a controller show: its template with some layers, or null where it leaves that open. */
export const shownIn = ({ showing }: Passage, controller: Id): Passage['showing'][number] | null =>
  showing.find((shown) => shown.controller === controller) ?? null

/** Let a controller show a template, or (null) leave it open. Layers that are said stay if the template stays. */
export function withTemplate(passage: Passage, controller: Id, template: Id | null): Passage {
  const before = shownIn(passage, controller)
  if (before?.template === template) return passage
  const others = passage.showing.filter((shown) => shown.controller !== controller)
  return {
    ...passage,
    showing: template === null ? others : [...others, { controller, template, layers: [] }],
  }
}

/** Say which layer of a stack shows (null: none), or (undefined) leave it open. */
export function withLayer(
  passage: Passage,
  controller: Id,
  stack: Id,
  layer: Id | null | undefined,
): Passage {
  return {
    ...passage,
    showing: passage.showing.map((shown) => {
      if (shown.controller !== controller) return shown
      const others = shown.layers.filter((each) => each.stack !== stack)
      return { ...shown, layers: layer === undefined ? others : [...others, { stack, layer }] }
    }),
  }
}

/** Say which scope a destination is in (null: in none), or (undefined) leave it open. */
export function withScope(passage: Passage, destination: Id, scope: Id | null | undefined): Passage {
  const others = passage.scopes.filter((each) => each.destination !== destination)
  return { ...passage, scopes: scope === undefined ? others : [...others, { destination, scope }] }
}

/** A passage in which every controller in use shows what it shows now; of stacks without a layer, none. */
export function withShowingNow(
  rig: Rig,
  passage: Passage,
  showing: Readonly<Record<Id, Showing | undefined>>,
): Passage {
  const shownBy = (controller: Controller): Passage['showing'][number] => {
    const { template, layers } = showing[controller.id] ?? powerUpShowing(controller)
    return {
      controller: controller.id,
      template,
      layers: Object.entries(layers).map(([stack, layer]) => ({ stack, layer })),
    }
  }
  return { ...passage, showing: rig.controllers.filter(({ inUse }) => inUse).map(shownBy) }
}

/** What a controller shows in a passage: what the passage says, and the rest as it is shown now. */
export function showingIn(passage: Passage, controller: Controller, now: Showing): Showing {
  const shown = shownIn(passage, controller.id)
  if (!shown) return now
  const base = shown.template === now.template ? now : powerUpShowing(controller, shown.template)
  return {
    template: shown.template,
    layers: { ...base.layers, ...Object.fromEntries(shown.layers.map(({ stack, layer }) => [stack, layer])) },
  }
}
