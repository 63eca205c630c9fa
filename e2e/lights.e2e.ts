import { parseMidi } from 'midi-file'
import { beforeEach, describe, expect, it } from 'vitest'
import { idsFrom, Key, usePage } from './support/page'
import { AS_PERFORMED } from './support/rigs'

const page = usePage()
beforeEach(async () => {
  await page.open('/desk', AS_PERFORMED)
  await page.press('Pelluna')
  await page.find('[data-control=pad-1]')
  await page.click('[data-lens=lights]')
  await page.find('[data-testid=lights]')
})

const ALERT = '[data-testid=lights] [role=alert]'
const pads = (from: number, to: number): string[] => idsFrom('pad', from, to)
/** The colour in which the light of a control is drawn. */
const colourOf = (id: string): Promise<string> =>
  page.run(`return getComputedStyle(document.querySelector('[data-control="${id}"] path.body')).fill`)
const patternIn = (css: string): Promise<string | null> => page.attribute(css, 'd')
const tab = (id: string): Promise<void> => page.click(`[data-testid=lights] [data-tab=${id}]`)
async function shows(words: string): Promise<void> {
  await page.click('[data-testid=lights] button[aria-label^="The surface shows"]')
  await page.press(words)
}
/** Make a new role, which is Role 5 or more, and give it to lights in every layer. */
async function give(role: number, ids: readonly string[]): Promise<void> {
  await page.select(...ids)
  await page.click(`[data-role="role-${role}"] [data-testid=give-role]`)
}

describe('lights', () => {
  it('roles in three layers have patterns too; the page warns of roles that look alike, and chooses colours that do not', async () => {
    await page.click('[data-tool=templates]')
    await page.click('[data-testid=add-layer]')
    await page.click('[data-tool=templates]')
    for (const role of [5, 6, 7, 8]) {
      await page.click('[data-testid=add-role]')
      await page.find(`[data-role="role-${role}"]`)
    }
    await page.click('[data-testid=every-layer]')
    for (const role of [5, 6, 7, 8]) {
      await give(role, pads((role - 5) * 9 + 1, (role - 4) * 9))
      await page.says(`[data-role="role-${role}"]`, 'on 27')
    }
    const [five, six] = [
      await patternIn('[data-role="role-5"] svg path'),
      await patternIn('[data-role="role-6"] svg path'),
    ]
    expect(five).not.toBe(six)
    expect(await patternIn('[data-control="pad-1"] path.pattern')).toBe(five)
    expect(await patternIn('[data-control="pad-10"] path.pattern')).toBe(six)

    await page.says('[data-testid=alike]', 'look alike')
    await page.click('[data-testid=choose-colours]')
    await page.says('[data-sonner-toaster]', 'no choice does better')
    await page.waitFor('nothing alike as most see it', async () => {
      const said =
        (await page.count('[data-testid=alike]')) === 0 ? '' : await page.text('[data-testid=alike]')
      return !/look alike( when \w+)?\.(?! for)/.test(
        said.replaceAll(/look alike[^.]* for those[^.]*\./g, ''),
      )
    })
    await page.canUndo('Choose the colours of 8 roles')
  })

  it('one of many is bright, the others as they start; a letter that is taken is refused', async () => {
    await page.click('[data-testid=add-role]')
    await page.find('[data-role="role-5"]')
    await page.find('[data-testid=light-way]').then((field) => field.sendKeys('one of many'))
    await give(5, pads(1, 9))
    await page.canUndo('Give 9 lights the role Role 5')
    await page.select('pad-3')
    const before = await colourOf('pad-3')
    expect(before).toBe(await colourOf('pad-4'))
    await shows('the selected ones active')
    await page.waitFor('one bright', async () => (await colourOf('pad-3')) !== before)
    await expect.poll(() => colourOf('pad-4')).toBe(before)
    await shows('at the start')
    await page.waitFor('as before', async () => (await colourOf('pad-3')) === before)

    await tab('roles')
    const letter = '[data-role="role-5"] [aria-label=Letter]'
    await page.type(letter, 'D', Key.ENTER)
    await page.says('[data-sonner-toaster]', 'stands for “Drum” already')
    await expect.poll(() => page.value(letter)).not.toBe('D')
  })

  it('every message that sets them at the start is counted, and the files read back', async () => {
    await tab('light-init')
    await page.says('[data-testid=light-init-count]', /^42 messages, 126 bytes/)
    await page.click('[data-testid=light-init-text]')
    const lines = (await page.downloaded('.txt')).trim().split('\n')
    expect(lines).toHaveLength(42)
    await page.click('[data-testid=light-init-midi]')
    const file = await page.downloadedBytes('.mid')
    const events = (parseMidi(file).tracks[0] ?? []).flatMap((event) =>
      event.type === 'controller' ? [[0xb0 | event.channel, event.controllerType, event.value]] : [],
    )
    const hex = (byte: number): string => byte.toString(16).padStart(2, '0').toUpperCase()
    expect(events.map((bytes) => bytes.map(hex).join(' '))).toEqual(lines.map((line) => line.slice(0, 8)))
    // Notes and controllers are no SysEx: there is no such file of them.
    await page.counts('[data-testid=light-init-raw]', 0)

    await page.press('Sheets')
    await page.click('[data-sheet=lights]')
    await page.reads('[data-testid=sheet] h1', 'Light key')
    await page.click('[data-export=csv]')
    expect(await page.downloaded('.csv')).toMatch(/Pelluna 36: pad,D,Drum,[a-z]+,off/)
  })

  it('a palette is pasted; a bad one is refused with its line, and the old one stays', async () => {
    await tab('palette')
    await page.press('Paste a list')
    const paste = async (text: string): Promise<void> => {
      await page.find('[data-testid=palette-text]')
      await page.run(
        `const field = document.querySelector('[data-testid=palette-text]')
         field.value = arguments[0]
         field.dispatchEvent(new Event('change', { bubbles: true }))`,
        text,
      )
    }
    await paste('1,#ff0000,Red\n1,#00ff00,Green')
    await page.says(ALERT, 'Line 2: number 1 stands here')
    await paste('1,reddish,Red')
    await page.says(ALERT, '“reddish” is no colour')
    await page.counts('[data-testid=palette] li', 48)
    await paste('Number,Colour,Name\n0,#000000,Dark\n5,f80,Orange')
    await page.counts('[data-testid=palette] li', 2)
    await page.undo('What the lights can do')
    await page.counts('[data-testid=palette] li', 48)
  })
})
