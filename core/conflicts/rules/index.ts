import type { Rule } from '../rule'
import { claimed } from './claimed'
import { mergedChannels } from './merged-channels'
import { pairBroken } from './pair-broken'
import { reserved } from './reserved'
import { sameAddress } from './same-address'
import { splitValue } from './split-value'
import { wellKnown } from './well-known'

/** All rules, in the order in which their findings are listed within a severity. */
export const RULES: readonly Rule[] = [
  sameAddress,
  mergedChannels,
  claimed,
  pairBroken,
  reserved,
  splitValue,
  wellKnown,
]
