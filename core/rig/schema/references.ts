import { formed } from './primitives'
import { GESTURE_KINDS } from './surface'

const ID = '[a-z0-9][a-z0-9-]{0,47}'
const GESTURE = GESTURE_KINDS.join('|')

/** One gesture of one control of a surface: `control.gesture`, for example `enc-5.turn`. */
export const GestureKey = formed(new RegExp(`^${ID}\\.(${GESTURE})$`), 'must be a gesture such as enc-5.turn')

/** One gesture in a rig: `controller/control.gesture`, for example `syzra/enc-5.turn`. */
export const GestureRef = formed(
  new RegExp(`^${ID}/${ID}\\.(${GESTURE})$`),
  'must be a gesture such as syzra/enc-5.turn',
)
