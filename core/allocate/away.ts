import type { Sender } from '../addresses'
import { numberOf, type MessageKind } from '../rig'
import type { AllocateRequest } from './request'

type Away = Extract<AllocateRequest, { kind: 'avoid' }>['away'][number]

const awaysOf = (request: AllocateRequest): readonly Away[] => (request.kind === 'avoid' ? request.away : [])

const isKind = (away: Away, kind: MessageKind): boolean =>
  away.message === kind || (away.message === 'cc' && kind === 'cc14')

/** Does a number of a kind, on a channel, lie where a request wants to be away from? */
export const liesAway = (
  request: AllocateRequest,
  kind: MessageKind,
  channel: number,
  number: number | null,
): boolean =>
  awaysOf(request).some(
    (away) =>
      (away.channel === null || away.channel === channel) &&
      (away.message === 'all' ||
        (isKind(away, kind) && number !== null && number >= away.low && number <= away.high)),
  )

/** Does what is sent now lie there? */
export const sentAway = (request: AllocateRequest, { message, channel }: Sender): boolean =>
  liesAway(request, message.kind, channel, numberOf(message))

/** Does a request name a whole channel, with everything that a sender sends there? */
export const leavesChannel = (request: AllocateRequest, { channel }: Sender): boolean =>
  awaysOf(request).some((away) => away.message === 'all' && away.channel === channel)
