import type { Loss } from '../addresses'
import { distinctAddresses, type Address } from '../midi'
import { findGesture, type Mapping, type Rig } from '../rig'
import { listeningOf, mappingParameter } from './listening'
import { lossAt, resolveMappings, sentFor } from './resolved'

/**
 * Whether what a control sends arrives where its parameter listens.
 * `agrees`: some layer's does. `differs`: none does, though something arrives. `lost`: nothing arrives at the
 * destination. `not-taught`: it listens nowhere yet. `silent`: the control sends nothing. `put-away`: its controller is.
 * `no-control`: its control is gone.
 */
export type Agreement = 'agrees' | 'differs' | 'lost' | 'not-taught' | 'silent' | 'put-away' | 'no-control'

export interface MappingState {
  agreement: Agreement
  /** Where it listens, or null. */
  listening: Address | null
  /** The addresses that its control sends, over all layers, each once. */
  sent: readonly Address[]
  /** Those of them that arrive where it listens. */
  meeting: readonly Address[]
  /** Where what is sent is lost, if it is. */
  loss: Loss | null
}

/** How a mapping stands: what is listened for, what is sent, and what of it arrives. */
export function mappingState(rig: Rig, mapping: Mapping): MappingState {
  const found = mapping.gesture === null ? null : findGesture(rig, mapping.gesture)
  const listening = listeningOf(mapping, mappingParameter(rig, mapping)?.parameter ?? null)?.address ?? null
  const nothing = { listening, sent: [], meeting: [], loss: null }
  if (!found) return { agreement: 'no-control', ...nothing }
  if (!found.controller.inUse) return { agreement: 'put-away', ...nothing }
  const [resolved] = resolveMappings(rig, [mapping])
  const senders = resolved?.senders ?? []
  if (senders.length === 0) return { agreement: 'silent', ...nothing }
  const addressesOf = (list: typeof senders): Address[] =>
    distinctAddresses(list.flatMap((sender) => sentFor(sender, mapping) ?? []))
  const meeting = resolved?.meeting ?? []
  const losses = senders.map((sender) => lossAt(rig, sender, mapping.destination))
  const loss = losses.every((each) => each !== null) ? (losses[0] ?? null) : null
  const agreement: Agreement =
    meeting.length > 0 ? 'agrees' : loss ? 'lost' : listening === null ? 'not-taught' : 'differs'
  return { agreement, listening, sent: addressesOf(senders), meeting: addressesOf(meeting), loss }
}
