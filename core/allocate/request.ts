import * as z from 'zod/mini'
import { Channel, Id, or, orNull, Seven } from '../rig/schema/primitives'
import { GestureRef } from '../rig/schema/references'

/** A house rule for one request only: as those of the rig, without name and memo. */
const AskedRule = z.strictObject({
  kind: z.enum(['prefer', 'avoid']),
  message: or(z.enum(['cc', 'cc14', 'note', 'nrpn', 'program']), 'cc'),
  channel: orNull(Channel),
  low: Seven,
  high: Seven,
  controller: orNull(Id),
  block: orNull(Id),
})

/** Which channels what moves may go to. */
const Policy = z.discriminatedUnion('kind', [
  /** Its own, or another where there is no room, which counts as a warning. */
  z.strictObject({ kind: z.literal('keep-if-room') }),
  z.strictObject({ kind: z.literal('keep') }),
  z.strictObject({ kind: z.literal('home') }),
  z.strictObject({
    kind: z.literal('among'),
    channels: z.array(Channel).check(z.minLength(1), z.maxLength(16)),
  }),
  z.strictObject({ kind: z.literal('each-controller') }),
  z.strictObject({ kind: z.literal('each-layer') }),
  z.strictObject({ kind: z.literal('each-destination') }),
])

/** What to move away from: numbers of controllers or notes, on a channel or on all; or everything on a channel. */
const Away = z.strictObject({
  message: or(z.enum(['cc', 'note', 'all']), 'cc'),
  channel: orNull(Channel),
  low: or(Seven, 0),
  high: or(Seven, 127),
})

const options = {
  /** Only these controllers may be changed; empty: all. */
  controllers: or(z.array(Id).check(z.maxLength(256)), []),
  /** Only these gestures may be changed; empty: all. What is named here moves even if it is pinned or a pitch. */
  gestures: or(z.array(GestureRef).check(z.maxLength(20_000)), []),
  policy: or(Policy, { kind: 'keep-if-room' as const }),
  rules: or(z.array(AskedRule).check(z.maxLength(200)), []),
  /** May layers that never show together have an address in common? */
  shareLayers: or(z.boolean(), false),
  /** Changes of an earlier plan that were struck out: what they would have changed stays. */
  struck: or(z.array(z.string().check(z.maxLength(400))).check(z.maxLength(20_000)), []),
  /** Search steps before the best that is known is given, with its bound. */
  steps: or(z.int().check(z.minimum(0), z.maximum(20_000_000)), 400_000),
}

/** What is asked of `allocate`. Every option has a default, so the kind alone is a request. */
export const AllocateRequest = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('fill'), ...options }),
  z.strictObject({ kind: z.literal('repair'), ...options }),
  z.strictObject({ kind: z.literal('replan'), ...options }),
  z.strictObject({
    kind: z.literal('avoid'),
    ...options,
    away: z.array(Away).check(z.minLength(1), z.maxLength(64)),
  }),
  z.strictObject({ kind: z.literal('make-room'), ...options, controller: Id }),
  /** `controller` takes over what destinations learned of `for`. */
  z.strictObject({ kind: z.literal('stand-in'), ...options, controller: Id, for: Id }),
])
export type AllocateRequest = z.infer<typeof AllocateRequest>
export type AllocateInput = z.input<typeof AllocateRequest>
export type ChannelPolicy = AllocateRequest['policy']

/** Is what is left as it is to be much, so that each change counts before runs and numbers are looked at? */
export const isRepair = ({ kind }: AllocateRequest): boolean =>
  kind === 'repair' || kind === 'avoid' || kind === 'make-room'

/** Is everything that belongs together to be on one channel? */
export const isOneForEach = ({ policy }: AllocateRequest): boolean => policy.kind.startsWith('each-')
