import { changed, each, isFields, type Json } from './json'

const list = (value: Json): Json[] => (Array.isArray(value) ? value : [])
const fieldOf = (value: Json, name: string): Json => (isFields(value) ? value[name] : undefined)

/** The controls whose movements bend pitch in a table of assignments, by the gesture's control. */
const bendingIn = (table: Json): string[] =>
  isFields(table)
    ? Object.entries(table).flatMap(([gesture, assignment]) =>
        list(fieldOf(assignment, 'messages')).some((message) => fieldOf(message, 'kind') === 'pitchBend')
          ? [gesture.slice(0, gesture.indexOf('.'))]
          : [],
      )
    : []

/** The controls of a model that bend pitch in any template of its controllers. */
function bendingOf(document: Json, model: Json): Set<string> {
  const controllers = list(fieldOf(document, 'controllers')).filter(
    (controller) => fieldOf(controller, 'model') === fieldOf(model, 'id'),
  )
  const templates = controllers.flatMap((controller) => list(fieldOf(controller, 'templates')))
  const layers = templates
    .flatMap((template) => list(fieldOf(template, 'stacks')))
    .flatMap((stack) => list(fieldOf(stack, 'layers')))
  return new Set([
    ...templates.flatMap((template) => bendingIn(fieldOf(template, 'base'))),
    ...layers.flatMap((layer) => bendingIn(fieldOf(layer, 'assignments'))),
  ])
}

/** Version 4 says of each control whether it rests in its centre; until then whatever bent pitch was played so. */
export function fromVersion3(document: Record<string, unknown>): Record<string, unknown> {
  return {
    ...document,
    models: each(document.models, (model) => {
      const bending = bendingOf(document, model)
      const control = (entry: Json): Json =>
        isFields(entry) && bending.has(String(entry.id)) ? { ...entry, restsInCentre: true } : entry
      return changed(model, {
        surface: (surface) => changed(surface, { controls: (controls) => each(controls, control) }),
      })
    }),
  }
}
