import { expect, it } from 'vitest'
import { startPage } from '../e2e/support/page'
import { MIDI_STAND_IN } from '../e2e/support/midi-stand-in'
import { measure } from './desk-work'

const [SECONDS, A_SECOND] = [60, 3000]
const FRAME_MS = 1000 / 60

/** Eight faders of two messages each, up and down; sent as a port delivers them, a message at a time. */
const FLOOD = `
  const [seconds, aSecond, done] = arguments
  const frames = []
  const heap = () => performance.memory.usedJSHeapSize
  let [sent, last, began] = [0, performance.now(), performance.now()]
  const [heapAt, heaps] = [10, []]
  const frame = (now) => {
    frames.push(now - last)
    last = now
    if (now - began < seconds * 1000) requestAnimationFrame(frame)
  }
  requestAnimationFrame((now) => { last = now; requestAnimationFrame(frame) })
  const timer = setInterval(() => {
    const now = performance.now()
    const due = Math.min(seconds * aSecond, Math.floor(((now - began) / 1000) * aSecond))
    while (sent + 1 < due) {
      const step = sent / 2
      const fader = step % 8
      const at = Math.abs((Math.floor(step / 8) * 97) % 32766 - 16383)
      midi.deliver('in-1', [0xb0, 16 + fader, at >> 7], [0xb0, 48 + fader, at & 127])
      sent += 2
    }
    if (heaps.length < Math.floor((now - began) / 10000)) heaps.push(heap())
    if (sent + 1 >= seconds * aSecond) {
      clearInterval(timer)
      setTimeout(() => {
        frames.sort((a, b) => a - b)
        done({ sent, frames: frames.length, median: frames[frames.length >> 1], p95: frames[Math.floor(frames.length * 0.95)], worst: frames.at(-1), heaps })
      }, 500)
    }
  }, 4)`

it(`${A_SECOND} messages a second for ${SECONDS} s from a port, and a hand to a parameter painted`, async () => {
  const page = await startPage()
  try {
    await page.atEveryLoad(MIDI_STAND_IN)
    await page.go('/bench')
    await page.find('[data-testid=bench-surface]')
    const fader = await measure(page, {
      name: 'hand to parameter',
      times: 60,
      script: `
        const area = document.querySelector('[data-testid=bench-surface] [data-control=fader-1]')
        const { x, y, width, height } = area.getBoundingClientRect()
        window.__turn = (window.__turn ?? 0) + 1
        const at = (kind, up) => area.dispatchEvent(new PointerEvent(kind, { pointerId: 7, bubbles: true, clientX: x + width / 2, clientY: y + height / 2 - up }))
        Element.prototype.setPointerCapture = () => undefined
        at('pointerdown', 0); at('pointermove', 10 + (window.__turn % 30)); at('pointerup', 10 + (window.__turn % 30))`,
    })
    await page.click('[data-side=ports]')
    await page.click('[data-testid=ask-ports]')
    await page.run(`midi.plug('in-1', 'Desk in', 'input')`)
    await page.click('[data-port="syzra/usb"] button')
    await page.press('Desk in')
    await page.waitFor('it to be heard', async () => page.run(`return midi.isHeard('in-1')`))
    await page.click('[data-side=moves]')
    await page.press('Clear')
    await page.driver.manage().setTimeouts({ script: (SECONDS + 30) * 1000 })
    const found = (await page.runAsync(FLOOD, SECONDS, A_SECOND)) as any
    const text = await page.text('[data-testid=tape-count]')
    // Two messages are one value of a 14-bit pair.
    const heard = Number(/[\d,]+/.exec(text)?.[0].replaceAll(',', '')) * 2
    console.log(
      [
        `Hand to parameter painted, work of its frame: median ${fader.median.toFixed(1)} ms, 95th percentile ${fader.p95.toFixed(1)} ms (figure: two frames, ${(2 * FRAME_MS).toFixed(0)} ms)`,
        `${found.sent} messages in ${SECONDS} s: ${found.sent - heard} lost (figure: 0)`,
        `Frames: ${found.frames}, median ${found.median.toFixed(1)} ms, 95th percentile ${found.p95.toFixed(1)} ms (figure: 33), worst ${found.worst.toFixed(0)} ms`,
        `Memory every 10 s: ${found.heaps.map((bytes: number) => `${(bytes / 1e6).toFixed(0)} MB`).join(', ')}`,
      ].join('\n'),
    )
    expect(found.sent).toBe(SECONDS * A_SECOND)
  } finally {
    await page.end()
  }
}, 300_000)
