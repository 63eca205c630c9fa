import { createPlayer, type Order } from './player'

const play = createPlayer({
  tell: (news) => postMessage(news),
  after: (ms, does) => setTimeout(does, ms),
  now: () => performance.now(),
})
addEventListener('message', ({ data }: MessageEvent<Order>) => play(data))
