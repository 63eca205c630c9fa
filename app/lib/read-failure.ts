/** Why a file could not even be looked at, in a sentence: what the reading worker threw. */
export const readFailure = (error: unknown): string =>
  error instanceof Error && error.name === 'UnreadableError'
    ? 'The browser could not read it. Is it still there, and may it be read? Choose it again.'
    : 'The reader broke off; the file may need more memory than this browser has. Close other tabs, then choose it again.'
