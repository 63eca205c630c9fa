import type { Rule } from '../rule'
import { bankDrift } from './bank-drift'
import { claimed } from './claimed'
import { doublePath } from './double-path'
import { full } from './full'
import { ghost } from './ghost'
import { idleAccord } from './idle-accord'
import { layerJump } from './layer-jump'
import { layerShare } from './layer-share'
import { loop } from './loop'
import { mergedChannels } from './merged-channels'
import { outOfAbility } from './out-of-ability'
import { pairBroken } from './pair-broken'
import { parameterCarriers } from './parameter-carriers'
import { parameterInterleave } from './parameter-interleave'
import { portHeld } from './port-held'
import { reserved } from './reserved'
import { sameAddress } from './same-address'
import { secondary } from './secondary'
import { silent } from './silent'
import { splitValue } from './split-value'
import { stuck } from './stuck'
import { traffic } from './traffic'
import { unheard } from './unheard'
import { wellKnown } from './well-known'

/** All rules, in the order in which their findings are listed within a severity. */
export const RULES: readonly Rule[] = [
  sameAddress,
  mergedChannels,
  claimed,
  ghost,
  unheard,
  silent,
  secondary,
  layerShare,
  layerJump,
  stuck,
  pairBroken,
  parameterCarriers,
  parameterInterleave,
  bankDrift,
  reserved,
  splitValue,
  wellKnown,
  loop,
  doublePath,
  traffic,
  portHeld,
  full,
  outOfAbility,
  idleAccord,
]
