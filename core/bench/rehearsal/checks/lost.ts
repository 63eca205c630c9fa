import { rigIndex, type Id } from '../../../rig'
import type { Run } from '../run'
import { moverOf, type Check, type Told } from '../told'

/** How many messages each destination did something to. */
function countsOf(run: Run): Map<Id, { lost: number; twice: number; all: number }> {
  const counts = new Map<Id, { lost: number; twice: number; all: number }>()
  const of = (id: Id) => {
    const known = counts.get(id) ?? { lost: 0, twice: 0, all: 0 }
    counts.set(id, known)
    return known
  }
  for (const { arrived } of run.passed) for (const { destination } of arrived) of(destination).all++
  const seen = new Map<unknown, Set<string>>()
  for (const { destination, effect, passing } of run.effects) {
    if (effect.kind === 'lost') of(destination).lost++
    if (effect.kind !== 'moves' && effect.kind !== 'acts') continue
    // The same mapping cannot take one message twice.
    const taken = seen.get(passing) ?? new Set()
    seen.set(passing, taken)
    const key = `${destination}/${effect.mapping ?? ''}/${effect.parameter}`
    if (taken.has(key)) of(destination).twice++
    taken.add(key)
  }
  return counts
}

function toldOf(run: Run): Told[] {
  const { rig, spot, joined } = run
  return [...countsOf(run)].flatMap(([id, { lost, twice, all }]): Told[] => {
    const owner = rigIndex(rig).destinations.get(id)
    if (!owner || !joined.some(({ destination }) => destination.id === id)) return []
    const about = {
      weight: 'fault' as const,
      place: spot.place,
      mapping: null,
      concerns: 'all' as const,
      parameter: null,
    }
    const mover = moverOf(rig, spot)
    return [
      ...(lost > 0
        ? [
            {
              ...about,
              text: `${owner.name} loses ${lost} of ${all} messages that ${mover} sends.`,
              cure: `See why ${owner.name} loses messages: a cable that is too busy, or a program that has too much to do.`,
            },
          ]
        : []),
      ...(twice > 0
        ? [
            {
              ...about,
              text: `${owner.name} takes ${twice} of ${all} messages that ${mover} sends twice.`,
              cure: `Look for a second way from the controller to ${owner.name}, and close it.`,
            },
          ]
        : []),
    ]
  })
}

/** Did every message count, once? */
export const lost: Check = { id: 'lost', find: toldOf }
