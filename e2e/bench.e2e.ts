import { parseMidi } from 'midi-file'
import { beforeEach, describe, expect, it } from 'vitest'
import { perform } from '../core/rig'
import { joined, rewrite, ruled } from '../core/testing/mapped-rigs'
import { sendingCc, testController, testDestination, testRig } from '../core/testing/rigs'
import { control, dragUp, openBench, stands, SURFACE, touch } from './support/bench'
import { Key, usePage } from './support/page'
import { AS_PERFORMED } from './support/rigs'

const page = usePage()

const LINES = '[data-testid=tape-lines]'
const TRACE = '[data-testid=trace]'
const drag = (id: string, up = 60): Promise<void> => dragUp(page, id, up)
const moves = async (): Promise<string> =>
  (
    await page.run<string[]>(
      `return [...document.querySelectorAll('[data-move]')].map((each) => each.innerText)`,
    )
  ).join('\n')
const moved = (words: string | RegExp): Promise<unknown> =>
  page.waitFor(`${String(words)} to move`, async () => new RegExp(words).test(await moves()))
const begin = (passage: string): Promise<void> => page.pick('button[aria-label^="Passage"]', passage)
const rises = (id: string, above: number): Promise<unknown> =>
  page.waitFor(`${id} above ${above}`, async () => (await stands(page, id)) > above)

describe('playing the demo as found', () => {
  beforeEach(async () => {
    await page.open('/bench')
    await page.find(SURFACE)
  })

  it('moves two parameters at once, and the message can be followed to why', async () => {
    await drag('fader-2')
    await moved('Volume')
    await moved('Detune')
    await page.says('[data-testid=strangers]', /not meant to/)
    await page.says(TRACE, /Dust[\s\S]*1:cc17\+49[\s\S]*Loomwright/)
    await page.click(`${TRACE} button[aria-label^="The next"]`)
    await page.says(TRACE, /Ondrel VI/)
  })

  it('draws a lane for each control that moved, says the same as lines, and keeps every message as a file', async () => {
    await drag('fader-2')
    await drag('knob-1')
    await page.counts('[data-lane]', 2)
    const count = await page.messagesKept()
    await page.click('[data-testid=captures]')
    await page.click('[data-testid=keep-midi]')
    const file = parseMidi(await page.downloadedBytes('.mid'))
    expect(file.tracks.flat().filter((event) => !('meta' in event)).length).toBeGreaterThanOrEqual(count)
    await page.click('[data-testid=captures]')
    await page.click('[data-testid=keep-csv]')
    const lines = (await page.downloaded('.csv')).trim().split('\r\n')
    expect(lines).toHaveLength(count + 1)
    expect(lines[1]).toMatch(/Syzra 24,Dust,1:cc17\+49/)

    await page.click('[data-form=lines]')
    await page.says(LINES, /1:cc110[\s\S]*b0 6e/)
    await page.click('[data-testid=narrow]')
    await page.type('#narrow-text', 'Detune')
    await page.waitFor('only what is like it', async () => {
      const text = await page.text(LINES)
      return text.includes('Dust') && !text.includes('1:cc110')
    })
    await page.press('Show everything')
    await page.says(LINES, '1:cc110')
  })

  it('asks a destination to misbehave; held still, what passes is not kept', async () => {
    await page.click('[data-side=destinations]')
    await page.click('[data-manners=loomwright]')
    await page.click('[data-misbehaves=merges-channels]')
    await page.says('[data-side=destinations]', /1!/)
    await page.click('[data-misbehaves=merges-channels]')
    await page.click('[data-side=moves]')
    await drag('knob-1')
    await page.click('[data-testid=hold-still]')
    const before = await page.messagesKept()
    const from = await stands(page, 'knob-2')
    await drag('knob-2', 30)
    await rises('knob-2', from)
    expect(await page.messagesKept()).toBe(before)
  })

  it('is played by keys, by the wheel and by three fingers', async () => {
    await page.focus(control('knob-3'))
    const before = await stands(page, 'knob-3')
    await page.keys(Key.ARROW_UP, Key.ARROW_UP)
    await rises('knob-3', before)
    const sent = await page.messagesKept()
    await page.focus(control('key-1'))
    await page.keys(Key.SPACE)
    await page.waitFor('the press', async () => (await page.messagesKept()) > sent)

    const turned = await stands(page, 'knob-4')
    await page.run(
      `document.querySelector('${control('knob-4')}').dispatchEvent(new WheelEvent('wheel', { deltaY: -100, bubbles: true, cancelable: true }))`,
    )
    await rises('knob-4', turned)
    const faders = ['fader-4', 'fader-5', 'fader-6']
    const places = await Promise.all(faders.map((id) => page.middleOf(control(id))))
    const points = (up: number) => places.map(({ x, y }, id) => ({ x, y: y - up, id }))
    await page.devTools('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: points(0) })
    for (const up of [5, 15, 25, 35])
      await page.devTools('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: points(up) })
    await page.devTools('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
    for (const id of faders) await rises(id, 10)
  })

  it('plays a keyboard by the letters of the computer, and its wheel rests in its centre', async () => {
    await page.press('Merrod 49')
    await page.click('[data-form=lines]')
    await page.focus(control('keys'))
    await page.keys('a', 'x', 'd')
    await page.waitFor('two keys', async () => {
      const text = await page.text(LINES)
      return /note60\b/.test(text) && /note76\n0/.test(text)
    })
    await page.counts('[data-held-key]', 0)

    await expect.poll(() => stands(page, 'bend')).toBe(50)
    const { x, y } = await page.middleOf(control('bend'))
    await page.driver
      .actions()
      .move({ x, y, duration: 0 })
      .press()
      .move({ x, y: y - 30 })
      .perform()
    await rises('bend', 60)
    await page.driver.actions().release().perform()
    await expect.poll(() => stands(page, 'bend')).toBe(50)
    expect(await stands(page, 'mod')).toBe(0)
  })

  it('begins a passage, which sets what everything shows', async () => {
    await begin('Transit')
    await page.says('button[aria-label^="Layer of Knobs"]', 'Transit')
  })
})

it('keys of a per-note zone are bent one by one, and a parameter of what is selected moves the selected track', async () => {
  const rig = testRig(
    [
      testController('a', {
        'k1.turn': sendingCc(20),
        'k6.push': {
          messages: [
            {
              kind: 'note',
              channel: 'home',
              keys: { kind: 'zone', low: 48, high: 72, manager: 1, members: 4 },
            },
          ],
        },
      }),
    ],
    [
      testDestination('d', {
        parameters: [
          { id: 'v1', name: 'Volume', path: ['Track 1'], range: { min: 0, max: 100, unit: '%' } },
          { id: 'v2', name: 'Volume', path: ['Track 2'], range: { min: 0, max: 100, unit: '%' } },
          { id: 'sel', name: 'Of the selected', kind: 'relative', standsFor: 'Volume' },
        ],
      }),
    ],
    { mappings: [joined('a/k1.turn', 'sel', { learnedAt: '1:cc20' })] },
  )
  const keyboard = rig.models[0]?.surface.controls.find(({ id }) => id === 'k6')
  if (!keyboard) throw new Error('no k6')
  Object.assign(keyboard, {
    kind: 'keybed',
    gestures: ['push'],
    place: { ...keyboard.place, w: 60, h: 30 },
  })
  await page.open('/bench', rig)
  await page.find(SURFACE)
  await page.click('[data-side=destinations]')
  await page.pick('[data-selected-in=d] button', 'Track 2')
  await page.click('[data-side=moves]')
  await drag('k1')
  await moved('Track 2')
  expect(await moves()).not.toContain('Track 1')
  await page.says(TRACE, /Track 2/)

  await page.press('Clear')
  await page.drag(control('k6'), [{ x: 40, y: -30 }], 200)
  await page.click('[data-form=lines]')
  await page.says(LINES, /2:bend/)
  await page.says(LINES, /2:pressure/)
  await page.says(LINES, /2:note\d+/)
  expect(await page.text(LINES)).not.toMatch(/3:bend/)
})

it('two rules of a cable that are crossed are seen by what moves, and named by the way of the message', async () => {
  const match = (number: number) => ({ kinds: ['cc' as const], low: number, high: number })
  const rig = testRig(
    [testController('a', { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) })],
    [
      testDestination('d', {
        parameters: [
          { id: 'p1', name: 'Cutoff' },
          { id: 'p2', name: 'Drive' },
        ],
      }),
    ],
    {
      mappings: [
        joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' }),
        joined('a/k2.turn', 'p2', { id: 'm2', learnedAt: '1:cc21' }),
      ],
      ...ruled([rewrite(match(20), { number: 21 }), rewrite(match(21), { number: 20 })]),
    },
  )
  await page.open('/bench', rig)
  await drag('k1', 50)
  await moved('Drive')
  expect(await moves()).not.toMatch(/Cutoff/)
  await page.says('[data-testid=strangers]', /1 moved that was not meant to/)
  await page.says(TRACE, /1:cc20[\s\S]*1:cc21/)
})

it('a foot board that sends nothing until a switch is pressed is explained, and heals by doing what it says', async () => {
  const powerUp = {
    type: 'stack-set',
    controller: 'umbrek',
    template: 'nine-rings',
    stack: 'rows',
    set: { powerUp: null },
  } as const
  const BROKEN = '[data-testid=trace-broken]'
  await page.open('/bench', perform(AS_PERFORMED, 'x', [powerUp]).rig)
  await page.press('Umbrek 6')
  await touch(page, 'foot-2')
  await page.says(BROKEN, /Rows of Umbrek 6 shows no layer[\s\S]*First: Umbrek 6 · /)
  await touch(page, 'foot-1')
  await touch(page, 'foot-2')
  await page.says(BROKEN, 'counts only in Overture')
  await begin('Overture')
  await page.counts(BROKEN, 0)
})

it('a control is followed on the Desk too, and from there to the Bench', async () => {
  await page.open('/desk', AS_PERFORMED)
  await page.click('[data-control="fader-1"]')
  await page.click('[data-testid=follow-it]')
  await page.says('[data-testid=follow]', /Rings[\s\S]*Loomwright[\s\S]*Volume/)
  await page.click('[data-testid=play-it]')
  await page.find(SURFACE)
  await page.says(TRACE, /Rings/)
})

describe('a Bench that has stopped', () => {
  it('says so, with what to do, and goes on when it is started again', async () => {
    await page.open('/desk', AS_PERFORMED)
    // The first worker that is to play does not start.
    await page.atEveryLoad(`
      const Real = Worker
      let isBroken = true
      window.Worker = class extends Real {
        constructor(url, options) {
          const breaks = isBroken && String(url).includes('player')
          super(breaks ? '/desk' : url, options)
          if (breaks) isBroken = false
        }
      }`)
    await openBench(page)
    await page.says('[data-testid=bench-failure]', /stopped[\s\S]*untouched/)
    await page.press('Start the Bench again')
    await page.counts('[data-testid=bench-failure]', 0)
    await drag('fader-1')
    await moved('Volume')
    await page.errors()
  })
})
