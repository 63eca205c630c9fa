import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Key, makePending, middleOf, openPerformed, setField, startSession, type Session } from './browser'

let page: Session
beforeAll(async () => {
  page = await startSession()
  await page.go('/rig')
  await page.find('[data-card=loomwright]')
})
afterAll(() => page.quit())

const findings = async (): Promise<number> =>
  Number.parseInt(await page.text('[data-testid=findings-count]'), 10)
const pickCable = async (from: string): Promise<void> => {
  await page.click(`[data-card=${from}] button`)
  await page.driver.executeScript(
    `[...document.querySelectorAll('[data-testid=controller-ports] button')]
       .find(({ title }) => title.startsWith('What the cable')).click()`,
  )
  await page.find('[data-testid=cable-panel]')
}

describe('the picture of the rig', () => {
  it('shows every device and cable of the demo', async () => {
    await expect.poll(() => page.count('[data-card]')).toBe(5 + 1 + 1 + 6)
    await expect.poll(() => page.count('.vue-flow__edge')).toBeGreaterThan(8)
    await expect.poll(() => page.text('[data-card=kettlow]')).toContain('takes all channels for one')
  })

  it('a rule on a cable changes what is found, and undo brings it back', async () => {
    const before = await page.waitFor('the findings', () => findings())
    await pickCable('pelluna')
    await page.click('[data-testid=add-rule]')
    // What it stops is mapped: the page asks first.
    await makePending(page)
    await page.waitFor('the rule', async () => (await page.text('[data-testid=rule]')) === 'stops CC')
    await page.click('button[aria-label^="Undo"]')
    await page.waitFor('the findings again', async () => (await findings()) === before)
  })

  it('a rewrite is written in words, and refused where it lands outside', async () => {
    await page.click('[data-testid=add-rule]')
    await makePending(page)
    await page.find('[data-testid=rule]')
    await page.driver.executeScript(`
      const set = (id, value) => {
        const field = document.querySelector(id)
        field.value = value
        field.dispatchEvent(new Event('change', { bubbles: true }))
      }
      set('#rule-does', 'rewrite')`)
    const type = (css: string, value: string): Promise<void> => setField(page, css, value, Key.TAB)
    await type('[data-testid=rule-low]', '20')
    await type('[data-testid=rule-high]', '27')
    await type('#rule-number', '102')
    await page.waitFor(
      'the words',
      async () => (await page.text('[data-testid=rule]')) === 'CC 20–27 becomes 102–109',
    )
    await type('#rule-number', '125')
    await page.waitFor('the reason', async () =>
      (await page.text('[data-sonner-toaster]')).includes('would land on 132'),
    )
    await expect.poll(() => page.text('[data-testid=rule]')).toBe('CC 20–27 becomes 102–109')
  })

  it('a destination is added, told what to hear and keep, and joined by dragging', async () => {
    await page.click('[data-testid=add-destination]')
    await page.click('[data-starter=synth]')
    await page.press('Add it')
    await page.waitFor('the notice beside the card it speaks of', () =>
      page.driver.executeScript<boolean>(
        `const notice = [...document.querySelectorAll('[data-sonner-toast]')]
           .find(({ textContent }) => textContent.includes('several ways to cable it'))
         const card = document.querySelector('[data-card=destination-1]')
         return Boolean(notice && card) && notice.getBoundingClientRect().right < card.getBoundingClientRect().left`,
      ),
    )
    const name = await page.find('[data-testid=destination-panel] input')
    await name.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Choir box', Key.ENTER)
    await page.press('only these')
    await page.click('[data-testid=add-claim]')
    await page.waitFor('its card', async () => {
      const cards = await page.driver.executeScript<string[]>(
        `return [...document.querySelectorAll('[data-card]')].map(({ textContent }) => textContent)`,
      )
      return cards.some(
        (text) =>
          /Choir box/.test(text) && /hears channel 1 only/.test(text) && /keeps CC 110–117/.test(text),
      )
    })
    const cables = await page.count('.vue-flow__edge')
    const { driver } = page
    const from = await middleOf(page, '[data-card=umbrek] .vue-flow__handle.source')
    // The picture moves while a cable is carried along its edge: where the port is then is seen at each step.
    const to = await page.find('[data-card=destination-1] .vue-flow__handle.target')
    await driver.actions({ async: true }).move(from).press().perform()
    await driver.actions({ async: true }).move({ origin: to }).perform()
    await driver.actions({ async: true }).move({ origin: to, x: 1, y: 1 }).release().perform()
    await page.waitFor('the cable', async () => (await page.count('.vue-flow__edge')) === cables + 1)
  })

  it('a card that is moved stays where it was put, until the picture is arranged anew', async () => {
    const topOf = (id: string): Promise<number> =>
      page.driver.executeScript(
        `return new DOMMatrix(getComputedStyle(document.querySelector(arguments[0]).closest('.vue-flow__node')).transform).f`,
        `[data-card=${id}]`,
      )
    const before = await topOf('corvel')
    const { x, y } = await middleOf(page, '[data-card=corvel] p')
    const { driver } = page
    await driver
      .actions({ async: true })
      .move({ x, y })
      .press()
      .move({ x, y: y + 30 })
      .perform()
    await driver
      .actions({ async: true })
      .move({ x, y: y + 60 })
      .release()
      .perform()
    await page.waitFor('the move', async () => (await topOf('corvel')) > before + 20)
    const moved = await topOf('corvel')
    await page.go('/rig')
    await page.find('[data-card=corvel]')
    await expect.poll(() => topOf('corvel')).toBeCloseTo(moved, 0)
    await page.click('[data-testid=arrange-anew]')
    await page.waitFor('its old place', async () => Math.abs((await topOf('corvel')) - before) < 1)
    await expect.poll(() => page.count('[data-testid=arrange-anew]')).toBe(0)
  })

  it('the same by keyboard: pick a card, join a port by the list', async () => {
    await page.driver.executeScript(`document.querySelector('[data-card=corvel] button').focus()`)
    await page.keys(Key.ENTER)
    const cables = await page.count('.vue-flow__edge')
    const select = await page.find('[data-testid=join-port]')
    await select.sendKeys('Choir')
    await page.waitFor('the cable', async () => (await page.count('.vue-flow__edge')) === cables + 1)
  })

  it('an old mapping that another control sets off is seen and cleared', async () => {
    await page.go('/desk')
    await page.find('[data-testid=lattice]')
    await page.click('[data-testid=findings-count]')
    const kinds = await page.find('[data-testid=rule-filter]')
    await kinds.sendKeys('Old mapping')
    await page.waitFor(
      'only ghosts',
      async () =>
        (await page.count('[data-testid=findings] [data-rule]')) > 0 &&
        (await page.count('[data-testid=findings] [data-rule]:not([data-rule=ghost])')) === 0,
    )
    await page.click('[data-control=enc-1]')
    await page.find('aside [data-rule=ghost] [data-fix=clear]')
    await expect.poll(() => page.text('aside')).toContain('Corvel 8, which is put away')
    const before = await findings()
    await page.click('aside [data-rule=ghost] [data-fix=clear]')
    await page.waitFor('one finding less', async () => (await findings()) === before - 1)
  })

  it('a finding is set aside with a reason, and brought back', async () => {
    await page.click('[data-testid=findings-count]')
    const before = await findings()
    await page.find('[data-testid=findings] [data-finding]')
    await page.click('[data-testid=findings] [data-testid=set-aside]')
    await page.keys('One of them is never on stage', Key.ENTER)
    await page.waitFor('one less', async () => (await findings()) === before - 1)
    await page.click('[data-part=aside]')
    await expect.poll(() => page.text('[data-testid=aside-list]')).toContain('never on stage')
    await page.press('Let it count again')
    await page.waitFor('all again', async () => (await findings()) === before)
  })

  it('all findings of a kind are cured at once, where that decides nothing', async () => {
    await page.click('[data-part=found]')
    const kinds = await page.find('[data-testid=rule-filter]')
    await kinds.sendKeys('Not heard')
    const before = await findings()
    await page.find('[data-testid=cure-all]')
    const kept = await page.count('[data-testid=findings] [data-rule=unheard]')
    expect(kept).toBeGreaterThan(0)
    await page.click('[data-testid=cure-all]')
    const left = (): Promise<number> => page.count('[data-testid=findings] [data-rule=unheard]')
    await page.waitFor('what can be cured to be cured', async () => (await left()) < kept)
    await page.click('button[aria-label^="Undo: Cure all"]')
    await page.waitFor('all back', async () => (await findings()) === before)
  })

  it('findings are walked by keys, grouped by controller, and a cure says what it would change', async () => {
    // The list still shows one kind only: the keys walk through those.
    for (let step = 0; step < 3; step++) {
      await page.driver.executeScript(`document.activeElement.blur()`)
      await page.driver.actions().sendKeys(']').perform()
      await page.find('[data-visited=true][data-rule=unheard]')
    }
    const kinds = await page.find('[data-testid=rule-filter]')
    await kinds.sendKeys('every kind')
    const order = await page.find('[data-testid=finding-order]')
    await order.sendKeys('by controller')
    await page.waitFor('headings', async () => (await page.text('[data-testid=findings] h3')).length > 0)
    await page.driver.executeScript(`document.activeElement.blur()`)
    const visited = async (): Promise<string | null> =>
      (await page.find('[data-visited=true]')).getAttribute('data-finding')
    await page.driver.actions().sendKeys(']').perform()
    const first = await visited()
    await page.driver.actions().sendKeys(']').perform()
    await page.waitFor('the next', async () => (await visited()) !== first)
    await page.driver.actions().sendKeys('[').perform()
    await page.waitFor('the one before', async () => (await visited()) === first)
    const again = await page.find('[data-testid=rule-filter]')
    await again.sendKeys('Same address')
    await page.driver.executeScript(`document.activeElement.blur()`)
    await page.driver.actions().sendKeys(']').perform()
    await page.find('[data-visited=true][data-rule=same-address] [data-fix=move]')
    await page.driver.executeScript(`document.querySelector('[data-visited=true] [data-fix=move]').focus()`)
    await page.waitFor('a preview', async () => (await page.text('[data-testid=fix-preview]')).includes('→'))
  })

  it('a ring of cables is shown in the picture, and broken by unplugging one', async () => {
    const kinds = await page.find('[data-testid=rule-filter]')
    await kinds.sendKeys('Round for ever')
    await page.find('[data-testid=findings] [data-rule=loop]')
    await page.click('[data-testid=findings] [data-rule=loop] [data-testid=show-in-rig]')
    await page.waitFor('the ring', async () => (await page.count('.vue-flow__edge.marked')) === 3)
    await page.find('[data-testid=cable-panel]')
    await page.go('/desk')
    await page.click('[data-testid=findings-count]')
    const before = await findings()
    const again = await page.find('[data-testid=rule-filter]')
    await again.sendKeys('Round for ever')
    await page.find('[data-testid=findings] [data-rule=loop]')
    await page.click('[data-testid=findings] [data-rule=loop] [data-fix=unplug]')
    await page.waitFor('no ring', async () => (await findings()) < before)
    await page.click('button[aria-label^="Undo: Unplug"]')
    await page.waitFor('as before', async () => (await findings()) === before)
  })

  it('sharing on purpose is declared, given its reason, and withdrawn', async () => {
    await page.go('/desk')
    await page.find('[role=tab]')
    await page.driver.executeScript(
      `[...document.querySelectorAll('[role=tab]')].find((tab) => tab.textContent.includes('Syzra')).click()`,
    )
    await page.click('[data-control=side-7]')
    const up = await page.find('[data-control=side-8]')
    await page.driver.actions().keyDown(Key.SHIFT).click(up).keyUp(Key.SHIFT).perform()
    const before = await findings()
    await page.click('[data-testid=findings-count]')
    await page.click('[data-part=shared]')
    await page.click('[data-testid=declare-accord]')
    await page.waitFor('fewer findings', async () => (await findings()) < before)
    const reason = await page.find('[data-accord]:last-of-type input[placeholder]')
    await reason.sendKeys('Down and up of one length', Key.ENTER)
    await page.find('button[aria-label^="Undo: Change “Sharing"]')
    await page.click('[data-accord]:last-of-type button')
    await page.waitFor('it counts again', async () => (await findings()) === before)
    await page.click('[data-part=found]')
  })

  it('a passage is added, says what shows, and what never shows together does not collide', async () => {
    await page.go('/rig')
    await page.find('[data-testid=passages]')
    await page.click('[data-passage=overture]')
    const knobs = await page.find('#shows-syzra-knobs')
    await knobs.sendKeys('none shows')
    await page.find('button[aria-label^="Undo: Change"], button[aria-label^="Undo"]:not([disabled])')
    await page.click('[data-testid=add-passage]')
    await page.waitFor('the fifth', async () => (await page.count('[data-passage]')) === 5)
    await page.go('/desk')
    await page.find('[data-testid=lattice]')
  })

  it('a run is dragged in the lattice, as one edit', async () => {
    await page.driver.executeScript(`localStorage.clear()`)
    await openPerformed(page)
    await page.click('[data-control=run-1]')
    await page.driver.executeScript(`
      for (const n of [2, 3]) document.querySelector('[data-control=run-' + n + ']')
        .dispatchEvent(new MouseEvent('click', { bubbles: true, cancelable: true, shiftKey: true }))`)
    const run = '[data-testid=lattice] [data-cell^="15:"][data-selected]'
    await page.waitFor('the run', async () => (await page.count(run)) === 3)
    await page.find('[data-testid=many]')
    const { driver } = page
    const { x, y } = await middleOf(page, run, 'center')
    await driver
      .actions({ async: true })
      .move({ x, y })
      .press()
      .move({ x: x + 20, y })
      .perform()
    await driver
      .actions({ async: true })
      .move({ x: x - 62, y })
      .perform()
    await page.find('[data-testid=lattice-drag]')
    await driver.actions({ async: true }).release().perform()
    await makePending(page)
    await page.find('button[aria-label="Undo: Move 3 addresses"]')
    await page.waitFor('the new place', async () =>
      (await page.text('[data-control=run-1] .tagtext')).startsWith('15:cc10'),
    )
    await page.click('button[aria-label="Undo: Move 3 addresses"]')
  })

  it('a run is dragged onto a channel on which nothing was sent', async () => {
    const { driver } = page
    const start = await middleOf(page, '[data-testid=lattice] [data-cell="15:cc110"][data-selected]', 'start')
    await expect.poll(() => page.count('[data-testid=lattice] [data-channel="16"]')).toBe(0)
    const { x } = start
    await driver
      .actions({ async: true })
      .move(start)
      .press()
      .move({ x: x + 20, y: start.y })
      .perform()
    // Carried to the lower edge, the rows of silent channels come up.
    const foot = await (await page.find('[data-testid=readout]')).getRect()
    await driver
      .actions({ async: true })
      .move({ x, y: Math.round(foot.y) - 8 })
      .perform()
    const row = '[data-testid=lattice] [data-channel="16"] .channel'
    await page.waitFor('channel 16', async () => (await (await page.find(row)).getRect()).y < foot.y - 12)
    await driver
      .actions({ async: true })
      .move({ x, y: Math.round((await (await page.find(row)).getRect()).y) + 6 })
      .perform()
    await page.find('[data-testid=lattice-drag]')
    await driver.actions({ async: true }).release().perform()
    await makePending(page)
    await page.waitFor('the new place', async () =>
      (await page.text('[data-control=run-1] .tagtext')).startsWith('16:cc'),
    )
    await page.click('button[aria-label="Undo: Move 3 addresses"]')
  })

  it('logged no error on the way', async () => {
    expect(await page.errors()).toEqual([])
  })
})
