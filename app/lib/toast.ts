import { ref } from 'vue'
import type { ExternalToast } from 'vue-sonner'

/** Should the place where notices appear be there? It is fetched with the first of them. */
export const isToastWanted = ref(false)

let hostIsReady: () => void = () => undefined
const host = new Promise<void>((resolve) => {
  hostIsReady = resolve
})
/** The place where notices appear is there: those that wait are shown. */
export const toastHostMounted = (): void => hostIsReady()

type Look = 'plain' | 'error'
async function show(look: Look, text: string, options?: ExternalToast): Promise<void> {
  isToastWanted.value = true
  const [{ toast: sonner }] = await Promise.all([import('vue-sonner'), host])
  if (look === 'error') sonner.error(text, options)
  else sonner(text, options)
}

/** A short notice at the foot of the page. */
export const toast = (text: string, options?: ExternalToast): void => void show('plain', text, options)
toast.error = (text: string, options?: ExternalToast): void => void show('error', text, options)
