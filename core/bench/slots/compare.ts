import { addressOf, behaviourWords, printTag, type Message } from '../../midi'
import {
  checksumOf,
  controlsOf,
  gestureName,
  splitGestureKey,
  type Assignment,
  type GestureKey,
  type Model,
  type Template,
} from '../../rig'

/** One thing in which two templates differ, in words. */
export interface TemplateDifference {
  /** Which control, and in which layer; null for the layers themselves. */
  control: string | null
  layer: string | null
  /** What there is; null for nothing. */
  was: string | null
  will: string | null
}

/** A mark of what a template is, whatever it is called. */
export const templateMark = ({ base, stacks }: Template): string => checksumOf(JSON.stringify([base, stacks]))

const messageText = (message: Message): string => {
  const address = addressOf(message)
  const [manner = ''] = behaviourWords(message)
  const range = 'range' in message ? `${message.range.low}–${message.range.high}` : ''
  // Some manners say their values themselves.
  const values = manner.includes(range) ? '' : range
  return [address ? printTag(address) : message.kind, values, manner].filter((each) => each !== '').join(', ')
}

const assignmentText = ({ messages, light }: Assignment): string =>
  `${messages.map(messageText).join('; ')}${light ? `, light ${light.role}` : ''}`

/** Every table of a template under the name of its layer; the base under null. */
function tablesOf({
  base,
  stacks,
}: Template): Array<{ key: string; layer: string | null; table: Readonly<Record<GestureKey, Assignment>> }> {
  return [
    { key: '', layer: null, table: base },
    ...stacks.flatMap(({ id, name, layers }) =>
      layers.map((layer) => ({
        key: `${id}/${layer.id}`,
        layer: name === '' ? layer.name : `${name}: ${layer.name}`,
        table: layer.assignments,
      })),
    ),
  ]
}

const nameOf = (model: Model, gesture: GestureKey): string => {
  const { control: id, gesture: kind } = splitGestureKey(gesture)
  const control = controlsOf(model).get(id)
  return control ? gestureName(control, kind) : gesture
}

/** In what a template that is to be stored differs from the one that is there, control by control; null is an empty slot. */
export function compareTemplates(
  model: Model,
  was: Template | null,
  will: Template | null,
): TemplateDifference[] {
  const before = new Map(was ? tablesOf(was).map((each) => [each.key, each]) : [])
  const after = new Map(will ? tablesOf(will).map((each) => [each.key, each]) : [])
  const differences: TemplateDifference[] = []
  for (const key of new Set([...before.keys(), ...after.keys()])) {
    const [old, next] = [before.get(key), after.get(key)]
    const layer = next?.layer ?? old?.layer ?? null
    for (const gesture of new Set([...Object.keys(old?.table ?? {}), ...Object.keys(next?.table ?? {})])) {
      const [one, other] = [old?.table[gesture], next?.table[gesture]]
      if (JSON.stringify(one) === JSON.stringify(other)) continue
      const [said, says] = [one ? assignmentText(one) : null, other ? assignmentText(other) : null]
      differences.push({
        control: nameOf(model, gesture),
        layer,
        was: said,
        will: said === says ? `${says ?? ''}, in another detail` : says,
      })
    }
  }
  const shape = ({ stacks }: Template): string =>
    stacks
      .map(
        ({ name, mode, layers }) =>
          `${name} (${mode === 'replace' ? '' : 'over, '}${layers.map((layer) => layer.name).join(', ')})`,
      )
      .join('; ')
  const [oldShape, newShape] = [was && shape(was), will && shape(will)]
  if (oldShape !== newShape)
    differences.unshift({ control: null, layer: null, was: oldShape, will: newShape })
  return differences
}
