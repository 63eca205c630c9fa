import { describe, expect, it } from 'vitest'
import { check } from '../core/conflicts'
import { readRig } from '../core/rig/parse'
import { By, Key, usePage } from './support/page'

const MOST_ACTIONS = 60

const page = usePage()
let actions = 0

/** The rig as it is exported has no error, eight joined faders and eight joined knobs. */
async function expectFinished(): Promise<void> {
  const read = readRig(await page.exported())
  if (!read.ok) throw new Error(read.problems[0]?.message)
  const { rig } = read
  expect(check(rig).findings.filter(({ severity }) => severity === 'error')).toEqual([])
  const [daw, synth] = rig.destinations
  const moved = (id: string | undefined, control: string): number =>
    rig.mappings.filter(({ destination, gesture }) => destination === id && gesture?.includes(`/${control}-`))
      .length
  expect([moved(daw?.id, 'fader'), moved(synth?.id, 'knob')]).toEqual([8, 8])
  const volumes = rig.mappings
    .filter(({ destination }) => destination === daw?.id)
    .map(({ parameter }) => daw?.parameters.find(({ id }) => id === parameter))
  expect(volumes.map((each) => each?.name)).toEqual(Array.from({ length: 8 }, () => 'Volume'))
  expect(new Set(volumes.map((each) => each?.path.join())).size).toBe(8)
}

describe('from an empty rig to a finished map, by mouse', () => {
  const click = async (css: string): Promise<void> => {
    actions++
    await page.click(css)
  }
  const press = async (words: string): Promise<void> => {
    actions++
    await page.press(words)
  }
  const type = async (css: string, text: string): Promise<void> => {
    actions++
    await (await page.find(css)).sendKeys(text)
  }
  const clickTo = async (css: string): Promise<void> => {
    actions++
    const element = await page.find(css)
    await page.driver.actions().keyDown(Key.SHIFT).click(element).keyUp(Key.SHIFT).perform()
  }
  const items = async (): Promise<string[]> =>
    page.run(
      `return [...document.querySelectorAll('[data-board-item]')].map((item) => item.dataset.boardItem)`,
    )
  const step = (id: string) => page.find(`[data-step=${id}][data-done=true]`)

  it('with nothing but what the screens say, in fewer than sixty actions', async () => {
    actions = 0
    await page.open('/desk')
    await page.find('[data-testid=surface]')
    await click('[data-testid=rig-menu]')
    await click('[data-testid=new-rig]')
    await press('Add a controller')
    await click('[data-testid=add-another]')
    await click('[data-starter=knob-box]')
    await press('Add it')
    await step('controllers')
    await step('numbers')
    // What is sent can be seen before anything hears it.
    await page.says('section[aria-label=Lattice]', 'heard by nobody yet')
    await click('[data-testid=first-destination]')
    await click('[data-testid=add-another]')
    await click('[data-starter=synth]')
    await press('Add it')
    await step('destinations')
    await press('from all, through a merge box')
    await step('cables')
    await click('[data-testid=first-join]')

    await press('Mixer strip box')
    await click('[data-control=fader-1]')
    await click('[data-testid=whole-row]')
    await type('[data-testid=board-search]', 'track volume')
    await page.waitFor('eight volumes', async () => (await items()).length === 8)
    const volumes = await items()
    await click(`[data-board-item="${volumes[0]}"]`)
    await clickTo(`[data-board-item="${volumes[7]}"]`)
    await click('[data-testid=join-now]')
    await page.canUndo('Join 8 controls to DAW')

    await press('Knob box')
    await click('[data-control=knob-1]')
    await click('[data-testid=whole-row]')
    await click('[data-testid=board] button[aria-label^="Destination"]')
    await press('Synth')
    await page.says('[data-testid=board]', 'Oscillator 1')
    const parameters = await items()
    await click(`[data-board-item="${parameters[0]}"]`)
    await clickTo(`[data-board-item="${parameters[7]}"]`)
    await click('[data-testid=join-now]')
    await page.canUndo('Join 8 controls to Synth')

    await press('Sheets')
    await page.find('[data-testid=sheet]')
    await press('CSV')
    expect(await page.downloaded('.csv')).toContain('Track 8')
    expect(actions).toBeLessThan(MOST_ACTIONS)
    await page.press('Desk')
    await page.find('[data-testid=surface]')
    await expectFinished()
    expect(await page.driver.findElements(By.css('[data-testid=first-steps]'))).toEqual([])
  })
})

describe('the same by keyboard alone', () => {
  const MOST_TABS = 80
  const hasFocus = (css: string): Promise<boolean> => page.hasFocus(css)
  const waitForFocus = (css: string): Promise<void> => page.focused(css)
  /** Keys that are struck with one thing in mind are one action; so is a walk by Tab or arrows to one place. */
  const strike = async (...keys: string[]): Promise<void> => {
    actions++
    await page.keys(...keys)
  }
  async function tabTo(css: string): Promise<void> {
    actions++
    for (let n = 0; n < MOST_TABS; n++) {
      if (await hasFocus(css)) return
      await page.keys(Key.TAB)
    }
    throw new Error(`${css} is more than ${MOST_TABS} tabs away.`)
  }
  async function command(words: string): Promise<void> {
    actions++
    await page.keys(Key.chord(Key.CONTROL, 'k'))
    await waitForFocus('[data-testid=command-box] input')
    await page.keys(words)
    await page.waitFor(words, async () => (await page.count('[data-hit=command]')) === 1)
    await page.keys(Key.ENTER)
    await page.counts('[data-testid=command-box]', 0)
  }
  async function add(what: string, starter: string): Promise<void> {
    await command(`Add a ${what}`)
    await page.find(`[data-testid=new-${what}]`)
    await tabTo(`[data-starter=${starter}]`)
    await strike(Key.SPACE)
    await tabTo('[role=dialog] input[maxlength]')
    await strike(Key.ENTER)
    await page.counts('[role=dialog]', 0)
  }
  /** Select the row of the first control of the surface. */
  async function firstRow(control: string): Promise<void> {
    await tabTo('[data-control]')
    actions++
    for (let n = 0; n < 10 && !(await hasFocus(`[data-control=${control}]`)); n++)
      await page.keys(Key.ARROW_DOWN)
    await strike(Key.SPACE)
    await command('Select its row')
  }
  async function joinAll(search: string, count: number, undo: string): Promise<void> {
    await tabTo('[data-testid=board-search]')
    await strike(Key.chord(Key.CONTROL, 'a'), search)
    await page.waitFor(`${count} found`, async () => (await page.count('[data-board-item]')) === count)
    await tabTo('[data-testid=board-list]')
    await strike(Key.chord(Key.CONTROL, 'a'))
    await strike(Key.ENTER)
    await page.find(`button[aria-label^="Undo: ${undo}"]`)
  }

  it('in fewer than sixty actions', async () => {
    actions = 0
    await page.open('/desk')
    await page.find('[data-testid=surface]')
    await command('New rig')
    await page.find('main h2')
    await add('controller', 'mixer-box')
    await add('controller', 'knob-box')
    await add('destination', 'daw')
    await add('destination', 'synth')
    await page.find('[data-step=destinations][data-done=true]')
    await tabTo('[data-unjoined] button:last-of-type')
    await strike(Key.ENTER)
    await page.find('[data-step=cables][data-done=true]')
    await tabTo('[data-testid=first-join]')
    await strike(Key.ENTER)
    await page.find('[data-testid=board]')

    await firstRow('knob-1')
    await tabTo('[data-testid=board] button[aria-label^="Destination"]')
    await strike(Key.ENTER, 'Synth', Key.ENTER)
    await joinAll('oscillator', 8, 'Join 8 controls to Synth')

    await tabTo('[role=tab][data-controller]')
    await strike(Key.ENTER)
    await page.find('[data-control=fader-1]')
    await firstRow('fader-1')
    await tabTo('[data-testid=board] button[aria-label^="Destination"]')
    await strike(Key.ENTER, 'DAW', Key.ENTER)
    await joinAll('track volume', 8, 'Join 8 controls to DAW')

    await command('Go to Sheets')
    await page.find('[data-testid=sheet]')
    await tabTo('[data-export=csv]')
    await strike(Key.ENTER)
    expect(await page.downloaded('.csv')).toContain('Track 8')
    expect(actions).toBeLessThan(MOST_ACTIONS)
    await page.press('Desk')
    await page.find('[data-testid=surface]')
    await expectFinished()
  })
})
