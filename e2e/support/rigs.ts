import { nineRingsRig } from '../../demo'

/** The demo as the application opens it where nothing is stored: with an honest handful of trouble. */
export const AS_FOUND = nineRingsRig('as-found')
/** The demo without findings. */
export const AS_PERFORMED = nineRingsRig('as-performed')
