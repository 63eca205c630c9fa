import type { Id, Template } from '../../rig'
import { readSlotMessage, slotBytes, type Refusal } from './exchange'
import { piecesOf, templateIn } from './template-bytes'

/** So long an answer is waited for, in ms; so often a message is sent before it is given up. */
export const ANSWER_MS = 400
const TRIES = 3

/** A transfer between the application and hardware, from its beginning to its end. Plain data. */
export interface Transfer {
  what: 'fetch' | 'store'
  device: number
  model: Id
  slot: number
  /** Of a store: the pieces that are sent. Of a fetch: those that came. */
  pieces: ReadonlyArray<readonly number[]>
  /** How many there are; null while a fetch does not know. */
  count: number | null
  /** How many pieces are through. */
  through: number
  /** The most pieces that were through at any time: only what goes further counts as an answer. */
  furthest: number
  /** How often the last message was sent. */
  tries: number
  /** When the answer has to be there, in ms. */
  until: number
}

/** How a transfer ended. */
export type Outcome =
  | { kind: 'fetched'; template: Template | null }
  | { kind: 'stored' }
  /** Why it ended, and whether what was in the slot before is certainly still there. */
  | { kind: 'failed'; why: string; isUntouched: boolean }

/** A transfer after something happened: how it goes on, what is to be sent, and its end, once it has one. */
export interface Next {
  transfer: Transfer
  send: readonly number[] | null
  outcome: Outcome | null
}

const REFUSAL_WORDS: Readonly<Record<Refusal, string>> = {
  'no-such-slot': 'The hardware has no such slot.',
  busy: 'The hardware is busy. Wait until it is done, and try again.',
  checksum: 'The hardware says that what came was damaged.',
  order: 'The hardware says that a piece was missing.',
  'not-a-template': 'The hardware cannot read what was sent.',
  'other-model': 'The hardware is of another kind.',
}

const message = ({ what, device, slot, pieces, through }: Transfer): number[] =>
  what === 'fetch'
    ? slotBytes({ device, slot, kind: 'ask' })
    : slotBytes({
        device,
        slot,
        kind: 'piece',
        index: through,
        count: pieces.length,
        data: pieces[through] ?? [],
      })

const begun = (transfer: Transfer): Next => ({ transfer, send: message(transfer), outcome: null })

/** Begin to fetch what is in a slot, at `now` ms. */
export const fetchSlot = (device: number, model: Id, slot: number, now: number): Next =>
  begun({
    what: 'fetch',
    device,
    model,
    slot,
    pieces: [],
    count: null,
    through: 0,
    furthest: 0,
    tries: 1,
    until: now + ANSWER_MS,
  })

/** Begin to store a template in a slot, at `now` ms. */
export const storeSlot = (device: number, model: Id, slot: number, template: Template, now: number): Next => {
  const pieces = piecesOf(model, template)
  return begun({
    what: 'store',
    device,
    model,
    slot,
    pieces,
    count: pieces.length,
    through: 0,
    furthest: 0,
    tries: 1,
    until: now + ANSWER_MS,
  })
}

const failed = (transfer: Transfer, why: string): Next => ({
  transfer,
  send: null,
  // Hardware of this exchange stores only what is whole: until the last piece is sent, the slot is as it was.
  outcome: {
    kind: 'failed',
    why,
    isUntouched: transfer.what === 'fetch' || transfer.through < transfer.pieces.length - 1,
  },
})

const waiting = (transfer: Transfer): Next => ({ transfer, send: null, outcome: null })

/** An answer has come, as one SysEx message, at `now` ms. What is of somebody else is passed over. */
export function heard(transfer: Transfer, bytes: readonly number[], now: number): Next {
  const read = readSlotMessage(bytes)
  if (!read.ok) return read.isOurs ? again(transfer, read.why, now) : waiting(transfer)
  const answer = read.message
  if (answer.device !== transfer.device) return waiting(transfer)
  if (answer.kind === 'refused') {
    return answer.why === 'checksum'
      ? again(transfer, REFUSAL_WORDS.checksum, now)
      : failed(transfer, REFUSAL_WORDS[answer.why])
  }
  if (answer.slot !== transfer.slot)
    return failed(transfer, `The hardware answered for slot ${answer.slot}, not for slot ${transfer.slot}.`)
  const fresh = { tries: 1, until: now + ANSWER_MS }
  switch (answer.kind) {
    case 'empty':
      return transfer.what === 'fetch'
        ? { transfer, send: null, outcome: { kind: 'fetched', template: null } }
        : waiting(transfer)
    case 'piece': {
      if (transfer.what !== 'fetch' || answer.index !== transfer.through) return waiting(transfer)
      const pieces = [...transfer.pieces, answer.data]
      const isFurther = pieces.length > transfer.furthest
      const next: Transfer = {
        ...transfer,
        pieces,
        count: answer.count,
        through: pieces.length,
        furthest: Math.max(transfer.furthest, pieces.length),
        tries: isFurther ? 1 : transfer.tries,
        until: now + ANSWER_MS,
      }
      if (pieces.length < answer.count) return waiting(next)
      const found = templateIn(pieces, transfer.model)
      return found.ok
        ? { transfer: next, send: null, outcome: { kind: 'fetched', template: found.template } }
        : failed(next, found.why)
    }
    case 'taken': {
      if (transfer.what !== 'store' || answer.index !== transfer.through) return waiting(transfer)
      const next = { ...transfer, ...fresh, through: transfer.through + 1 }
      return { transfer: next, send: message(next), outcome: null }
    }
    case 'stored':
      return transfer.what === 'store' && transfer.through === transfer.pieces.length - 1
        ? {
            transfer: { ...transfer, through: transfer.pieces.length },
            send: null,
            outcome: { kind: 'stored' },
          }
        : waiting(transfer)
    case 'ask':
      return waiting(transfer)
  }
}

/** Send the last message once more; after some tries give up. */
function again(transfer: Transfer, why: string, now: number): Next {
  if (transfer.tries >= TRIES) return failed(transfer, why)
  const next: Transfer = {
    ...transfer,
    tries: transfer.tries + 1,
    until: now + ANSWER_MS,
    ...(transfer.what === 'fetch' ? { pieces: [], through: 0 } : {}),
  }
  return { transfer: next, send: message(next), outcome: null }
}

/** Time has gone on to `now` ms: where no answer came in time, the last message is sent again, or the transfer given up. */
export const waited = (transfer: Transfer, now: number): Next =>
  now < transfer.until
    ? waiting(transfer)
    : again(
        transfer,
        transfer.through > 0
          ? `The hardware stopped answering after ${transfer.through} of ${transfer.count ?? '?'} pieces.`
          : 'The hardware does not answer. Is it switched on, and are both its cables plugged?',
        now,
      )
