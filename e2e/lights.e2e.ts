import { parseMidi } from 'midi-file'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { idsFrom, Key, openPerformed, selectControls, setField, startSession, type Session } from './browser'

let page: Session
beforeAll(async () => {
  page = await startSession()
  await page.go('/desk')
  await page.find('[data-testid=surface]')
  await openPerformed(page)
  await page.press('Pelluna')
  await page.find('[data-control=pad-1]')
  await page.click('[data-lens=lights]')
  await page.find('[data-testid=lights]')
})
afterAll(() => page.quit())

const select = (...ids: string[]) => selectControls(page, ids)
const pads = (from: number, to: number): string[] => idsFrom('pad', from, to)
/** The colour in which the light of a control is drawn. */
const colourOf = (id: string): Promise<string> =>
  page.driver.executeScript<string>(
    `return getComputedStyle(document.querySelector('[data-control="' + arguments[0] + '"] path.body')).fill`,
    id,
  )
const look = async (words: string): Promise<void> => {
  await page.click('[data-testid=lights] button[aria-label^="The surface shows"]')
  await page.press(words)
}
const tab = (id: string) => page.click(`[data-testid=lights] [data-tab=${id}]`)

describe('lights', () => {
  it('roles are made and given to a grid over three layers', async () => {
    await page.click('[data-tool=templates]')
    await page.click('[data-testid=add-layer]')
    await page.click('[data-tool=templates]')
    for (const number of [5, 6, 7, 8]) {
      await page.click('[data-testid=add-role]')
      await page.find(`[data-role="role-${number}"]`)
    }
    await page.click('[data-testid=every-layer]')
    for (const number of [5, 6, 7, 8]) {
      await select(...pads((number - 5) * 9 + 1, (number - 4) * 9))
      await page.click(`[data-role="role-${number}"] [data-testid=give-role]`)
      await page.waitFor('three layers', async () =>
        (await page.text(`[data-role="role-${number}"]`)).includes('on 27'),
      )
    }
  })

  it('a role is told by a pattern too, on its controls and in the list', async () => {
    const patterns = await page.driver.executeScript<string[]>(
      `return ['[data-control="pad-1"] path.pattern', '[data-control="pad-10"] path.pattern', '[data-role="role-5"] svg path', '[data-role="role-6"] svg path']
        .map((css) => document.querySelector(css)?.getAttribute('d') ?? '')`,
    )
    expect(patterns[0]).not.toBe('')
    expect(patterns[0]).not.toBe(patterns[1])
    expect(patterns.slice(2)).toEqual(patterns.slice(0, 2))
  })

  it('two roles that look alike are seen, and cured by choosing colours', async () => {
    await page.waitFor('the warning', async () =>
      (await page.text('[data-testid=alike]')).includes('look alike'),
    )
    await page.click('[data-testid=choose-colours]')
    await page.waitFor('the choice', async () =>
      (await page.text('[data-sonner-toaster]')).includes('no choice does better'),
    )
    await page.waitFor('nothing alike as most see it', async () => {
      const said =
        (await page.count('[data-testid=alike]')) === 0 ? '' : await page.text('[data-testid=alike]')
      return !/look alike( when \w+)?\.(?! for)/.test(
        said.replaceAll(/look alike[^.]* for those[^.]*\./g, ''),
      )
    })
    await page.find('button[aria-label^="Undo: Choose the colours of 8 roles"]')
  })

  it('one of many is bright, the others as they start', async () => {
    await select(...pads(1, 9))
    await (await page.find('[data-testid=light-way]')).sendKeys('one of many')
    await page.click('[data-role="role-5"] [data-testid=give-role]')
    await page.find('button[aria-label^="Undo: Give 27 lights the role Role 5"]')
    await select('pad-3')
    const before = await colourOf('pad-3')
    expect(before).toBe(await colourOf('pad-4'))
    await look('the selected ones active')
    await page.waitFor('one bright', async () => (await colourOf('pad-3')) !== before)
    await expect.poll(() => colourOf('pad-4')).toBe(before)
    await look('at the start')
    await page.waitFor('as before', async () => (await colourOf('pad-3')) === before)
  })

  it('every message that sets them at the start is counted, and the file reads back', async () => {
    await tab('light-init')
    await page.waitFor('the count', async () =>
      (await page.text('[data-testid=light-init-count]')).startsWith('42 messages, 126 bytes'),
    )
    await page.click('[data-testid=light-init-text]')
    const lines = (await page.downloaded('.txt')).trim().split('\n')
    expect(lines).toHaveLength(42)
    await page.click('[data-testid=light-init-midi]')
    const file = await page.downloadedBytes('.mid')
    const events = (parseMidi(file).tracks[0] ?? []).flatMap((event) =>
      event.type === 'controller' ? [[0xb0 | event.channel, event.controllerType, event.value]] : [],
    )
    expect(
      events.map((bytes) => bytes.map((byte) => byte.toString(16).padStart(2, '0').toUpperCase()).join(' ')),
    ).toEqual(lines.map((line) => line.slice(0, 8)))
    // Notes and controllers are no SysEx: there is no such file of them.
    await expect.poll(() => page.count('[data-testid=light-init-raw]')).toBe(0)
  })

  it('a palette is pasted; a bad one is refused with its line, and the old one stays', async () => {
    await tab('palette')
    await page.press('Paste a list')
    const paste = (text: string) =>
      page.driver.executeScript(
        `const field = document.querySelector('[data-testid=palette-text]')
         field.value = arguments[0]
         field.dispatchEvent(new Event('change', { bubbles: true }))`,
        text,
      )
    await paste('1,#ff0000,Red\n1,#00ff00,Green')
    await page.waitFor('the refusal', async () =>
      (await page.text('[data-testid=lights] [role=alert]')).includes('Line 2: number 1 stands here'),
    )
    await paste('1,reddish,Red')
    await page.waitFor('the refusal', async () =>
      (await page.text('[data-testid=lights] [role=alert]')).includes('“reddish” is no colour'),
    )
    await expect.poll(() => page.count('[data-testid=palette] li')).toBe(48)
    await paste('Number,Colour,Name\n0,#000000,Dark\n5,f80,Orange')
    await page.waitFor('two colours', async () => (await page.count('[data-testid=palette] li')) === 2)
    await page.click('button[aria-label^="Undo: What the lights can do"]')
  })

  it('a letter that is taken is refused, and what was stays', async () => {
    await tab('roles')
    await setField(page, '[data-role="role-5"] [aria-label=Letter]', 'D', Key.ENTER)
    await page.waitFor('the refusal', async () =>
      (await page.text('[data-sonner-toaster]')).includes('stands for “Drum” already'),
    )
    await expect
      .poll(async () => (await page.find('[data-role="role-5"] [aria-label=Letter]')).getAttribute('value'))
      .not.toBe('D')
  })

  it('the light key names the palette numbers of every role', async () => {
    await page.press('Sheets')
    await page.click('[data-sheet=lights]')
    await page.waitFor(
      'the light key',
      async () => (await page.text('[data-testid=sheet] h1')) === 'Light key',
    )
    const text = await page.text('[data-testid=sheet]')
    expect(text).toContain('Pelluna 36: pad')
    expect(text).toContain('Role 5')
    await page.click('[data-export=csv]')
    expect(await page.downloaded('.csv')).toMatch(/Pelluna 36: pad,D,Drum,[a-z]+,off/)
  })

  it('logged no error on the way', async () => {
    expect(await page.errors()).toEqual([])
  })
})
