import type { Order } from '~/workers/player'
import type { FromPlayer, News, Outs } from '~/workers/player-news'

/** The rig as it is played, in a worker of its own: orders go there, news come back in order. */
export interface PlayedAway {
  order: (order: Order) => void
}

interface Around {
  /** What has become of it, once a picture at most. */
  heard: (news: readonly News[]) => void
  /** What leaves by real ports, at once. */
  send: (outs: Outs) => void
  /** The worker has broken: nothing more comes from it. */
  failed: (why: string) => void
}

/** A page that is hidden draws no picture: then news wait so long, in ms. */
const HIDDEN_MS = 50

/** What real controllers send crosses together, so often, in ms: a message is small, and each crossing costs. */
const GATHERED_MS = 4

/** Start a worker that plays. */
export function playAway({ heard, send, failed }: Around): PlayedAway {
  const worker = new Worker(new URL('../../workers/player.worker.ts', import.meta.url), { type: 'module' })
  let waiting: News[] = []
  let frame = 0
  let timer: ReturnType<typeof setTimeout> | undefined
  function tell(): void {
    cancelAnimationFrame(frame)
    clearTimeout(timer)
    const all = waiting
    waiting = []
    heard(all)
  }
  worker.addEventListener('message', ({ data }: MessageEvent<FromPlayer>) => {
    if (data.kind === 'outs') return send(data.outs)
    waiting.push(data.news)
    if (waiting.length > 1) return
    frame = requestAnimationFrame(tell)
    timer = setTimeout(tell, HIDDEN_MS)
  })
  worker.addEventListener('error', (event) => {
    event.preventDefault()
    worker.terminate()
    failed(event.message || 'It could not start.')
  })
  let orders: Order[] = []
  let soon: ReturnType<typeof setTimeout> | undefined
  function give(): void {
    clearTimeout(soon)
    soon = undefined
    worker.postMessage(orders)
    orders = []
  }
  return {
    order: (order) => {
      orders.push(order)
      if (order.kind !== 'hear') give()
      else soon ??= setTimeout(give, GATHERED_MS)
    },
  }
}
