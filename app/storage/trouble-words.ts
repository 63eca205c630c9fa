/** Why the browser keeps nothing, by what opening its storage said. Fetched when something is wrong, so that it weighs nothing before. */
export const whyNothing = (error: unknown): string =>
  error instanceof Error && error.name === 'VersionError'
    ? 'A newer version of Deft Lattice has kept rigs in this browser. Reload this page to get it; until then nothing is kept here.'
    : 'This browser keeps nothing for this page: its storage is switched off, or the window is private. You can work and export; when the tab closes, everything that was not exported is gone.'

export const STORAGE_FAILS =
  'The storage of this browser does not do what it should; it may be full. Make room on the disk, or empty the bin, then try again.'

export const STAYS_OPEN =
  'The rig stays open: its last edits are not kept yet. Export it first, or make room on the disk.'
