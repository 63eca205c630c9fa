import { sendersIn, type Sender } from '../addresses'
import { listed, placeWords } from '../conflicts'
import { printTag } from '../midi'
import { mappingName, purposesOf } from '../mappings'
import { memoOfTwo, rigIndex, type Controller, type Id, type Rig } from '../rig'
import type { PlannedChange, Silenced } from './plan'

/** Who sends at a controller, by key. */
const sendersAt = memoOfTwo((rig: Rig, owner: Controller): ReadonlyMap<string, Sender> => {
  const senders = owner.inUse ? sendersIn(rig, owner, rig.controllers.indexOf(owner)) : []
  return new Map(senders.map((sender) => [sender.key, sender]))
})

function senderAt(rig: Rig, controller: Id, key: string): Sender | null {
  const owner = rigIndex(rig).controllers.get(controller)
  return (owner && sendersAt(rig, owner).get(key)) ?? null
}

/**
 * The changes after which an assignment moves nothing although it did before, and nothing of that is among `stale`,
 * because other layers of its control move it as well. Nothing tells which of it this one is for.
 */
export function silencedBy(
  before: Rig,
  after: Rig,
  changes: readonly PlannedChange[],
  stale: ReadonlySet<Id>,
): Silenced[] {
  return changes.flatMap(({ key, at, to }): Silenced[] => {
    const [was, is] = [before, after].map((rig) => senderAt(rig, at.controller, key))
    if (!was || !is) return []
    const moved = purposesOf(before, was).filter(({ listening }) => listening !== null)
    if (moved.length === 0 || moved.some(({ mapping }) => stale.has(mapping.id))) return []
    if (purposesOf(after, is).length > 0) return []
    const names = moved.map(({ mapping }) => mappingName(before, mapping))
    const which =
      names.length === 1
        ? `${names[0]} is taught there`
        : `whichever of ${listed(names)} it is for is taught there`
    return [{ at, message: `${placeWords(before, [at])} moves nothing until ${which}: ${printTag(to)}.` }]
  })
}
