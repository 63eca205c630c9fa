import type { Sender } from '../addresses'
import type { Id } from '../rig'
import type { Hearing } from './hearing'
import type { Resources } from './resources'
import type { Stays, Still } from './stills'

/** What candidates take beside cells, so that only such stay together as may. */
export interface Ties {
  /** By a way to leave a sender as it is. */
  ofStill: (sender: Sender, still: Still) => readonly number[]
  /** Where a mapping hears a sender. */
  ofHeard: (sender: Sender, hearing: Hearing) => readonly number[]
}

/**
 * Each of some who may not stay together takes one thing. Who stays because a mapping is lost takes one thing more for each whom
 * that could hear, which these take where they are heard.
 */
export function tiesOf(
  { groups, endings }: Pick<Stays, 'groups' | 'endings'>,
  resources: Pick<Resources, 'token'>,
): Ties {
  const inGroups = groupsIn(groups, resources)
  /** Who may stay only if a mapping is lost, by the mapping. */
  const waiting = new Map<Id, Set<string>>()
  for (const [key, errors] of endings)
    for (const { mapping } of errors.flat())
      waiting.set(mapping, (waiting.get(mapping) ?? new Set()).add(key))
  // One for each who is heard: they may all stay.
  const lostFor = (mapping: Id, key: string, leader: string): number =>
    resources.token(`${mapping} not of ${leader} for ${key}`)
  return {
    ofStill: ({ key }, { isLeft, lost }) =>
      isLeft
        ? []
        : [
            ...inGroups(key),
            ...lost.flatMap(({ mapping, leaders }) => leaders.map((leader) => lostFor(mapping, key, leader))),
          ],
    ofHeard: (sender, { mapping }) =>
      [...(waiting.get(mapping.id) ?? [])].map((key) => lostFor(mapping.id, key, sender.key)),
  }
}

/** What each sender takes where it stays without an error, as of some only one may. */
function groupsIn(
  groups: Stays['groups'],
  { token }: Pick<Resources, 'token'>,
): (key: string) => readonly number[] {
  const known = new Map<string, number[]>()
  for (const group of groups) {
    const number = token(`one of ${group.join(' ')}`)
    for (const key of group) known.set(key, [...(known.get(key) ?? []), number])
  }
  return (key) => known.get(key) ?? []
}
