import { printTag } from '#core/midi'
import type { Plan, PlannedChange, Term } from '#core/allocate'
import { placeName, rigIndex, type Rig } from '#core/rig'
import type { PlanKind } from '~/stores/plan'

export const KINDS: ReadonlyArray<{ value: PlanKind; label: string; about: string }> = [
  { value: 'repair', label: 'Repair', about: 'The fewest changes that leave no error of addresses.' },
  { value: 'fill', label: 'Fill in', about: 'Give a number to everything that has none.' },
  { value: 'make-room', label: 'Make room', about: 'Everyone else moves out of the way of one controller.' },
  {
    value: 'avoid',
    label: 'Move away',
    about: 'Leave some controller numbers or notes, or a whole channel.',
  },
  {
    value: 'stand-in',
    label: 'Stand in',
    about: 'The controller shown takes over what was learned of a missing one.',
  },
  { value: 'replan', label: 'Plan anew', about: 'The best numbers for all of it, old ones or not.' },
]

export const POLICIES = [
  { value: 'keep-if-room', label: 'stay, if there is room' },
  { value: 'keep', label: 'stay in any case' },
  { value: 'home', label: 'go to the home channel' },
  { value: 'among', label: 'go to one of these' },
  { value: 'each-controller', label: 'one for each controller' },
  { value: 'each-layer', label: 'one for each layer' },
  { value: 'each-destination', label: 'one for each destination' },
] as const

/** What each term of the score counts, most important first. */
export const TERM_WORDS: Readonly<Record<Term, string>> = {
  errors: 'left in an error, or without a number',
  unmet: 'asked for, and not done',
  stale: 'learned mappings to teach again',
  warnings: 'mappings unheard, and channels left',
  changed: 'addresses changed',
  breaks: 'breaks in runs of neighbours',
  outside: 'outside preferred numbers',
  rank: 'weight of number classes',
  moved: 'addresses changed',
}

/** One line of a plan, as it is shown. */
export interface PlanLine {
  key: string
  name: string
  from: string
  to: string
  reason: string
  change: PlannedChange
}

export interface PlanGroup {
  key: string
  /** Controller, and its layer. */
  title: string
  letter: string
  hue: number
  lines: PlanLine[]
}

/** The changes of a plan by controller and layer, in the order of the rig. */
export function groupsOf(rig: Rig, plan: Plan): PlanGroup[] {
  const groups = new Map<string, PlanGroup>()
  for (const change of plan.changes) {
    const { controller: name, gesture, layer } = placeName(rig, change.at)
    const key = `${change.at.controller}/${change.at.layer ?? ''}`
    const controller = rigIndex(rig).controllers.get(change.at.controller)
    const group = groups.get(key) ?? {
      key,
      title: layer === null ? name : `${name}, ${layer}`,
      letter: controller?.letter ?? '',
      hue: controller?.hue ?? 0,
      lines: [],
    }
    groups.set(key, group)
    group.lines.push({
      key: change.key,
      name: gesture,
      from: change.from ? printTag(change.from) : 'none',
      to: printTag(change.to),
      reason: change.reason,
      change,
    })
  }
  return [...groups.values()]
}

/** How sure it is that no plan is better, in a sentence. */
export function proofOf({ bound, isLeast, score }: Plan): string {
  if (bound !== null)
    return `Not proven to the end: ${TERM_WORDS[bound.term]} is ${score[bound.term]}, and could be as low as ${bound.value}.`
  return isLeast ? 'Proven: no plan is better.' : 'Proven in every count; others may score the same.'
}

const counted = (count: number, one: string, many: string): string => `${count} ${count === 1 ? one : many}`

/** What a plan comes to, in a line. */
export function summaryOf({ changes, cures, resolves, stale, silenced }: Plan): string {
  const teaches = stale.length + silenced.length
  const parts = [
    counted(changes.length, 'address changes', 'addresses change'),
    ...(cures.length > 0 ? [counted(cures.length, 'other cure', 'other cures')] : []),
    counted(resolves.length, 'finding goes', 'findings go'),
    teaches === 0
      ? 'nothing to teach again'
      : counted(teaches, 'mapping to teach again', 'mappings to teach again'),
  ]
  return parts.join(' · ')
}
