import { defineStore } from 'pinia'

/** What is being added to the rig by its dialog: the same from every view. */
export const useAddingStore = defineStore('adding', () => {
  const what = ref<'controller' | 'destination' | null>(null)
  const close = (): void => {
    what.value = null
  }
  return { what, close }
})
