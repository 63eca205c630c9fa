import type { Id } from '#core/rig'
import type { Lit } from '#core/lights'

/** A light as the surface draws it: its colour, and an ink that can be read on it. */
export interface SurfaceLight {
  colour: string
  ink: string
}

const NONE: ReadonlyMap<Id, SurfaceLight> = new Map()

/** Is a colour bright enough for dark writing? (Rec. 709 luma of the sRGB values.) */
function isBright(colour: string): boolean {
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16))
  return 0.2126 * r + 0.7152 * g + 0.0722 * b > 120
}

/** What the lights of the Desk's controller show, in the lens on lights; nothing in the others. */
export function useSurfaceLights() {
  const preferences = usePreferencesStore()
  /** Everything about colours is fetched when lights are first looked at. */
  const pictureOf = shallowRef<(() => ReadonlyMap<Id, Lit>) | null>(null)
  watch(
    () => preferences.lens,
    async (lens) => {
      if (lens !== 'lights' || pictureOf.value) return
      const { useLightsStore } = await import('~/stores/lights')
      const lights = useLightsStore()
      pictureOf.value = () => lights.picture
    },
    { immediate: true },
  )
  return computed<ReadonlyMap<Id, SurfaceLight>>(() => {
    if (preferences.lens !== 'lights' || !pictureOf.value) return NONE
    return new Map(
      [...pictureOf.value()].map(([id, { entry }]) => [
        id,
        { colour: entry.colour, ink: isBright(entry.colour) ? '#101418' : '#f4f2ea' },
      ]),
    )
  })
}
