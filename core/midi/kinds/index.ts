import { cc } from './cc'
import { cc14 } from './cc14'
import { channelMode } from './channel-mode'
import { channelPressure } from './channel-pressure'
import type { Kind } from './kind'
import { mmc } from './mmc'
import { note } from './note'
import { nrpn } from './nrpn'
import { off } from './off'
import { pitchBend } from './pitch-bend'
import { polyPressure } from './poly-pressure'
import { program } from './program'
import { realtime } from './realtime'
import { rpn } from './rpn'
import { sysex } from './sysex'
import type { MessageKind } from './types'

/** Every message kind by its name. A kind is a folder beside this file, a line here and a line in `schemas.ts`. */
export const KINDS: { readonly [K in MessageKind]: Kind<K> } = {
  off,
  note,
  cc,
  cc14,
  nrpn,
  rpn,
  program,
  pitchBend,
  channelPressure,
  polyPressure,
  channelMode,
  mmc,
  realtime,
  sysex,
}

export type { FreshFor, Landing, Movement } from './kind'
export { leavesNumberOut } from './parameter'
export { expressionOn, zoneConfiguration, type Expression } from './note'
export { keys as keysFacet, memberChannels } from './shared'
export type * from './types'
