import type { Rule } from '../rule'
import { bankDrift } from './bank-drift'
import { claimed } from './claimed'
import { doubleDrive } from './double-drive'
import { doublePath } from './double-path'
import { feedbackClash } from './feedback-clash'
import { full } from './full'
import { ghost } from './ghost'
import { idleAccord } from './idle-accord'
import { keySounds } from './key-sounds'
import { layerJump } from './layer-jump'
import { layerShare } from './layer-share'
import { loop } from './loop'
import { mergedChannels } from './merged-channels'
import { modeMismatch } from './mode-mismatch'
import { outOfAbility } from './out-of-ability'
import { pairBroken } from './pair-broken'
import { parameterCarriers } from './parameter-carriers'
import { parameterInterleave } from './parameter-interleave'
import { portHeld } from './port-held'
import { rangeShort } from './range-short'
import { reserved } from './reserved'
import { sameAddress } from './same-address'
import { secondary } from './secondary'
import { silent } from './silent'
import { splitValue } from './split-value'
import { stuck } from './stuck'
import { toggleDrift } from './toggle-drift'
import { traffic } from './traffic'
import { unheard } from './unheard'
import { wellKnown } from './well-known'

const KINDS_OF_TROUBLE: readonly Rule[] = [
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
  modeMismatch,
  doubleDrive,
  rangeShort,
  toggleDrift,
  feedbackClash,
  pairBroken,
  parameterCarriers,
  parameterInterleave,
  bankDrift,
  reserved,
  splitValue,
  wellKnown,
  keySounds,
  loop,
  doublePath,
  traffic,
  portHeld,
  full,
  outOfAbility,
]

/** All rules, in the order in which their findings are listed within a severity. */
export const RULES: readonly Rule[] = [...KINDS_OF_TROUBLE, idleAccord(KINDS_OF_TROUBLE)]
