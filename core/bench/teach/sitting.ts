import { relearnList, teachable, type RelearnLine } from '../../mappings'
import { rigIndex, stackOfLayer, type Destination, type Place, type Rig } from '../../rig'
import { soloSteps, type SoloStep } from './solo'

/** One line of a sitting: what is taught, from where, and how. */
export interface SittingLine {
  destination: Destination
  line: RelearnLine
  /** Where the gesture sends what is to be learned; null for what is only cleared. */
  place: Place | null
  /** What to do on the hardware first, as a sentence; null where it is so already. */
  first: string | null
  steps: readonly SoloStep[]
}

/** What to do on the hardware so that a place shows, as a sentence; null where nothing is to be done. */
function firstWords(rig: Rig, place: Place): string | null {
  const controller = rigIndex(rig).controllers.get(place.controller)
  const template = controller?.templates.find(({ id }) => id === place.template)
  if (!controller || !template) return null
  const stack = place.layer === null ? null : stackOfLayer(template, place.layer)
  const layer = stack?.layers.find(({ id }) => id === place.layer)
  const loads = controller.templates.length > 1 ? `load template “${template.name}”` : ''
  const chooses = layer ? `choose ${stack && stack.name !== '' ? `${stack.name}: ` : ''}${layer.name}` : ''
  const both = [loads, chooses].filter((each) => each !== '').join(' and ')
  return both === '' ? null : `On ${controller.name}, ${both}.`
}

/** Everything that is to be taught, in the order of a sitting: by destination, scope, layer and control. */
export const sittingOf = (rig: Rig): SittingLine[] =>
  relearnList(rig).flatMap(({ destination, lines }) =>
    lines.map((line): SittingLine => {
      const place = line.kind === 'clear' ? null : (teachable(rig, line)?.sender.place ?? null)
      return {
        destination,
        line,
        place,
        first: place && firstWords(rig, place),
        steps: place ? soloSteps(rig, place, line.mapping) : [],
      }
    }),
  )
