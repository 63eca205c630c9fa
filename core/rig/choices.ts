import { controlName, findGesture, gestureName, rigIndex } from './lookup'
import type { Choice, GestureKind, Rig } from './types'

type Target = Choice['targets'][number]
type How = Choice['how']

/** How a choice works, between who chooses and what. */
export const CHOICE_HOW: Readonly<Record<How, string>> = {
  'this-one': 'shows',
  next: 'goes on to the next of',
  previous: 'goes back through',
  'while-held': 'shows while held',
  toggle: 'turns on and off',
}

/** Does a choice go through several layers rather than name one? */
export const goesThrough = (how: How): boolean => how === 'next' || how === 'previous'

const CHOOSING: ReadonlySet<GestureKind> = new Set(['press', 'push', 'strike', 'touch'])

/** Can this gesture choose layers? Only what is pressed or touched can. */
export const canChoose = (gesture: GestureKind): boolean => CHOOSING.has(gesture)

/** Who chooses, in words. */
export function chooserWords(rig: Rig, { by }: Choice): string {
  if (by.kind === 'gesture') {
    const found = findGesture(rig, by.gesture)
    if (!found) return 'A control that is gone'
    const name =
      found.control.gestures.filter(canChoose).length > 1
        ? gestureName(found.control, found.gesture)
        : controlName(found.control)
    return `${found.controller.name} · ${name}`
  }
  const { trigger } = by
  switch (trigger.kind) {
    case 'program':
      return `Incoming program ${trigger.number} on channel ${trigger.channel}`
    case 'note':
      return `Incoming note ${trigger.number} on channel ${trigger.channel}`
    case 'cc':
      return `Incoming CC ${trigger.number} at ${trigger.value} on channel ${trigger.channel}`
  }
}

/** What is chosen, in words: the layers, or the template, with the controller where there are several. */
export function targetWords(rig: Rig, target: Target): string {
  const template = rigIndex(rig)
    .controllers.get(target.controller)
    ?.templates.find(({ id }) => id === target.template)
  if (target.kind === 'template') return `template ${template?.name ?? ''}`
  const layers = template?.stacks.find(({ id }) => id === target.stack)?.layers ?? []
  const chosen = layers.filter(({ id }) => target.layers.includes(id))
  return chosen.length === layers.length && layers.length > 1
    ? 'all layers'
    : chosen.map(({ name }) => name).join(', ')
}

/** A whole choice as a sentence: “Foot board · Switch 1 shows Bright; on Keys: Wide”. */
export function choiceWords(rig: Rig, choice: Choice): string {
  const [first] = choice.targets
  const targets = choice.targets.map((target) => {
    const words = targetWords(rig, target)
    if (target.controller === first?.controller) return words
    return `on ${rigIndex(rig).controllers.get(target.controller)?.name ?? ''}: ${words}`
  })
  return `${chooserWords(rig, choice)} ${CHOICE_HOW[choice.how]} ${targets.join('; ')}`
}
