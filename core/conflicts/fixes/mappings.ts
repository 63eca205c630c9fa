import { printTag } from '../../midi'
import { mappingName, teachable, type Listening, type ResolvedMapping } from '../../mappings'
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
import type { Fix } from '../finding'

/** Take old mappings out of their destination. */
export const clearFixes = ({ rig }: CheckContext, mappings: readonly Mapping[]): Fix[] =>
  mappings.map((mapping) => ({
    id: `clear-${mapping.id}`,
    kind: 'clear',
    label: `Clear the old mapping ${mappingName(rig, mapping)}`,
    edits: [{ type: 'mapping-remove', mapping: mapping.id }],
  }))

/** Take a mapping that is in use away from its control. */
export function partFix({ rig }: CheckContext, mapping: Mapping): Fix {
  const found = mapping.gesture === null ? null : findGesture(rig, mapping.gesture)
  const who = found
    ? `${gestureName(found.control, found.gesture)} (${found.controller.name})`
    : 'its control'
  return {
    id: `clear-${mapping.id}`,
    kind: 'clear',
    label: `Take ${mappingName(rig, mapping)} away from ${who}`,
    edits: [{ type: 'mapping-remove', mapping: mapping.id }],
  }
}

/** Teach the destination what arrives of the control: possible where it learns, and where one address arrives. */
export function teachFixes({ rig }: CheckContext, resolved: readonly ResolvedMapping[]): Fix[] {
  const taught = resolved.flatMap((each) => {
    const found = each.listening?.by === 'chart' ? null : teachable(rig, each)
    return found ? [{ ...each, ...found }] : []
  })
  const [first] = taught
  if (!first || taught.length < resolved.length) return []
  const edits = taught.map(({ mapping, address }): RigEdit => ({
    type: 'mapping-set',
    mapping: mapping.id,
    set: { learnedAt: address },
  }))
  const label =
    taught.length === 1
      ? `Teach ${mappingName(rig, first.mapping)} ${printTag(first.address)}`
      : `Teach all ${taught.length} what they are sent`
  return [{ id: `teach-${first.mapping.id}`, kind: 'teach', label, edits }]
}

function followed(
  { senders }: ResolvedMapping,
  { address }: Listening,
  rig: Rig,
): { edit: RigEdit; tag: string } | null {
  const [sender] = senders
  const found = sender ? findGesture(rig, sender.gesture) : null
  if (!sender || !found || sender.pinned || senders.length > 1 || address.scope === 'system') return null
  const { target } = address
  if (!('number' in target) || target.kind === 'program' || target.kind === 'channelMode') return null
  if (!fitsNumber(target.kind as Message['kind'], target.number)) return null
  const to = { ...address, channel: address.channel ?? sender.channel }
  const message = withAddress(sender.message, to, found.control.kind, found.gesture)
  return {
    tag: printTag(to),
    edit: { type: 'message', at: sender.place, index: sender.messageIndex, message },
  }
}

/** Let the control send what its parameter takes. */
export function followFixes({ rig }: CheckContext, resolved: ResolvedMapping): Fix[] {
  const { mapping, listening } = resolved
  const change = listening ? followed(resolved, listening, rig) : null
  const found = mapping.gesture ? findGesture(rig, mapping.gesture) : null
  if (!change || !found) return []
  return [
    {
      id: `follow-${mapping.id}`,
      kind: 'follow',
      label: `Let ${gestureName(found.control, found.gesture)} send ${change.tag}`,
      edits: [change.edit],
    },
  ]
}

/** Change one thing of a mapping. */
export const mappingFix = (
  id: string,
  kind: Fix['kind'],
  label: string,
  mappings: readonly Id[],
  set: Partial<Omit<Mapping, 'id'>>,
): Fix => ({
  id,
  kind,
  label,
  edits: mappings.map((mapping): RigEdit => ({ type: 'mapping-set', mapping, set })),
})
