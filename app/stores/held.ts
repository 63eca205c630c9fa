import { defineStore } from 'pinia'
import type { Mapping } from '#core/rig'
import { useRigStore, type Prepared } from './rig'

/** A change that is held back until the player has seen what it makes unheard. */
export interface Held {
  label: string
  prepared: Prepared
  unheard: readonly Mapping[]
}

export const useHeldStore = defineStore('held', () => {
  const rigs = useRigStore()
  const current = shallowRef<Held | null>(null)

  const hold = (label: string, prepared: Prepared, unheard: readonly Mapping[]): void => {
    current.value = { label, prepared, unheard }
  }
  const drop = (): void => {
    current.value = null
  }
  /** Make it after all. */
  function make(): void {
    const now = current.value
    drop()
    if (now) rigs.commit(now.prepared)
  }
  // It was worked out for the rig as it was.
  watch(() => rigs.revision, drop, { flush: 'sync' })

  return { current, hold, drop, make }
})
