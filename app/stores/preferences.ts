import { usePreferredDark, useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'

export type ThemeChoice = 'system' | 'vellum' | 'night'

export type Lens = 'addresses' | 'behaviour' | 'destinations' | 'lights'

/** What this player likes, kept in this browser. */
export const usePreferencesStore = defineStore('preferences', () => {
  const themeChoice = useStorage<ThemeChoice>('deft-lattice/theme', 'system')
  const prefersDark = usePreferredDark()
  const theme = computed(() =>
    themeChoice.value === 'system' ? (prefersDark.value ? 'night' : 'vellum') : themeChoice.value,
  )
  const otherLayers = useStorage('deft-lattice/other-layers', true)
  /** Show what a change makes unheard before it is made. */
  const askBefore = useStorage('deft-lattice/ask-before', true)
  /** Select on the Desk what real hardware moves. */
  const followHand = useStorage('deft-lattice/follow-hand', false)
  /** What the surface and the region below it show. */
  const lens = useStorage<Lens>('deft-lattice/lens', 'addresses')
  /** What stands in the upper left of the Desk. */
  const upperView = useStorage<'surface' | 'ledger'>('deft-lattice/upper-view', 'surface')
  /** Sizes of the Desk's regions in percent: the upper part, and the surface within it. */
  const upperSize = useStorage('deft-lattice/upper-size', 57)
  const surfaceSize = useStorage('deft-lattice/surface-size', 69)

  watchEffect(() => {
    document.documentElement.dataset.theme = theme.value
  })

  return { themeChoice, theme, otherLayers, askBefore, followHand, lens, upperView, upperSize, surfaceSize }
})
