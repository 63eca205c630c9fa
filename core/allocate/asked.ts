import { CHANNELS, type Seven } from '../midi'
import { rigIndex, splitGestureRef, type Id, type Rig } from '../rig'
import type { Preference } from '../conflicts'
import type { AllocateRequest } from './request'

/** What is wrong with a request, and where in it. */
export interface RequestProblem {
  path: string
  message: string
}

const meets = (a: Preference, b: Preference): boolean =>
  a.message === b.message &&
  (a.channel === null || b.channel === null || a.channel === b.channel) &&
  (a.controller === null || b.controller === null || a.controller === b.controller) &&
  (a.block === null || b.block === null || a.block === b.block) &&
  a.low <= b.high &&
  b.low <= a.high

/** What of the places to move away from leaves nowhere to go. */
function problemsOfAway({ away, policy }: Extract<AllocateRequest, { kind: 'avoid' }>): RequestProblem[] {
  const open = CHANNELS.filter(
    (on) => !away.some(({ message, channel }) => message === 'all' && channel === on),
  )
  const isEverything = ({ channel, low, high, message }: (typeof away)[number]): boolean =>
    channel === null && (message === 'all' || (low === 0 && high === 127))
  if (away.some(isEverything) || open.length === 0)
    return [
      {
        path: 'request.away',
        message:
          'Everything is to be moved away from, so there is nowhere to go; name fewer numbers or a channel.',
      },
    ]
  return away.flatMap(({ message, channel, low, high }, index): RequestProblem[] => {
    const path = `request.away[${index}]`
    if (message === 'all' && (low > 0 || high < 127))
      return [
        { path, message: 'Everything on a channel has no numbers to choose among; leave low and high out.' },
      ]
    if (low > high)
      return [{ path, message: `It runs from ${low} down to ${high}; let the lower number come first.` }]
    if (message === 'all' && policy.kind === 'keep')
      return [
        {
          path: 'request.policy',
          message: `Everything on channel ${channel} is to move away, and everything is to keep its channel; let it use others.`,
        },
      ]
    if (policy.kind === 'among' && policy.channels.every((on) => !open.includes(on)))
      return [
        {
          path: 'request.policy',
          message: 'Of the channels to be used, everything is to move away from each; name others.',
        },
      ]
    return []
  })
}

/** What of a request contradicts itself or speaks of what is not there. Empty if it can be planned. */
export function problemsOf(rig: Rig, request: AllocateRequest): RequestProblem[] {
  const { controllers } = rigIndex(rig)
  const problems: RequestProblem[] = []
  const gone = (id: Id, path: string): void => {
    if (!controllers.has(id))
      problems.push({ path, message: 'There is no such controller in this rig; choose one that is.' })
  }
  request.controllers.forEach((id, index) => gone(id, `request.controllers[${index}]`))
  if (request.kind === 'make-room' || request.kind === 'stand-in')
    gone(request.controller, 'request.controller')
  if (request.kind === 'stand-in') {
    gone(request.for, 'request.for')
    const isLearned = rig.mappings.some(
      ({ gesture, learnedAt }) =>
        learnedAt !== null && gesture !== null && splitGestureRef(gesture).controller === request.for,
    )
    if (request.for === request.controller)
      problems.push({
        path: 'request.for',
        message: 'A controller cannot stand in for itself; choose another.',
      })
    else if (controllers.has(request.for) && !isLearned)
      problems.push({
        path: 'request.for',
        message:
          'No destination has learned anything of this controller, so there is nothing to stand in for.',
      })
  }
  request.rules.forEach((rule, index) => {
    const path = `request.rules[${index}]`
    if (rule.low > rule.high)
      problems.push({
        path,
        message: `It runs from ${rule.low} down to ${rule.high}; let the lower number come first.`,
      })
    const against = request.rules.findIndex((other) => other.kind !== rule.kind && meets(rule, other))
    if (against > index)
      problems.push({
        path,
        message: `It and rule ${against + 1} ask for opposite things of the same numbers; take one of them out.`,
      })
  })
  const closed = (number: Seven): boolean =>
    request.rules.some(
      (rule) =>
        rule.kind === 'avoid' &&
        rule.message === 'cc' &&
        rule.channel === null &&
        rule.controller === null &&
        rule.block === null &&
        number >= rule.low &&
        number <= rule.high,
    )
  if (Array.from({ length: 128 }, (_, number) => number).every(closed))
    problems.push({
      path: 'request.rules',
      message: 'Every number is to be avoided, so none can be given; leave some.',
    })
  if (request.kind === 'avoid') problems.push(...problemsOfAway(request))
  return problems
}
