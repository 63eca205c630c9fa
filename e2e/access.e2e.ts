import axe, { type AxeResults, type RunOptions } from 'axe-core'
import { beforeEach, describe, expect, it } from 'vitest'
import { emptyRig, writeRig } from '../core/rig'
import { cutPart, writePart } from '../core/rig/part'
import { Key, usePage } from './support/page'
import { AS_FOUND } from './support/rigs'

const page = usePage()

const themed = (theme: 'vellum' | 'night'): Promise<void> =>
  page.run(
    `const still = document.getElementById('still') ?? document.head.appendChild(document.createElement('style'))
     still.id = 'still'
     still.textContent = '* { transition: none !important }'
     document.documentElement.dataset.theme = arguments[0]`,
    theme,
  )

const ANY: RunOptions = {
  runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'],
  resultTypes: ['violations'],
  preload: false,
}
const COLOURS: RunOptions = { ...ANY, runOnly: { type: 'rule', values: ['color-contrast'] } }
const ALL_BUT_COLOURS: RunOptions = { ...ANY, rules: { 'color-contrast': { enabled: false } } }

/** What is wrong with what is shown, by the rules that are asked for. */
async function wrongBy(name: string, rules: RunOptions): Promise<string[]> {
  const isThere = await page.run<boolean>(`return typeof axe !== 'undefined'`)
  if (!isThere) await page.run(axe.source)
  const { violations: wrong } = await page.runAsync<AxeResults>(
    `const [rules, done] = arguments
     axe.run(document, rules).then(done, (error) => done({ violations: [{ id: String(error), nodes: [] }] }))`,
    rules,
  )
  return wrong.map(
    ({ id, nodes }) => `${name}: ${id}: ${nodes.map(({ html }) => html.slice(0, 140)).join(' | ')}`,
  )
}

/** What is wrong in either theme: the dark one differs from the light one in its colours only. */
async function violations(): Promise<string[]> {
  await themed('night')
  const dark = await wrongBy('night', COLOURS)
  await themed('vellum')
  return [...dark, ...(await wrongBy('vellum', ANY))]
}

/** What is wrong but for colours, which are the same at every size. */
const wrongAtThisSize = (): Promise<string[]> => wrongBy('at this size', ALL_BUT_COLOURS)

/** What of the bar at the top, or of the tools, lies over something else or outside the page. */
const crowding = (): Promise<string[]> =>
  page.run(`
    const wrong = []
    const named = (element) => element.textContent.trim().slice(0, 30) || element.title
    if (document.scrollingElement.scrollWidth > innerWidth) wrong.push('the page is wider than the window')
    const bar = [...document.querySelectorAll('header a, header button, header nav')]
      .filter((element) => element.offsetParent && !element.closest('nav a') && getComputedStyle(element).position !== 'absolute' || element.matches('nav'))
    const boxes = bar.map((element) => ({ element, box: element.getBoundingClientRect() }))
    for (const { element, box } of boxes)
      if (box.right > innerWidth + 1 || box.left < -1) wrong.push(named(element) + ' is cut off')
    for (const [index, a] of boxes.entries())
      for (const b of boxes.slice(index + 1)) {
        if (a.element.contains(b.element) || b.element.contains(a.element)) continue
        const isOver = a.box.left < b.box.right - 1 && b.box.left < a.box.right - 1 &&
          a.box.top < b.box.bottom - 1 && b.box.top < a.box.bottom - 1
        if (isOver) wrong.push(named(a.element) + ' over ' + named(b.element))
      }
    return wrong`)

describe('in both themes', () => {
  beforeEach(async () => {
    await page.open('/desk')
    await page.run(`localStorage.setItem('deft-lattice/theme', 'vellum')`)
    await page.firstFindings()
  })

  it('the Desk has no accessibility violation, with a control in trouble selected, nor the findings, nor joining', async () => {
    await page.step(
      'the Desk has no accessibility violation, with a control in trouble selected',
      async () => {
        await page.go('/desk')
        await page.find('[data-testid=lattice]')
        await page.click('[data-control="enc-5"]')
        await page.find('aside [data-finding] [data-fix]')
        expect(await violations()).toEqual([])
      },
    )
    await page.step('nor the findings, nor joining to a parameter', async () => {
      await page.click('[data-testid=join]')
      await page.find('[data-testid=join-picker] [data-parameter]')
      expect(await violations()).toEqual([])
      await page.click('[data-testid=findings-count]')
      await page.find('[data-testid=findings] [data-fix]')
      expect(await violations()).toEqual([])
    })
  })

  it('nor drawing, templates, the controller, many at once, the table, the command box', async () => {
    await page.go('/desk')
    await page.find('[data-testid=lattice]')
    for (const [tool, ready] of [
      ['draw', '[data-testid=draw-panel]'],
      ['templates', '[data-stack]'],
      ['controller', '[data-testid=controller-ports]'],
    ]) {
      await page.click(`[data-tool=${tool}]`)
      await page.find(ready ?? '')
      expect(await violations(), tool).toEqual([])
    }
    await page.click('[data-tool=draw]')
    await page.click('[data-testid=draw-by-moving]')
    await page.click('[data-testid=begin-drawing]')
    await page.find('[data-testid=moving-now]')
    expect(await violations(), 'draw by moving').toEqual([])
    await page.click('[data-moving=learn-by-moving]')
    await page.click('[data-testid=begin-learning]')
    await page.find('[data-testid=moving-learned]')
    expect(await violations(), 'learn by moving').toEqual([])
    await page.click('[data-testid=stop-moving]')
    await page.click('[data-testid=moving-panel] header button')
    await page.click('[data-control="knob-1"]')
    await page.shiftClick('[data-control="knob-2"]')
    await page.find('[data-testid=many]')
    expect(await violations()).toEqual([])
    await page.click('[data-tool=ledger]')
    await page.find('[data-testid=ledger-grid] [role=row]')
    expect(await violations()).toEqual([])
    await page.click('[data-tool=ledger]')
    await page.click('[data-testid=find]')
    await page.find('[data-testid=command-box] input')
    expect(await violations()).toEqual([])
    await page.keys(Key.ESCAPE)
  })

  it('nor the picture of the rig, with a cable and its rule, or a destination', async () => {
    await page.go('/rig')
    await page.click('[data-card=loomwright] button')
    await page.find('[data-testid=destination-panel]')
    expect(await violations()).toEqual([])
    await page.click('[data-card=junction] button')
    await page.run(
      `[...document.querySelectorAll('[data-testid=controller-ports] button')]
         .find(({ title }) => title.startsWith('What the cable')).click()`,
    )
    await page.find('[data-testid=cable-panel]')
    expect(await violations()).toEqual([])
  })

  it('nor the lenses on destinations and lights, a mapping, and what must be taught again', async () => {
    await page.go('/desk')
    await page.find('[data-testid=lattice]')
    // Findings come in above what is to be clicked.
    await page.says('[data-testid=findings-count]', /\d finding/)
    await page.click('[data-control="fader-1"]')
    await page.click('[data-testid=mapping-open]')
    await page.find('[data-testid=value-chart] canvas')
    expect(await violations()).toEqual([])
    await page.click('[data-testid=teach-open]')
    await page.find('[data-teach]')
    expect(await violations()).toEqual([])
    await page.click('[data-lens=behaviour]')
    await page.reads('[data-control="fader-1"] .tagtext', '14-bit')
    const spoken = await page.attribute('[data-control="fader-1"]', 'aria-label')
    expect(spoken).toContain('gives 0–16383, 14-bit')
    expect(await violations(), 'behaviour').toEqual([])
    await page.click('[data-lens=destinations]')
    await page.find('[data-board-item]')
    expect(await violations(), 'destinations').toEqual([])
    await page.click('[data-lens=lights]')
    const tabs = [
      ['palette', '[data-testid=lights] select'],
      ['light-init', '[data-testid=light-init-count]'],
      ['roles', '[data-role]'],
    ]
    for (const [tab, ready] of tabs) {
      await page.click(`[data-testid=lights] [data-tab=${tab}]`)
      await page.find(ready ?? '')
      expect(await violations(), tab).toEqual([])
    }
    await page.click('[data-lens=addresses]')
  })

  it('nor proving: a rehearsal, teaching, a line check, slots, recipes', async () => {
    await page.go('/bench')
    await page.find('[data-testid=bench-surface]')
    await page.click('[data-side=prove]')
    await page.click('[data-testid=rehearse-now]')
    for (const [tab, ready] of [
      ['teach', '[data-testid=teach-begin]'],
      ['line', '[data-testid=line-start]'],
      ['slots', '[data-slot="1"]'],
      ['recipes', '[data-testid=recipe-new]'],
    ] as const) {
      await page.click(`[data-prove=${tab}]`)
      await page.click(ready === '[data-slot="1"]' ? '[data-testid=fetch-all]' : ready)
      expect(await violations()).toEqual([])
    }
    await page.click('[data-prove=rehearse]')
    await page.find('[data-testid=rehearsal-summary]')
    expect(await violations()).toEqual([])
  })

  it('nor the lists of a destination', async () => {
    await page.go('/rig')
    await page.click('[data-card=ondrel-vi] button')
    await page.click('[data-testid=open-lists]')
    await page.find('[data-parameter-row]')
    expect(await violations()).toEqual([])
    for (const tab of ['sounds', 'presets', 'scopes']) {
      await page.click(`[data-testid=destination-view] [data-tab=${tab}]`)
      expect(await violations(), tab).toEqual([])
    }
    await page.click('[data-testid=destination-view] [data-tab=parameters]')
    await page.click('[data-testid=read-open]')
    await page.find('[data-testid=list-text]')
    expect(await violations()).toEqual([])
  })

  it('nor what changed since a version, what can be brought back, parts and backups', async () => {
    await page.go('/history')
    await page.find('[data-testid=backup]')
    expect(await violations()).toEqual([])
    const choose = (): Promise<void> => page.pick('[data-testid=compare-other] button', 'A file')
    await page.giveFile(choose, 'another.json', writeRig(emptyRig('Another')))
    await page.find('[data-testid=history-summary]')
    await page.find('[data-testid=history-lattice]')
    expect(await violations()).toEqual([])
    await page.go('/rig')
    const syzra = cutPart(AS_FOUND, { kind: 'controller', id: 'syzra' })
    if (!syzra) throw new Error('not there')
    await page.giveFile(() => page.click('[data-testid=part-file]'), 'syzra.json', writePart(syzra))
    await page.find('[data-testid=part-accept]')
    expect(await violations()).toEqual([])
  })

  it('nor a sheet, nor the Bench', async () => {
    await page.go('/sheets')
    await page.find('[data-testid=sheet]')
    expect(await violations()).toEqual([])
    await page.go('/bench')
    await page.find('[data-testid=bench-surface]')
    expect(await violations()).toEqual([])
    await page.run(`document.querySelector('[data-control="knob-1"]').focus()`)
    await page.keys(Key.ARROW_UP, Key.ARROW_UP)
    await page.find('[data-lane]')
    expect(await violations()).toEqual([])
    await page.click('[data-form=lines]')
    await page.find('[data-testid=tape-lines]')
    expect(await violations()).toEqual([])
  })

  it.each([
    [820, 1180],
    [1280, 657],
    [1920, 1080],
  ])('nor any view on a page of %i × %i, where nothing overlaps or is cut off', async (width, height) => {
    await page.setPage(width, height)
    try {
      for (const path of ['/desk', '/rig', '/sheets', '/bench', '/history']) {
        await page.go(path)
        await page.find(
          path === '/desk'
            ? '[data-testid=lattice]'
            : 'main h2, [data-testid=rig-picture], [data-testid=sheet]',
        )
        await page.find('[data-testid=findings-count]')
        expect(await crowding(), path).toEqual([])
        expect(await wrongAtThisSize(), path).toEqual([])
      }
      await page.go('/desk')
      await page.click('[data-testid=findings-count]')
      await page.find('[data-testid=findings] [data-fix]')
      expect(await wrongAtThisSize(), 'findings').toEqual([])
      await page.click('[data-testid=findings-count]')
    } finally {
      await page.setPage(1280, 800)
    }
  })

  it('nor what a new rig begins with', async () => {
    await page.setPage(820, 1180)
    try {
      await page.go('/desk')
      await page.find('[data-testid=lattice]')
      await page.click('[data-testid=add-controller]')
      await page.find('[data-testid=sending]')
      expect(await violations(), 'new controller').toEqual([])
      await page.press('Cancel')
      await page.go('/rig')
      await page.click('[data-testid=add-destination]')
      await page.find('[data-testid=new-destination] dl')
      expect(await violations(), 'new destination').toEqual([])
      await page.press('Cancel')
    } finally {
      await page.setPage(1280, 800)
    }
  })
})
