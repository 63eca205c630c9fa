import type { Order } from '~/workers/player'
import type { News } from '~/workers/player-news'

/** The rig as it is played, in a worker of its own: orders go there, news come back in order. */
export interface PlayedAway {
  order: (order: Order) => void
  stop: () => void
}

/** Start a worker that plays. `failed` is told when it breaks: nothing more comes from it then. */
export function playAway(heard: (news: News) => void, failed: (why: string) => void): PlayedAway {
  const worker = new Worker(new URL('../../workers/player.worker.ts', import.meta.url), { type: 'module' })
  worker.addEventListener('message', ({ data }: MessageEvent<News>) => heard(data))
  worker.addEventListener('error', (event) => {
    event.preventDefault()
    worker.terminate()
    failed(event.message || 'It could not start.')
  })
  return { order: (order) => worker.postMessage(order), stop: () => worker.terminate() }
}
