import { usePreferredDark, useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'

export type ThemeChoice = 'system' | 'vellum' | 'night'

/** What this player likes, kept in this browser. */
export const usePreferencesStore = defineStore('preferences', () => {
  const themeChoice = useStorage<ThemeChoice>('deft-lattice/theme', 'system')
  const prefersDark = usePreferredDark()
  const theme = computed(() =>
    themeChoice.value === 'system' ? (prefersDark.value ? 'night' : 'vellum') : themeChoice.value,
  )
  const otherLayers = useStorage('deft-lattice/other-layers', true)
  /** What stands in the upper left of the Desk. */
  const upperView = useStorage<'surface' | 'ledger'>('deft-lattice/upper-view', 'surface')
  /** Sizes of the Desk's regions in percent: the upper part, and the surface within it. */
  const upperSize = useStorage('deft-lattice/upper-size', 57)
  const surfaceSize = useStorage('deft-lattice/surface-size', 69)

  watchEffect(() => {
    document.documentElement.dataset.theme = theme.value
  })

  return { themeChoice, theme, otherLayers, upperView, upperSize, surfaceSize }
})
