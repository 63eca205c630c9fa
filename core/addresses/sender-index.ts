import { numberOf, type MessageKind } from '../rig'
import { isWanting, type Sender } from './emission'

/** Senders by what they send, so that those who look for a few need not look at all. Each list in the order of the rig. */
export interface SenderIndex {
  /** Those with a message of a kind. */
  ofKind: (kind: MessageKind) => readonly Sender[]
  /** Those with a 7-bit or 14-bit controller of a number 0–127. */
  ofController: (number: number) => readonly Sender[]
  /** Those of whose message the number has been left open. */
  readonly wanting: readonly Sender[]
}

const NONE: readonly Sender[] = []

/** Index senders by what they send. */
export function senderIndex(senders: readonly Sender[]): SenderIndex {
  const kinds = new Map<MessageKind, Sender[]>()
  const controllers = new Map<number, Sender[]>()
  const wanting: Sender[] = []
  for (const sender of senders) {
    const { kind } = sender.message
    put(kinds, kind, sender)
    if (isWanting(sender)) wanting.push(sender)
    else if (kind === 'cc' || kind === 'cc14') put(controllers, numberOf(sender.message) ?? -1, sender)
  }
  return {
    ofKind: (kind) => kinds.get(kind) ?? NONE,
    ofController: (number) => controllers.get(number) ?? NONE,
    wanting,
  }
}

function put<K>(lists: Map<K, Sender[]>, key: K, sender: Sender): void {
  const list = lists.get(key)
  if (list) list.push(sender)
  else lists.set(key, [sender])
}
