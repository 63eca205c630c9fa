/** What a rig document calls itself, and the version of the format that is written. */
export const RIG_FORMAT = 'deft-lattice/rig'
export const RIG_VERSION = 7
