import { travelOf, type SentMessage, type Travel } from '../midi'

/** How much a hand did, free of what a message makes of it: it can be said again in another message. */
export type Amount =
  /** So far along the movement, 0–1. Of what is pressed: 1 down, 0 let go. */
  | { kind: 'share'; of: number }
  /** So many clicks, negative downwards. */
  | { kind: 'clicks'; by: number }
  /** A blow, 1–127, or 0 to let go. */
  | { kind: 'blow'; velocity: number }
  | { kind: 'signal' }

const BLOW_MOST = 127

const shareIn = (amount: Amount): number => {
  switch (amount.kind) {
    case 'share':
      return amount.of
    case 'blow':
      return amount.velocity > 0 ? 1 : 0
    case 'clicks':
      return amount.by > 0 ? 1 : 0
    case 'signal':
      return 1
  }
}

/** The place of a share of the way among `count` values. */
export const indexAt = (share: number, count: number): number =>
  Math.round(Math.min(1, Math.max(0, share)) * (count - 1))

/**
 * The value that a message carries for an amount: of its range, clicks, or a velocity. A message that a cable has made of
 * another one says the same amount in its own way.
 */
export function valueOf(
  message: SentMessage,
  amount: Amount,
  control: { detentsPerTurn: number | null },
): number {
  return valueIn(travelOf(message, control), amount)
}

function valueIn(travel: Travel, amount: Amount): number {
  switch (travel.kind) {
    case 'sweep':
      return travel.at(indexAt(shareIn(amount), travel.count))
    case 'points':
      return (shareIn(amount) > 0 ? travel.values.at(-1) : travel.values[0]) ?? 0
    case 'clicks':
      return amount.kind === 'clicks' ? amount.by : shareIn(amount) > 0 ? 1 : -1
    case 'strike':
      return amount.kind === 'blow' ? amount.velocity : Math.round(shareIn(amount) * BLOW_MOST)
    case 'signal':
    case 'nothing':
      return 0
  }
}

/** How much a hand did that made a message carry a value. Inverse of `valueOf`, as far as the value tells. */
export function amountOf(
  message: SentMessage,
  value: number,
  control: { detentsPerTurn: number | null },
): Amount {
  const travel = travelOf(message, control)
  switch (travel.kind) {
    case 'sweep': {
      const [first, last] = [travel.at(0), travel.at(travel.count - 1)]
      const share = last === first ? 1 : (value - first) / (last - first)
      return { kind: 'share', of: Math.min(1, Math.max(0, share)) }
    }
    case 'points': {
      if (message.kind === 'note') return { kind: 'blow', velocity: value }
      const index = travel.values.lastIndexOf(value)
      if (travel.values.length < 2) return { kind: 'share', of: 1 }
      const share = index < 0 ? (value > 0 ? 1 : 0) : index / (travel.values.length - 1)
      return { kind: 'share', of: share }
    }
    case 'clicks':
      return { kind: 'clicks', by: value }
    case 'strike':
      return { kind: 'blow', velocity: value }
    case 'signal':
    case 'nothing':
      return { kind: 'signal' }
  }
}
