import type { Id } from '#core/rig'
import type { Lit } from '#core/lights'
import { lightColours, type SurfaceLight } from '~/lib/surface/light-colours'

const NONE: ReadonlyMap<Id, SurfaceLight> = new Map()

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
    return new Map([...pictureOf.value()].map(([id, { entry }]) => [id, lightColours(entry.colour)]))
  })
}
