import type { Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { followersIn } from './followers'
import type { Trouble } from './free'

/** Who may not stay where they are, and groups of whom only one may. */
export interface Limits {
  barred: ReadonlySet<string>
  groups: ReadonlyArray<readonly string[]>
}

/** Who may not stay, and who may not stay together, by some errors: of those who may move, and who goes with them. */
export function limitsOf(
  context: CheckContext,
  senders: readonly Sender[],
  troubles: readonly Trouble[],
): Limits {
  const { leaderOf } = followersIn(context)
  const leaders = new Map(
    troubles.flatMap((trouble) =>
      trouble.senders.map((sender) => [sender.key, (leaderOf(sender) ?? sender).key]),
    ),
  )
  const lead = (key: string): string => leaders.get(key) ?? key
  const free = new Set(senders.map(({ key }) => key))
  const barred = new Set(troubles.flatMap(({ alone }) => [...alone].map(lead)))
  const groups: string[][] = []
  for (const clique of troubles.flatMap(({ cliques }) => cliques)) {
    const group = [...new Set(clique.map(lead))]
    if (group.every((key) => free.has(key))) groups.push(group)
    else for (const key of group) barred.add(key)
  }
  return { barred, groups }
}
