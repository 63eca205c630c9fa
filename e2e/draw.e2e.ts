import { describe, expect, it } from 'vitest'
import { By, Key, usePage } from './support/page'

const page = usePage()

const count = (css: string, wanted: number): Promise<void> => page.counts(css, wanted)
const hasFocus = (css: string): Promise<boolean> => page.hasFocus(css)
const MOST_TABS = 60

describe('a controller drawn by keyboard alone', () => {
  /** Press Tab (or, backwards, Shift and Tab) until something has the focus, as a player without a mouse must. */
  async function tabTo(css: string, isBack = false): Promise<void> {
    for (let n = 0; n < MOST_TABS; n++) {
      if (await hasFocus(css)) return
      await page.keys(isBack ? Key.chord(Key.SHIFT, Key.TAB) : Key.TAB)
    }
    throw new Error(`${css} is more than ${MOST_TABS} tabs away.`)
  }
  const waitForFocus = (css: string): Promise<void> => page.focused(css)
  async function command(words: string): Promise<void> {
    await page.keys(Key.chord(Key.CONTROL, 'k'))
    await waitForFocus('[data-testid=command-box] input')
    await page.keys(words)
    await page.waitFor(words, async () => (await page.count('[data-hit=command]')) === 1)
    await page.keys(Key.ENTER)
    await count('[data-testid=command-box]', 0)
  }
  const replace = (text: string) => page.keys(Key.chord(Key.CONTROL, 'a'), text)

  async function add(kind: string, rows: number, columns: number): Promise<void> {
    await tabTo('#add-kind', true)
    await page.keys(kind)
    await tabTo('#add-rows')
    await replace(String(rows))
    await page.keys(Key.TAB)
    await replace(String(columns))
    await count('[data-testid=ghost]', rows * columns)
    await page.keys(Key.ENTER)
  }
  async function name(pattern: string): Promise<void> {
    await tabTo('[data-testid=name-pattern]', true)
    await replace(pattern)
    await page.keys(Key.ENTER)
  }

  it('adds 10 faders, 10 knobs, 12 pads, 5 buttons and one fader apart, named; walks, nudges, deletes and undoes', async () => {
    await page.step('10 faders, 10 knobs, 12 pads, 5 buttons and one fader apart, named', async () => {
      await page.open('/desk')
      await page.find('[data-testid=surface]')
      await command('New rig')
      await command('Add a controller')
      await page.find('[data-testid=new-controller]')
      for (let n = 0; n < 20; n++) {
        const at = await page.run<string>('return document.activeElement.textContent.trim()')
        if (at === 'Blank') break
        await page.keys(Key.TAB)
      }
      await page.keys(Key.SPACE)
      await tabTo('[data-testid=new-controller] input[maxlength]')
      await page.keys('Test box', Key.ENTER)
      await waitForFocus('#add-kind')
      await add('Faders', 1, 10)
      await count('[data-control]', 10)
      await name('Level {1}')
      await page.reads('[data-control=fader-10] .label', 'Level 10')
      for (const [kind, rows, columns, total] of [
        ['Knobs', 1, 10, 20],
        ['Pads', 3, 4, 32],
        ['Buttons', 1, 5, 37],
        ['Faders', 1, 1, 38],
      ] as const) {
        await tabTo('[data-testid=add-controls]')
        await add(kind, rows, columns)
        await count('[data-control]', total)
      }
      await name('Overall')
      const spoken = async () => (await page.find('[data-control=fader-11]')).getAttribute('aria-label')
      await page.waitFor('the name', async () => (await spoken())?.startsWith('Overall, fader') ?? false)
    })
    await page.step('walks the surface, nudges, deletes, and undoes it', async () => {
      await tabTo('[data-control]', true)
      await expect.poll(() => hasFocus('[data-control=fader-11]')).toBe(true)
      const x = (): Promise<number> =>
        page.run<number>(
          `return Number(document.querySelector('[data-control=fader-11] .reach').getAttribute('x'))`,
        )
      const before = await x()
      await page.keys(Key.chord(Key.ALT, Key.SHIFT, Key.ARROW_RIGHT))
      await page.waitFor('a nudge', async () => (await x()) > before)
      await page.keys(Key.DELETE)
      await count('[data-control]', 37)
      await page.keys(Key.chord(Key.CONTROL, 'z'))
      await count('[data-control]', 38)
    })
  })
})

describe('zoom and pan', () => {
  const surfaceWidth = async (): Promise<number> =>
    Number(await (await page.find('[data-testid=surface]')).getAttribute('width'))
  const wheel = (by: number) =>
    page.run(
      `const region = document.querySelector('[data-testid=surface]').parentElement
       const box = region.getBoundingClientRect()
       region.dispatchEvent(new WheelEvent('wheel', { ctrlKey: true, deltaY: arguments[0], bubbles: true,
         cancelable: true, clientX: box.left + 10, clientY: box.top + 10 }))`,
      by,
    )

  it('Control with the wheel zooms in, Space and a drag pans, fit shows all again', async () => {
    await page.open('/desk')
    const whole = await surfaceWidth()
    await wheel(-600)
    await page.waitFor('zoom', async () => (await surfaceWidth()) > whole * 2)
    const region = await (await page.find('[data-testid=surface]')).findElement(By.xpath('..'))
    const scrolled = (): Promise<number> =>
      page.run<number>(`return document.querySelector('[data-testid=surface]').parentElement.scrollTop`)
    const before = await scrolled()
    await page.run('document.activeElement.blur()')
    await page.driver
      .actions()
      .keyDown(Key.SPACE)
      .move({ origin: region, x: 60, y: 40 })
      .press()
      .move({ origin: 'pointer' as never, x: 0, y: -80 })
      .release()
      .keyUp(Key.SPACE)
      .perform()
    await page.waitFor('pan', async () => (await scrolled()) > before)
    await page.click('[aria-label^="Fit"]')
    const isWhole = (): Promise<boolean> =>
      page.run<boolean>(
        `const drawing = document.querySelector('[data-testid=surface]')
         const region = drawing.parentElement
         return drawing.clientWidth <= region.clientWidth && drawing.clientHeight <= region.clientHeight
           && region.scrollTop === 0`,
      )
    await page.waitFor('all of it', isWhole)
    await wheel(600)
    await expect.poll(isWhole).toBe(true)
  })
})
