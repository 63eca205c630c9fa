import type { Finding } from '#core/conflicts'

/** Show what a finding speaks of in the picture of the rig: the first thing picked, all its cables marked. */
export function useShowThing(): (finding: Pick<Finding, 'things'>) => void {
  const picture = usePictureStore()
  return ({ things }) => {
    const cables = things.flatMap(({ kind, id }) => (kind === 'cable' ? [id] : []))
    picture.select(things[0] ?? null, cables)
    void navigateTo('/rig')
  }
}
