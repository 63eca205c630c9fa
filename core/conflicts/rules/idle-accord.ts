import { partOf } from '../../addresses'
import { sendersOfGesture } from '../../mappings'
import { mappingsOf, type Accord, type GestureRef } from '../../rig'
import { contextOf, type CheckContext } from '../context'
import type { Draft } from '../finding'
import type { Rule } from '../rule'
import { placesOf } from '../words'

/** What the rules that an accord can excuse would say of these gestures if nothing were shared on purpose. */
function unexcused(
  { rig, occupancy }: CheckContext,
  rules: readonly Rule[],
  gestures: ReadonlySet<GestureRef>,
): Draft[] {
  const senders = [...gestures].flatMap((gesture) => sendersOfGesture(rig, gesture))
  const context = contextOf(rig, {
    occupancy: partOf(occupancy, senders),
    mappings: [...gestures].flatMap((gesture) => mappingsOf(rig, gesture)),
    excused: () => false,
  })
  return rules.filter(({ excused }) => excused).flatMap((rule) => rule.find(context))
}

const gesturesIn = ({ between, senders }: Draft): ReadonlySet<GestureRef> =>
  new Set(between ?? senders.map(({ gesture }) => gesture))

/** An accord that excuses nothing any more, in any of the rules that heed accords. */
export const idleAccord = (rules: readonly Rule[]): Rule => ({
  id: 'idle-accord',
  title: 'Sharing that no longer happens',
  topic: 'lessons',
  reach: 'accord',
  safe: ['withdraw'],
  find: (context) => {
    const { rig } = context
    const isIdle = (accord: Accord): boolean => {
      const all = new Set(accord.gestures)
      return !unexcused(context, rules, all).some((draft) => {
        const shared = [...gesturesIn(draft)].filter((gesture) => all.has(gesture))
        return shared.length > 1
      })
    }
    return rig.accords.filter(isIdle).map((accord) => ({
      severity: 'advice' as const,
      message: `“${accord.name}” is declared as shared on purpose, but its controls no longer meet anywhere.`,
      senders: [],
      addresses: [],
      destinations: [],
      about: accord.id,
      places: placesOf(rig, accord.gestures),
      cures: () => [
        {
          id: `withdraw-${accord.id}`,
          kind: 'withdraw',
          label: `Withdraw “${accord.name}”`,
          edits: [{ type: 'accord-remove', accord: accord.id }],
        },
      ],
    }))
  },
})
