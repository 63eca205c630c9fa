import type { Id } from '#core/rig'
import type { SurfaceLight } from '~/lib/surface/light-colours'

const NONE: ReadonlyMap<Id, SurfaceLight> = new Map()

/** What the lights of the Desk's controller show, in the lens on lights; nothing in the others. */
export function useSurfaceLights() {
  const preferences = usePreferencesStore()
  /** Everything about colours is fetched when lights are first looked at. */
  const shining = shallowRef<(() => ReadonlyMap<Id, SurfaceLight>) | null>(null)
  watch(
    () => preferences.lens,
    async (lens) => {
      if (lens !== 'lights' || shining.value) return
      const { useLightsStore } = await import('~/stores/lights')
      const lights = useLightsStore()
      shining.value = () => lights.shining
    },
    { immediate: true },
  )
  return computed(() => (preferences.lens === 'lights' && shining.value ? shining.value() : NONE))
}
