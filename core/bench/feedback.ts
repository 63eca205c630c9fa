import { bytesOf, topOf } from '../midi'
import { memoOf, messageAt, type Destination, type GestureRef, type Id, type Mapping, type Rig } from '../rig'
import { parameterOf } from '../rig'
import { mappedRange, positionOf } from '../values'
import type { Effect } from './destination'

/** What a destination says of a parameter to the control that it is joined with. */
export interface Feedback {
  gesture: GestureRef
  bytes: readonly number[]
}

/** The mappings over which destinations send back, by destination and parameter. */
const sentBackIn = memoOf((rig: Rig) => {
  const found = new Map<string, Mapping[]>()
  const talking = new Set<Id>(rig.destinations.flatMap(({ id, feedback }) => (feedback ? [id] : [])))
  for (const mapping of rig.mappings) {
    if (!mapping.feedback || !mapping.gesture || !mapping.learnedAt || !talking.has(mapping.destination))
      continue
    const key = `${mapping.destination}/${mapping.parameter}`
    found.set(key, [...(found.get(key) ?? []), mapping])
  }
  return found
})

const TOP = 127

/** What a destination sends back after something has moved there: the value that its control would have to send for it. */
export function feedbackOf(rig: Rig, destination: Destination, effects: readonly Effect[]): Feedback[] {
  if (!destination.feedback) return []
  const all = sentBackIn(rig)
  return effects.flatMap((effect) => {
    if (effect.kind !== 'moves' || effect.from === effect.to) return []
    const parameter = parameterOf(destination, effect.parameter)
    if (!parameter) return []
    return (all.get(`${destination.id}/${parameter.id}`) ?? []).flatMap((mapping): Feedback[] => {
      const message = mapping.learnedAt && messageAt(mapping.learnedAt)
      if (!mapping.gesture || !message) return []
      const share = Math.min(1, Math.max(0, positionOf(mappedRange(mapping, parameter), effect.to)))
      const channel = 'channel' in message && typeof message.channel === 'number' ? message.channel : 1
      const value = Math.round(share * (topOf(message) ?? TOP))
      const bytes = bytesOf(message, { channel, value, previous: null, key: 0, device: TOP })
      return [{ gesture: mapping.gesture, bytes }]
    })
  })
}
