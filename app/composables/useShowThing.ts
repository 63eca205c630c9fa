import type { FindingThing } from '#core/conflicts'

/** Show something that a finding speaks of in the picture of the rig. */
export function useShowThing(): (thing: FindingThing) => void {
  const picture = usePictureStore()
  return (thing) => {
    picture.select(thing)
    void navigateTo('/rig')
  }
}
