import { printTag, type Target } from '../../midi'
import { mappingName, type Expected, type Join } from '../../mappings'
import {
  findGesture,
  fitsNumber,
  gestureName,
  withAddress,
  type Id,
  type Mapping,
  type Message,
  type Rig,
  type RigEdit,
} from '../../rig'
import type { CheckContext } from '../context'
import type { Draft, Fix } from '../finding'

const joinOf = (context: CheckContext, id: Id): Join | null =>
  context.joins().find(({ mapping }) => mapping.id === id) ?? null

const mappingsAt = (rig: Rig, ids: readonly Id[] | undefined): Mapping[] =>
  (ids ?? []).flatMap((id) => rig.mappings.find((mapping) => mapping.id === id) ?? [])

/** Take an old mapping out of its destination. */
export const clearFixes = ({ rig }: CheckContext, { cures }: Draft): Fix[] =>
  mappingsAt(rig, cures.clear).map((mapping) => ({
    id: `clear-${mapping.id}`,
    kind: 'clear',
    label: `Clear the old mapping ${mappingName(rig, mapping)}`,
    edits: [{ type: 'mapping-remove', mapping: mapping.id }],
  }))

/** Teach the destination what the control sends: possible where it learns. */
export function teachFixes(context: CheckContext, { cures }: Draft): Fix[] {
  return (cures.teach ?? []).flatMap((id): Fix[] => {
    const join = joinOf(context, id)
    const tag = join?.senders.find((sender) => sender.tag !== null)?.tag
    if (!join || !tag || join.expected?.by === 'chart') return []
    return [
      {
        id: `teach-${id}`,
        kind: 'teach',
        label: `Teach ${mappingName(context.rig, join.mapping)} ${tag}`,
        edits: [{ type: 'mapping-set', mapping: id, set: { learnedAt: tag } }],
      },
    ]
  })
}

/** Can a plain message be made that arrives at a target? */
const isPlain = (target: Target): boolean =>
  target.kind === 'cc' || target.kind === 'cc14' || target.kind === 'nrpn' || target.kind === 'rpn'

function followed(join: Join, expected: Expected, rig: Rig): { edit: RigEdit; message: Message } | null {
  const [sender] = join.senders
  const found = sender ? findGesture(rig, sender.gesture) : null
  if (!sender || !found || sender.pinned || join.senders.length > 1 || !isPlain(expected.target)) return null
  const { target } = expected
  if (!('number' in target) || !fitsNumber(target.kind as Message['kind'], target.number)) return null
  const channel = expected.channel ?? sender.channel
  const message = withAddress(
    sender.message,
    { scope: 'channel', channel, target },
    found.control.kind,
    found.gesture,
  )
  return { message, edit: { type: 'message', at: sender.place, index: sender.messageIndex, message } }
}

/** Let the control send what its parameter takes. */
export function followFixes(context: CheckContext, { cures }: Draft): Fix[] {
  return (cures.follow ?? []).flatMap((id): Fix[] => {
    const join = joinOf(context, id)
    const change = join?.expected ? followed(join, join.expected, context.rig) : null
    const found = join?.mapping.gesture ? findGesture(context.rig, join.mapping.gesture) : null
    if (!join?.expected || !change || !found) return []
    const { target } = join.expected
    const channel = join.expected.channel ?? join.senders[0]?.channel ?? 1
    const tag = printTag({ scope: 'channel', channel, target })
    return [
      {
        id: `follow-${id}`,
        kind: 'follow',
        label: `Let ${gestureName(found.control, found.gesture)} send ${tag}`,
        edits: [change.edit],
      },
    ]
  })
}

/** Take parameters over when met, so that they do not jump. */
export function softenFix({ rig }: CheckContext, { cures }: Draft): Fix[] {
  const mappings = mappingsAt(rig, cures.soften)
  if (mappings.length === 0) return []
  return [
    {
      id: 'soften',
      kind: 'soften',
      label: 'Take over when met',
      edits: mappings.map(({ id }): RigEdit => ({
        type: 'mapping-set',
        mapping: id,
        set: { takeover: 'when-met' },
      })),
    },
  ]
}

/** Withdraw accords that excuse nothing. */
export const withdrawFixes = ({ rig }: CheckContext, { cures }: Draft): Fix[] =>
  (cures.withdraw ?? []).flatMap((id): Fix[] => {
    const accord = rig.accords.find((candidate) => candidate.id === id)
    return accord
      ? [
          {
            id: `withdraw-${id}`,
            kind: 'withdraw',
            label: `Withdraw “${accord.name}”`,
            edits: [{ type: 'accord-remove', accord: id }],
          },
        ]
      : []
  })
