import { createPlayer, type Order } from './player'
import type { FromPlayer } from './player-news'

const post = (what: FromPlayer): void => postMessage(what)
const play = createPlayer({
  tell: (news) => post({ kind: 'news', news }),
  send: (outs) => post({ kind: 'outs', outs }),
  after: (ms, does) => setTimeout(does, ms),
  now: () => performance.now(),
})
addEventListener('message', ({ data }: MessageEvent<readonly Order[]>) => {
  for (const order of data) play(order)
})
