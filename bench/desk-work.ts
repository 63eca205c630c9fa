import type { Rig } from '../core/rig'
import { startPage, type Page } from '../e2e/support/page'

/** What is measured: something done to the page, many times over. */
interface Act {
  name: string
  times: number
  /** JavaScript that does it once; `n` counts up from 0. */
  script: string
  /** JavaScript done once before. */
  before?: string
}

export interface Measured {
  name: string
  median: number
  p95: number
}

/** Between one act and the next, so that the analysis of one does not fall into the frame of another. */
const PAUSE_MS = 400
/** Acts before those that count: the first ones wait for the browser to compile what they run. An even number. */
const WARM_UP = 6

/**
 * The work of one frame (ms): from the event, given at the start of a frame, through script, style, layout
 * and paint, to the first task after that frame. Waiting for the display's tick is left out.
 */
export async function measure(page: Page, { name, times, script, before = '' }: Act): Promise<Measured> {
  const taken = await page.runAsync<number[]>(`
    const done = arguments[arguments.length - 1]
    const PAUSE_MS = ${PAUSE_MS}
    const at = (control) => document.querySelector('[data-control="' + control + '"]')
    const taken = []
    const channel = new MessageChannel()
    const act = (n) => { ${script} }
    ;(() => { ${before} })()
    let n = 0
    let started = 0
    channel.port1.onmessage = () => {
      if (n >= ${WARM_UP}) taken.push(performance.now() - started)
      n++
      if (n < ${times + WARM_UP}) setTimeout(next, PAUSE_MS)
      else done(taken)
    }
    const next = () => requestAnimationFrame(() => {
      started = performance.now()
      act(n)
      channel.port2.postMessage(null)
    })
    setTimeout(next, 300)`)
  const sorted = taken.toSorted((a, b) => a - b)
  const at = (part: number): number =>
    sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * part))] ?? 0
  return { name, median: at(0.5), p95: at(0.95) }
}

/** One word that changes, and nothing else: what the machine itself takes for a frame. */
export const ONE_WORD = {
  name: 'for comparison: one word changes',
  times: 60,
  script: `document.querySelector('[data-control] text').textContent = 'word ' + n`,
}

const CLICK = `.dispatchEvent(new MouseEvent('click', { bubbles: true, cancelable: true`
const DRAG = `
  const target = at('pad-5')
  const box = target.getBoundingClientRect()
  const where = (by) => ({ bubbles: true, cancelable: true, pointerId: 1, isPrimary: true, button: 0, buttons: 1,
    clientX: box.left + box.width / 2 + by, clientY: box.top + box.height / 2 + by })`

const command = (key: string): string =>
  `window.dispatchEvent(new KeyboardEvent('keydown', { key: '${key}', ctrlKey: true, bubbles: true }))`
const UNDO = command('z')
const REDO = command('y')

/** Selecting, bulk edits and dragging on a surface whose pads are called pad-1, pad-2 … */
export async function measureDesk(rig: Rig, controls: number): Promise<Measured[]> {
  const page = await startPage()
  try {
    await page.open('/desk', rig)
    await page.find(`[data-control=pad-${controls}]`)
    const found: Measured[] = [await measure(page, ONE_WORD)]
    found.push(
      await measure(page, {
        name: 'select one control',
        times: 60,
        script: `at('pad-' + (1 + (n * 37) % ${controls}))${CLICK} }))`,
      }),
    )
    found.push(
      await measure(page, {
        name: 'add one more to the selection',
        times: 40,
        script: `at('pad-' + (2 + (n * 7) % ${controls - 1}))${CLICK}, shiftKey: true }))`,
      }),
    )
    await page.run(`document.querySelector('[data-control=pad-1]')${CLICK} }))`)
    await page.click('[data-tool=draw]')
    await page.click('[data-testid=whole-block]')
    await page.click('[data-tool=draw]')
    await page.find('[data-testid=many]')
    const pin = `[...document.querySelectorAll('[data-testid=many] button')]
      .find(({ textContent }) => /Pin|Unpin/.test(textContent)).click()`
    found.push(
      await measure(page, { name: `pin ${controls} controls in the layer shown`, times: 30, script: pin }),
    )
    // Off, and back by undo: what every control says changes, and comes back.
    const off = `if (n % 2) ${UNDO}
      else document.querySelector('[data-testid=turn-off]').click()`
    found.push(
      await measure(page, {
        name: `turn ${controls} controls off in the layer shown, and undo`,
        times: 30,
        script: off,
      }),
    )
    await page.click('[data-testid=all-layers]')
    found.push(
      await measure(page, {
        name: `turn ${controls} controls off in all layers, and undo`,
        times: 20,
        script: off,
      }),
    )
    found.push(
      await measure(page, {
        name: `pin ${controls} controls in all layers`,
        times: 20,
        script: pin,
      }),
    )
    found.push(
      await measure(page, {
        name: `undo and redo that`,
        times: 20,
        script: `n % 2 ? ${REDO} : ${UNDO}`,
      }),
    )
    await page.click('[data-tool=draw]')
    await page.find('[data-testid=draw-panel]')
    await page.run(`document.querySelector('[data-control=pad-5]')${CLICK} }))`)
    found.push(
      await measure(page, {
        name: 'drag one control, one move',
        times: 60,
        before: `${DRAG}
          window.moveTo = (by) => document.dispatchEvent(new PointerEvent('pointermove', where(by)))
          target.dispatchEvent(new PointerEvent('pointerdown', where(0)))`,
        script: `moveTo(4 + n)`,
      }),
    )
    return found
  } finally {
    await page.end()
  }
}
