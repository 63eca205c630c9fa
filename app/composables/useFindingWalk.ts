/** To walk from finding to finding; what that takes is fetched with the first step. */
export const useFindingWalk = (): ((by: 1 | -1) => void) => (by) =>
  void import('~/lib/finding-walk').then(({ walkFindings }) => walkFindings(by))
