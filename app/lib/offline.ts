import { toast } from './toast'

let isChangingOver = false

/** Change over to a new version of the application, once every edit is kept. */
async function changeOver(waiting: ServiceWorker, settled: () => Promise<void>): Promise<void> {
  await settled()
  isChangingOver = true
  navigator.serviceWorker.addEventListener('controllerchange', () => location.reload(), { once: true })
  waiting.postMessage({ type: 'SKIP_WAITING' })
}

/**
 * Keep the application in this browser, so that it works with no network and no server. A newer one is offered when it has come, and
 * taken only when the player says so.
 *
 * @param settled When every edit is written.
 */
export async function keepForOffline(settled: () => Promise<void>): Promise<void> {
  if (import.meta.dev || !('serviceWorker' in navigator)) return
  try {
    const registration = await navigator.serviceWorker.register('/sw.js')
    const offer = (): void => {
      const { waiting } = registration
      // The first one is no news.
      if (!waiting || !navigator.serviceWorker.controller) return
      toast('A newer Deft Lattice is here. Your rigs stay as they are.', {
        duration: Infinity,
        action: { label: 'Change over', onClick: () => void changeOver(waiting, settled) },
      })
    }
    offer()
    navigator.serviceWorker.addEventListener('controllerchange', () => {
      if (isChangingOver) return
      toast('Another tab has changed over to a newer Deft Lattice. Reload this one when it suits you.', {
        duration: Infinity,
        action: { label: 'Reload', onClick: () => void settled().then(() => location.reload()) },
      })
    })
    registration.addEventListener('updatefound', () => {
      const { installing } = registration
      installing?.addEventListener('statechange', () => {
        if (installing.state === 'installed') offer()
      })
    })
  } catch (error) {
    console.error('The browser does not keep the application for use without a network.', error)
  }
}
