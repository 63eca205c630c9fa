import { beforeEach, describe, expect, it } from 'vitest'
import type { RigInput } from '../core/rig'
import { sending, testController, testRig } from '../core/testing/rigs'
import { Key, usePage } from './support/page'

const page = usePage()

const RESULT = '[data-testid=plan-result]'
const SHORTAGES = '[data-testid=plan-shortages]'
/** What a plan says of itself, once no better one is looked for. */
const summary = (words: string | RegExp): Promise<void> =>
  page.says('[aria-busy=false] > [data-testid=plan-summary]', words)
const cc = (number: number | 'wanted') => sending({ kind: 'cc', number })

describe('planning the demo as it is found', () => {
  beforeEach(async () => {
    await page.open('/desk')
    await page.firstFindings()
  })

  it('is cured in one plan, drawn before it is made, and undone in one step', async () => {
    const before = await page.findings()
    await page.click('[data-testid=findings-count]')
    await page.click('[data-testid=plan-repair]')
    await summary(/10 addresses change/)
    await page.says('[data-testid=plan]', 'Proven: no plan is better.')
    await expect.poll(() => page.count('[data-planned]')).toBeGreaterThan(3)
    await expect.poll(() => page.count('.tagline.planned')).toBeGreaterThan(3)
    await page.click('[data-testid=plan-make]')
    await page.waitFor('fewer findings', async () => (await page.findings()) < before)
    await page.counts('[data-testid=plan]', 0)
    await page.keys(Key.chord(Key.CONTROL, 'z'))
    await page.hasFindings(before)
  })

  it('is planned again without a line that is struck out', async () => {
    await page.click('[data-testid=plan-open]')
    await summary(/^10/)
    await page.click('[data-line="syzra/nine-rings//enc-8.touch#0"]')
    await summary(/^9 addresses change/)
    await page.says(SHORTAGES, 'it was struck out of the plan')
    await page.press('Bring back what was struck out')
    await summary(/^10 addresses change/)
  })

  it('changes one controller only where that is asked for, and makes room for it', async () => {
    await page.click('[data-testid=plan-open]')
    await summary(/address/)
    await page.click('[aria-label^="What may change"]')
    await page.press('only Syzra 24')
    await page.press('Plan anew')
    await page.says(RESULT, 'Syzra 24')
    await summary(/address/)
    expect(await page.text('[data-testid=plan]')).not.toContain('Pelluna 36, ')
    await page.press('Make room')
    await expect.poll(() => page.text('[data-testid=plan]')).not.toContain('Syzra 24, Overture')
    await summary(/address/)
  })

  it('can be stopped, and then says how good it is known to be', async () => {
    await page.click('[data-testid=plan-open]')
    await page.press('Plan anew')
    await page.find('[aria-busy=true] > [data-testid=plan-summary]')
    await page.click('[data-testid=plan-stop]')
    await summary(/address/)
    await page.says(RESULT, /Not proven to the end|others may score the same/)
  })

  it('says whom nobody can stand in for, and what would help', async () => {
    await page.press('Merrod 49')
    await page.click('[data-testid=plan-open]')
    await page.press('Stand in')
    await page.says(SHORTAGES, /no counterpart is left on Merrod 49/)
    await page.says(SHORTAGES, /To help: .*borrow a controller that has more/)
  })
})

describe('planning a small rig', () => {
  const open = async (controllers: RigInput['controllers'], more: Partial<RigInput> = {}): Promise<void> => {
    await page.open('/desk', testRig(controllers ?? [], undefined, more))
    await page.counts('.control', 6)
  }
  const learnedFrom = (controller: string): Partial<RigInput> => ({
    mappings: [
      { id: 'm', gesture: `${controller}/k1.turn`, destination: 'd', parameter: 'p1', learnedAt: '1:cc20' },
    ],
  })

  it('moves what no destination has learned, and leaves the learned mapping alone', async () => {
    await open(
      [testController('a', { 'k1.turn': cc(20) }), testController('b', { 'k1.turn': cc(20) })],
      learnedFrom('b'),
    )
    await page.click('[data-testid=plan-open]')
    await summary(/^1 address changes · 1 finding goes · nothing to teach again$/)
    await page.says('[data-plan-group] h3', 'A')
    await page.click('[data-testid=plan-make]')
    await page.hasFindings(0)
  })

  it('lets a controller stand in for one that is put away', async () => {
    await open(
      [
        testController('here', { 'k1.turn': cc(90) }),
        testController('away', { 'k1.turn': cc(20) }, { inUse: false }),
      ],
      learnedFrom('away'),
    )
    await page.click('[data-testid=plan-open]')
    await page.press('Stand in')
    await summary(/^1 address changes/)
    await page.says(RESULT, 'It stands in for')
    await page.click('[data-testid=plan-make]')
    await page.counts('[data-testid=plan]', 0)
  })

  it('clears a channel: pitches and bend come along with their numbers, what is pinned stays and is named', async () => {
    await open([
      testController('a', {
        'k1.turn': cc(20),
        'k2.turn': sending({ kind: 'note', keys: { kind: 'span', low: 36, high: 48 } }),
        'k3.turn': sending({ kind: 'pitchBend' }),
        'k4.turn': { ...cc(30), pinned: true },
      }),
    ])
    await page.click('[data-testid=plan-open]')
    await page.press('Move away')
    await page.click('[data-testid=away-kind] option[value=all]')
    await summary(/^3 addresses change/)
    const text = await page.text(RESULT)
    for (const tag of ['2:note36-48', '2:bend', '2:cc']) expect(text).toContain(tag)
    await page.says(SHORTAGES, 'Knob 4 (A): it is pinned')
  })

  it('says who competes for what, and what would help, by keyboard alone', async () => {
    await open([testController('a', { 'k1.turn': cc('wanted'), 'k2.turn': cc('wanted') })], {
      houseRules: [
        { id: 'low', kind: 'avoid', low: 0, high: 20 },
        { id: 'high', kind: 'avoid', low: 22, high: 127 },
      ],
    })
    await page.shortcut('/')
    await page.focused('[data-testid=command-box] input')
    await page.keys('fill in', Key.ENTER)
    await summary(/^2 addresses change/)
    await page.says('[data-testid=plan]', '1:cc21')
    await page.click('[aria-label^="Channels"]')
    await page.press('stay in any case')
    await page.says(SHORTAGES, /2 gestures compete for 1 free CC number/)
    await page.says(SHORTAGES, /any channel/)
  })
})
