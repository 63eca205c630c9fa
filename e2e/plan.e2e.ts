import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { nineRingsRig } from '../demo'
import { writeRig } from '../core/rig'
import { sending, testController, testRig } from '../core/testing/rigs'
import { importText, Key, startSession, type Session } from './browser'

let page: Session
beforeAll(async () => {
  page = await startSession()
})
afterAll(async () => {
  expect(await page.errors()).toEqual([])
  await page.quit()
})

/** What a plan says of itself, once no better one is looked for. */
const summary = () => page.text('[aria-busy=false] > [data-testid=plan-summary]')
const findings = async (): Promise<number> =>
  Number(/\d+/.exec(await page.text('[data-testid=findings-count]'))?.[0] ?? 0)

describe('planning the demo as it is found', () => {
  beforeEach(async () => {
    await page.go('/desk')
    await importText(page, 'found.json', writeRig(nineRingsRig('as-found')))
    await page.find('[data-testid=lattice]')
    await page.waitFor('the findings', async () => (await findings()) > 30)
  })

  it('is cured in one plan, drawn before it is made, and undone in one step', async () => {
    const before = await findings()
    await page.click('[data-testid=findings-count]')
    await page.click('[data-testid=plan-repair]')
    await expect.poll(summary).toMatch(/10 addresses change/)
    await expect.poll(() => page.text('[data-testid=plan]')).toContain('Proven: no plan is better.')
    await page.waitFor('the plan in the lattice', async () => (await page.count('[data-planned]')) > 3)
    await page.waitFor('the plan on the surface', async () => (await page.count('.tagline.planned')) > 3)
    await page.click('[data-testid=plan-make]')
    await page.waitFor('fewer findings', async () => (await findings()) < before)
    await expect.poll(() => page.count('[data-testid=plan]')).toBe(0)
    await page.keys(Key.chord(Key.CONTROL, 'z'))
    await page.waitFor('all findings again', async () => (await findings()) === before)
  })

  it('is planned again without a line that is struck out', async () => {
    await page.click('[data-testid=plan-open]')
    await summary()
    await page.click('[data-line="syzra/nine-rings//enc-8.touch#0"]')
    await page.waitFor('a plan without it', async () => (await summary()).startsWith('9 addresses change'))
    await expect
      .poll(() => page.text('[data-testid=plan-shortages]'))
      .toContain('it was struck out of the plan')
    await page.press('Bring back what was struck out')
    await page.waitFor('the whole plan', async () => (await summary()).startsWith('10 addresses change'))
  })

  it('changes one controller only where that is asked for, and makes room for it', async () => {
    await page.click('[data-testid=plan-open]')
    await summary()
    await page.click('[aria-label^="What may change"]')
    await page.press('only Syzra 24')
    await page.press('Plan anew')
    await page.waitFor('a plan for all of it', async () => /address/.test(await summary()))
    await expect.poll(() => page.text('[data-testid=plan]')).not.toContain('Pelluna 36, ')
    await page.press('Make room')
    await page.waitFor('what moves out of the way', async () => /address/.test(await summary()))
    await expect.poll(() => page.text('[data-testid=plan]')).not.toContain('Syzra 24, Overture')
  })
})

it('moves what no destination has learned, and leaves the learned mapping alone', async () => {
  const cc = sending({ kind: 'cc', number: 20 })
  const rig = testRig(
    [testController('a', { 'k1.turn': cc }), testController('b', { 'k1.turn': cc })],
    undefined,
    {
      mappings: [{ id: 'm', gesture: 'b/k1.turn', destination: 'd', parameter: 'p1', learnedAt: '1:cc20' }],
    },
  )
  await page.go('/desk')
  await importText(page, 'learned.json', writeRig(rig))
  await page.waitFor('the rig', async () => (await page.count('.control')) === 6)
  await page.click('[data-testid=plan-open]')
  await expect.poll(summary).toBe('1 address changes · 1 finding goes · nothing to teach again')
  await expect.poll(() => page.text('[data-plan-group] h3')).toContain('A')
  await page.click('[data-testid=plan-make]')
  await page.waitFor(
    'no finding',
    async () => (await page.text('[data-testid=findings-count]')) === 'No findings',
  )
})

it('lets a controller stand in for one that is put away', async () => {
  const rig = testRig(
    [
      testController('here', { 'k1.turn': sending({ kind: 'cc', number: 90 }) }),
      testController('away', { 'k1.turn': sending({ kind: 'cc', number: 20 }) }, { inUse: false }),
    ],
    undefined,
    {
      mappings: [
        { id: 'm', gesture: 'away/k1.turn', destination: 'd', parameter: 'p1', learnedAt: '1:cc20' },
      ],
    },
  )
  await page.go('/desk')
  await importText(page, 'away.json', writeRig(rig))
  await page.waitFor('the rig', async () => (await page.count('.control')) === 6)
  await page.click('[data-testid=plan-open]')
  await page.press('Stand in')
  await page.waitFor('what it takes over', async () => (await summary()).startsWith('1 address changes'))
  await expect.poll(() => page.text('[data-testid=plan-result]')).toContain('It stands in for')
  await page.click('[data-testid=plan-make]')
  await page.waitFor('it is made', async () => (await page.count('[data-testid=plan]')) === 0)
})

it('says whom nobody can stand in for, and what would help', async () => {
  await page.go('/desk')
  await importText(page, 'found.json', writeRig(nineRingsRig('as-found')))
  await page.find('[data-testid=lattice]')
  await page.press('Merrod 49')
  await page.click('[data-testid=plan-open]')
  await page.press('Stand in')
  await page.waitFor('whom it cannot stand in for', async () =>
    /no counterpart is left on Merrod 49/.test(await page.text('[data-testid=plan-shortages]')),
  )
  await expect
    .poll(() => page.text('[data-testid=plan-shortages]'))
    .toMatch(/To help: .*borrow a controller that has more/)
})

it('clears a channel: pitches and bend come along with their numbers, what is pinned stays and is named', async () => {
  const rig = testRig([
    testController('a', {
      'k1.turn': sending({ kind: 'cc', number: 20 }),
      'k2.turn': sending({ kind: 'note', keys: { kind: 'span', low: 36, high: 48 } }),
      'k3.turn': sending({ kind: 'pitchBend' }),
      'k4.turn': { ...sending({ kind: 'cc', number: 30 }), pinned: true },
    }),
  ])
  await page.go('/desk')
  await importText(page, 'clear.json', writeRig(rig))
  await page.waitFor('the rig', async () => (await page.count('.control')) === 6)
  await page.click('[data-testid=plan-open]')
  await page.press('Move away')
  await page.click('[data-testid=away-kind] option[value=all]')
  await page.waitFor('three that go', async () => (await summary()).startsWith('3 addresses change'))
  const text = await page.text('[data-testid=plan-result]')
  for (const tag of ['2:note36-48', '2:bend', '2:cc']) expect(text).toContain(tag)
  await expect.poll(() => page.text('[data-testid=plan-shortages]')).toContain('Knob 4 (A): it is pinned')
})

it('can be stopped, and then says how good it is known to be', async () => {
  await page.go('/desk')
  await importText(page, 'found.json', writeRig(nineRingsRig('as-found')))
  await page.find('[data-testid=lattice]')
  await page.click('[data-testid=plan-open]')
  await page.press('Plan anew')
  await page.find('[aria-busy=true] > [data-testid=plan-summary]')
  await page.click('[data-testid=plan-stop]')
  await page.waitFor('what was found at once', async () => /address/.test(await summary()))
  await expect
    .poll(() => page.text('[data-testid=plan-result]'))
    .toMatch(/Not proven to the end|others may score the same/)
})

describe('a plan that cannot be', () => {
  it('says who competes for what, and what would help, by keyboard alone', async () => {
    const wanting = sending({ kind: 'cc', number: 'wanted' })
    const rig = testRig([testController('a', { 'k1.turn': wanting, 'k2.turn': wanting })], undefined, {
      houseRules: [
        { id: 'low', kind: 'avoid', low: 0, high: 20 },
        { id: 'high', kind: 'avoid', low: 22, high: 127 },
      ],
    })
    await page.go('/desk')
    await importText(page, 'full.json', writeRig(rig))
    await page.waitFor('the rig', async () => (await page.count('.control')) === 6)
    await page.keys('/')
    await page.find('[data-testid=command-box]')
    await page.keys('fill in', Key.ENTER)
    await page.waitFor('one of two', async () => (await summary()).startsWith('2 addresses change'))
    await expect.poll(() => page.text('[data-testid=plan]')).toContain('1:cc21')
    await page.click('[aria-label^="Channels"]')
    await page.press('stay in any case')
    await page.waitFor(
      'one that is left',
      async () => (await page.count('[data-testid=plan-shortages]')) === 1,
    )
    await expect
      .poll(() => page.text('[data-testid=plan-shortages]'))
      .toMatch(/2 gestures compete for 1 free CC number/)
    await expect.poll(() => page.text('[data-testid=plan-shortages]')).toMatch(/any channel/)
  })
})
