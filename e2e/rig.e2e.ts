import { beforeEach, describe, expect, it } from 'vitest'
import { Key, usePage } from './support/page'
import { AS_PERFORMED } from './support/rigs'

const page = usePage()

const pickCable = async (from: string): Promise<void> => {
  await page.click(`[data-card=${from}] button`)
  await page.run(
    `[...document.querySelectorAll('[data-testid=controller-ports] button')]
       .find(({ title }) => title.startsWith('What the cable')).click()`,
  )
  await page.find('[data-testid=cable-panel]')
}

/** Show only findings of one kind, in the list of findings. */
const only = async (kind: string): Promise<void> =>
  (await page.find('[data-testid=rule-filter]')).sendKeys(kind)
const FOUND = '[data-testid=findings]'

describe('the picture of the rig', () => {
  beforeEach(async () => {
    await page.open('/rig')
    await page.find('[data-card=loomwright]')
    await page.firstFindings()
  })

  it('shows every device and cable of the demo', async () => {
    await expect.poll(() => page.count('[data-card]')).toBe(5 + 1 + 1 + 6)
    await expect.poll(() => page.count('.vue-flow__edge')).toBeGreaterThan(8)
    await page.says('[data-card=kettlow]', 'takes all channels for one')
  })

  it('a rule on a cable changes what is found; a rewrite is written in words, and refused where it lands outside', async () => {
    await page.step('a rule on a cable changes what is found, and undo brings it back', async () => {
      const before = await page.firstFindings()
      await pickCable('pelluna')
      await page.click('[data-testid=add-rule]')
      // What it stops is mapped: the page asks first.
      await page.makePending()
      await page.reads('[data-testid=rule]', 'stops CC')
      await page.click('button[aria-label^="Undo"]')
      await page.hasFindings(before)
      await page.click('[data-testid=add-rule]')
      await page.makePending()
      await page.find('[data-testid=rule]')
    })
    await page.step('a rewrite is written in words, and refused where it lands outside', async () => {
      await page.run(`
      const set = (id, value) => {
        const field = document.querySelector(id)
        field.value = value
        field.dispatchEvent(new Event('change', { bubbles: true }))
      }
      set('#rule-does', 'rewrite')`)
      const type = (css: string, value: string): Promise<void> => page.type(css, value, Key.TAB)
      await type('[data-testid=rule-low]', '20')
      await type('[data-testid=rule-high]', '27')
      await type('#rule-number', '102')
      await page.reads('[data-testid=rule]', 'CC 20–27 becomes 102–109')
      await type('#rule-number', '125')
      await page.says('[data-sonner-toaster]', 'would land on 132')
      await page.reads('[data-testid=rule]', 'CC 20–27 becomes 102–109')
    })
  })

  it('a destination is added, told what to hear and keep, and joined by the list and by dragging', async () => {
    await page.click('[data-testid=add-destination]')
    await page.click('[data-starter=synth]')
    await page.press('Add it')
    await page.waitFor('the notice beside the card it speaks of', () =>
      page.run<boolean>(
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
      const cards = await page.run<string[]>(
        `return [...document.querySelectorAll('[data-card]')].map(({ textContent }) => textContent)`,
      )
      return cards.some(
        (text) =>
          /Choir box/.test(text) && /hears channel 1 only/.test(text) && /keeps CC 110–117/.test(text),
      )
    })
    const cables = await page.count('.vue-flow__edge')
    await page.focus('[data-card=corvel] button')
    await page.keys(Key.ENTER)
    await (await page.find('[data-testid=join-port]')).sendKeys('Choir')
    await page.counts('.vue-flow__edge', cables + 1)
    const { driver } = page
    const from = await page.middleOf('[data-card=umbrek] .vue-flow__handle.source')
    // The picture moves while a cable is carried along its edge: where the port is then is seen at each step.
    const to = await page.find('[data-card=destination-1] .vue-flow__handle.target')
    await driver.actions({ async: true }).move(from).press().perform()
    await driver.actions({ async: true }).move({ origin: to }).perform()
    await driver.actions({ async: true }).move({ origin: to, x: 1, y: 1 }).release().perform()
    await page.counts('.vue-flow__edge', cables + 2)
  })

  it('a card that is moved stays where it was put, until the picture is arranged anew', async () => {
    const topOf = (id: string): Promise<number> =>
      page.run(
        `return new DOMMatrix(getComputedStyle(document.querySelector(arguments[0]).closest('.vue-flow__node')).transform).f`,
        `[data-card=${id}]`,
      )
    const before = await topOf('corvel')
    const { x, y } = await page.middleOf('[data-card=corvel] p')
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
    await page.counts('[data-testid=arrange-anew]', 0)
  })

  it('a passage is added, and says what shows', async () => {
    await page.click('[data-passage=overture]')
    await (await page.find('#shows-syzra-knobs')).sendKeys('none shows')
    await page.canUndo('Change')
    await page.click('[data-testid=add-passage]')
    await page.counts('[data-passage]', 5)
  })
})

describe('findings', () => {
  beforeEach(async () => {
    await page.open('/desk')
    await page.firstFindings()
    await page.click('[data-testid=findings-count]')
    await page.find(`${FOUND} [data-finding]`)
  })

  it('an old mapping that another control sets off is seen and cleared', async () => {
    await only('Old mapping')
    await page.waitFor(
      'only ghosts',
      async () =>
        (await page.count('[data-testid=findings] [data-rule]')) > 0 &&
        (await page.count('[data-testid=findings] [data-rule]:not([data-rule=ghost])')) === 0,
    )
    await page.click('[data-control=enc-1]')
    await page.find('aside [data-rule=ghost] [data-fix=clear]')
    await page.says('aside', 'Corvel 8, which is put away')
    const before = await page.firstFindings()
    await page.click('aside [data-rule=ghost] [data-fix=clear]')
    await page.hasFindings(before - 1)
  })

  it('a finding is set aside with a reason, and brought back', async () => {
    const before = await page.findings()
    await page.click('[data-testid=findings] [data-testid=set-aside]')
    await page.keys('One of them is never on stage', Key.ENTER)
    await page.hasFindings(before - 1)
    await page.click('[data-part=aside]')
    await page.says('[data-testid=aside-list]', 'never on stage')
    await page.press('Let it count again')
    await page.hasFindings(before)
  })

  it('all findings of a kind are cured at once, where that decides nothing', async () => {
    await only('Not heard')
    const before = await page.firstFindings()
    await page.find('[data-testid=cure-all]')
    const kept = await page.count('[data-testid=findings] [data-rule=unheard]')
    expect(kept).toBeGreaterThan(0)
    await page.click('[data-testid=cure-all]')
    const left = (): Promise<number> => page.count('[data-testid=findings] [data-rule=unheard]')
    await page.waitFor('what can be cured to be cured', async () => (await left()) < kept)
    await page.undo('Cure all')
    await page.hasFindings(before)
  })

  it('findings are walked by keys, grouped by controller, and a cure says what it would change', async () => {
    // The keys walk through the kind that the list shows.
    await only('Not heard')
    for (let step = 0; step < 3; step++) {
      await page.shortcut(']')
      await page.find('[data-visited=true][data-rule=unheard]')
    }
    await only('every kind')
    await (await page.find('[data-testid=finding-order]')).sendKeys('by controller')
    await page.waitFor('headings', async () => (await page.text('[data-testid=findings] h3')).length > 0)
    await page.run(`document.activeElement.blur()`)
    const visited = (): Promise<string | null> => page.attribute('[data-visited=true]', 'data-finding')
    await page.shortcut(']')
    const first = await visited()
    await page.shortcut(']')
    await page.waitFor('the next', async () => (await visited()) !== first)
    await page.shortcut('[')
    await page.waitFor('the one before', async () => (await visited()) === first)
    await only('Same address')
    await page.shortcut(']')
    await page.find('[data-visited=true][data-rule=same-address] [data-fix=move]')
    await page.focus('[data-visited=true] [data-fix=move]')
    await page.says('[data-testid=fix-preview]', '→')
  })

  it('a ring of cables is shown in the picture, and broken by unplugging one', async () => {
    await only('Round for ever')
    await page.find('[data-testid=findings] [data-rule=loop]')
    await page.click('[data-testid=findings] [data-rule=loop] [data-testid=show-in-rig]')
    await page.counts('.vue-flow__edge.marked', 3)
    await page.find('[data-testid=cable-panel]')
    await page.go('/desk')
    await page.click('[data-testid=findings-count]')
    const before = await page.firstFindings()
    await only('Round for ever')
    await page.find('[data-testid=findings] [data-rule=loop]')
    await page.click('[data-testid=findings] [data-rule=loop] [data-fix=unplug]')
    await page.waitFor('no ring', async () => (await page.findings()) < before)
    await page.undo('Unplug')
    await page.hasFindings(before)
  })

  it('sharing on purpose is declared, given its reason, and withdrawn', async () => {
    await page.press('Syzra')
    await page.click('[data-control=side-7]')
    await page.shiftClick('[data-control=side-8]')
    const before = await page.firstFindings()
    await page.click('[data-testid=findings-count]')
    await page.click('[data-part=shared]')
    await page.click('[data-testid=declare-accord]')
    await page.waitFor('fewer findings', async () => (await page.findings()) < before)
    const reason = await page.find('[data-accord]:last-of-type input[placeholder]')
    await reason.sendKeys('Down and up of one length', Key.ENTER)
    await page.canUndo('Change “Sharing')
    await page.click('[data-accord]:last-of-type button')
    await page.hasFindings(before)
  })
})

describe('a run is dragged in the lattice', () => {
  const run = '[data-testid=lattice] [data-cell^="15:"][data-selected]'
  beforeEach(async () => {
    await page.open('/desk', AS_PERFORMED)
    await page.select('run-1', 'run-2', 'run-3')
    await page.counts(run, 3)
    await page.find('[data-testid=many]')
  })

  it('as one edit', async () => {
    const { driver } = page
    const { x, y } = await page.middleOf(run, 'center')
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
    await page.makePending()
    await page.canUndo('Move 3 addresses')
    await page.says('[data-control=run-1] .tagtext', /^15:cc10/)
  })

  it('onto a channel on which nothing was sent', async () => {
    const { driver } = page
    const start = await page.middleOf('[data-testid=lattice] [data-cell="15:cc110"][data-selected]', 'start')
    await page.counts('[data-testid=lattice] [data-channel="16"]', 0)
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
    await page.makePending()
    await page.says('[data-control=run-1] .tagtext', /^16:cc/)
  })
})
