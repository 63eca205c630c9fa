import { parseMidi } from 'midi-file'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { nineRingsRig } from '../demo'
import { perform } from '../core/rig'
import { writeRig } from '../core/rig/parse'
import { joined, rewrite, ruled } from '../core/testing/mapped-rigs'
import { sendingCc, testController, testDestination, testRig } from '../core/testing/rigs'
import { By, importText, Key, messagesKept, setField, startSession, type Session } from './browser'

let page: Session
beforeAll(async () => {
  page = await startSession()
  await page.go('/bench')
  await page.find('[data-testid=bench-surface]')
})
afterAll(() => page.quit())

const SURFACE = '[data-testid=bench-surface]'
const control = (id: string): string => `${SURFACE} [data-control="${id}"]`
async function drag(id: string, up: number, ms = 400): Promise<void> {
  const origin = await page.find(control(id))
  await page.driver
    .actions()
    .move({ origin })
    .press()
    .move({ origin, x: 0, y: -up, duration: ms })
    .release()
    .perform()
}
const moves = async (): Promise<string[]> => {
  const found = await page.driver.findElements(By.css('[data-move]'))
  return Promise.all(found.map((each) => each.getText()))
}
const messages = (): Promise<number> => messagesKept(page)
async function begin(passage: string): Promise<void> {
  await page.click('button[aria-label^="Passage"]')
  const option = By.xpath(`//*[@role="option"][contains(., "${passage}")]`)
  await page.waitFor(passage, async () => (await page.driver.findElements(option)).length === 1)
  await page.driver.findElement(option).click()
}
const stands = async (id: string): Promise<number> =>
  Number(
    /(\d+) percent/.exec((await (await page.find(control(id))).getAttribute('aria-label')) ?? '')?.[1] ?? -1,
  )

describe('playing the demo as found', () => {
  it('moves two parameters at once, and the message can be followed to why', async () => {
    await drag('fader-2', 60)
    const listed = await page.waitFor('two that move', async () => {
      const now = await moves()
      return now.length > 1 ? now : undefined
    })
    expect((listed ?? []).join('\n')).toMatch(/Volume/)
    expect((listed ?? []).join('\n')).toMatch(/Detune/)
    await expect.poll(() => page.text('[data-testid=strangers]')).toMatch(/not meant to/)
    await expect
      .poll(() => page.text('[data-testid=trace]'))
      .toMatch(/Dust[\s\S]*1:cc17\+49[\s\S]*Loomwright/)
    await page.click('[data-testid=trace] button[aria-label^="The next"]')
    await expect.poll(() => page.text('[data-testid=trace]')).toMatch(/Ondrel VI/)
  })

  it('draws a lane for each control that moved, and says the same as lines with bytes', async () => {
    await drag('knob-1', 60)
    await page.waitFor('two lanes', async () => (await page.count('[data-lane]')) === 2)
    await page.click('[data-form=lines]')
    await expect.poll(() => page.text('[data-testid=tape-lines]')).toMatch(/1:cc110[\s\S]*b0 6e/)
    await page.click('[data-form=strokes]')
  })

  it('is kept as a Standard MIDI File and as CSV, with every message', async () => {
    const count = await messages()
    await page.click('[data-testid=captures]')
    await page.click('[data-testid=keep-midi]')
    const file = parseMidi(await page.downloadedBytes('.mid'))
    const events = file.tracks.flat().filter((event) => !('meta' in event))
    expect(events.length).toBeGreaterThanOrEqual(count)
    await page.click('[data-testid=captures]')
    await page.click('[data-testid=keep-csv]')
    const lines = (await page.downloaded('.csv')).trim().split('\r\n')
    expect(lines).toHaveLength(count + 1)
    expect(lines[1]).toMatch(/Syzra 24,Dust,1:cc17\+49/)
  })

  it('is narrowed to what is looked for, and what is shown is what is kept', async () => {
    await page.click('[data-testid=narrow]')
    await setField(page, '#narrow-text', 'Detune')
    await page.click('[data-form=lines]')
    await page.waitFor('what is like it', async () => {
      const text = await page.text('[data-testid=tape-lines]')
      return text.includes('Dust') && !text.includes('1:cc110')
    })
    await page.press('Show everything')
    await page.waitFor('everything', async () =>
      (await page.text('[data-testid=tape-lines]')).includes('1:cc110'),
    )
    await page.click('[data-testid=narrow]')
    await page.click('[data-form=strokes]')
  })

  it('asks a destination to misbehave, and sees what comes of it', async () => {
    await page.click('[data-side=destinations]')
    await page.click('[data-manners=loomwright]')
    await page.click('[data-misbehaves=merges-channels]')
    await expect.poll(() => page.text('[data-side=destinations]')).toMatch(/1!/)
    await page.click('[data-misbehaves=merges-channels]')
    await page.click('[data-side=moves]')
  })

  it('is held still, and what passes meanwhile is not kept', async () => {
    await page.click('[data-testid=hold-still]')
    const before = await messages()
    const from = await stands('knob-2')
    await drag('knob-2', 30)
    await expect.poll(() => stands('knob-2')).toBeGreaterThan(from)
    expect(await messages()).toBe(before)
    await page.click('[data-testid=hold-still]')
  })

  it('is played by keyboard alone', async () => {
    await page.driver.executeScript(`document.querySelector('${control('knob-3')}').focus()`)
    const before = await stands('knob-3')
    await page.keys(Key.ARROW_UP, Key.ARROW_UP)
    await page.waitFor('it to stand higher', async () => (await stands('knob-3')) > before)
    await page.driver.executeScript(`document.querySelector('${control('key-1')}').focus()`)
    const sent = await messages()
    await page.keys(Key.SPACE)
    await page.waitFor('the press', async () => (await messages()) > sent)
  })

  it('plays a keyboard by the letters of the computer, an octave further with X, and lets go', async () => {
    await page.press('Merrod 49')
    await page.click('[data-form=lines]')
    await page.press('Clear')
    await page.driver.executeScript(`document.querySelector('${control('keys')}').focus()`)
    await page.keys('a', 'x', 'd')
    const lines = await page.waitFor('two keys', async () => {
      const text = await page.text('[data-testid=tape-lines]')
      return /note60\b/.test(text) && /note76\b/.test(text) ? text : undefined
    })
    expect(lines).toMatch(/note76\n0/)
    await page.waitFor('all keys to be let go', async () => (await page.count('[data-held-key]')) === 0)
    await page.click('[data-form=strokes]')
    await page.press('Syzra 24')
  })

  it('turns by the wheel, and three fingers move three faders', async () => {
    const before = await stands('knob-4')
    await page.driver.executeScript(
      `document.querySelector('${control('knob-4')}').dispatchEvent(new WheelEvent('wheel', { deltaY: -100, bubbles: true, cancelable: true }))`,
    )
    await page.waitFor('it to turn', async () => (await stands('knob-4')) > before)
    const faders = ['fader-4', 'fader-5', 'fader-6']
    const places = await Promise.all(faders.map(async (id) => (await page.find(control(id))).getRect()))
    const points = (up: number) =>
      places.map(({ x, y, width, height }, id) => ({ x: x + width / 2, y: y + height / 2 - up, id }))
    await page.devTools('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: points(0) })
    for (const up of [5, 15, 25, 35])
      await page.devTools('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: points(up) })
    await page.devTools('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
    for (const id of faders) await page.waitFor(`${id} to move`, async () => (await stands(id)) > 10)
  })

  it('begins a passage, which sets what everything shows', async () => {
    await begin('Transit')
    await page.waitFor('the layer', async () =>
      /Transit/.test(await page.text('button[aria-label^="Layer of Knobs"]')),
    )
  })
})

describe('a wheel that rests in its centre', () => {
  it('starts there, bends both ways, and goes back when it is let go', async () => {
    await page.go('/bench')
    await page.find(SURFACE)
    await page.press('Merrod 49')
    await expect.poll(() => stands('bend')).toBe(50)
    const origin = await page.find(control('bend'))
    await page.driver
      .actions()
      .move({ origin })
      .press()
      .move({ origin, x: 0, y: -30, duration: 100 })
      .perform()
    await page.waitFor('it to be bent', async () => (await stands('bend')) > 60)
    await page.driver.actions().release().perform()
    await page.waitFor('it to be back', async () => (await stands('bend')) === 50)
    await expect.poll(() => stands('mod')).toBe(0)
  })
})

describe('keys of a per-note zone, and a parameter of what is selected', () => {
  it('are bent and leaned into one by one, and move the track that is selected', async () => {
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
    await importText(page, 'zone.json', writeRig(rig))
    await page.go('/bench')
    await page.find(SURFACE)
    await page.click('[data-side=destinations]')
    await page.click('[data-selected-in=d] button')
    const option = By.xpath(`//*[@role="option"][contains(., "Track 2")]`)
    await page.waitFor('the tracks', async () => (await page.driver.findElements(option)).length === 1)
    await page.driver.findElement(option).click()
    await page.click('[data-side=moves]')
    await drag('k1', 60)
    await page.waitFor('the second track', async () => (await moves()).join().includes('Track 2'))
    expect((await moves()).join()).not.toContain('Track 1')
    await expect.poll(() => page.text('[data-testid=trace]')).toMatch(/Track 2/)

    await page.press('Clear')
    const origin = await page.find(control('k6'))
    await page.driver
      .actions()
      .move({ origin })
      .press()
      .move({ origin, x: 40, y: -30, duration: 200 })
      .release()
      .perform()
    await page.click('[data-form=lines]')
    const lines = await page.waitFor('what a finger does', async () => {
      const text = await page.text('[data-testid=tape-lines]')
      return /2:bend/.test(text) && /2:pressure/.test(text) ? text : undefined
    })
    expect(lines).toMatch(/2:note\d+/)
    expect(lines).not.toMatch(/3:bend/)
    await page.click('[data-form=strokes]')
  })
})

describe('two rules of a cable that are crossed', () => {
  it('are seen by what moves, and named by the way of the message', async () => {
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
    await page.go('/desk')
    await page.find('[data-testid=surface]')
    await importText(page, 'crossed.json', writeRig(rig))
    await page.go('/bench')
    await drag('k1', 50)
    await page.waitFor('the wrong one to move', async () => (await moves()).join().includes('Drive'))
    expect((await moves()).join()).not.toMatch(/Cutoff/)
    await expect.poll(() => page.text('[data-testid=strangers]')).toMatch(/1 moved that was not meant to/)
    await expect.poll(() => page.text('[data-testid=trace]')).toMatch(/1:cc20[\s\S]*1:cc21/)
  })
})

describe('a foot board that sends nothing until a switch is pressed', () => {
  it('is explained, and heals by doing what it says', async () => {
    const rig = perform(nineRingsRig('as-performed'), 'x', [
      {
        type: 'stack-set',
        controller: 'umbrek',
        template: 'nine-rings',
        stack: 'rows',
        set: { powerUp: null },
      },
    ]).rig
    await page.go('/desk')
    await page.find('[data-testid=surface]')
    await importText(page, 'board.json', writeRig(rig))
    await page.go('/bench')
    await page.press('Umbrek 6')
    const foot = async (id: string): Promise<void> => {
      const origin = await page.find(control(id))
      await page.driver.actions().move({ origin }).press().release().perform()
    }
    await foot('foot-2')
    await expect
      .poll(() => page.text('[data-testid=trace-broken]'))
      .toMatch(/Rows of Umbrek 6 shows no layer[\s\S]*First: Umbrek 6 · /)
    await foot('foot-1')
    await foot('foot-2')
    await page.waitFor('the next thing in the way', async () =>
      (await page.text('[data-testid=trace-broken]')).includes('counts only in Overture'),
    )
    await begin('Overture')
    await page.waitFor('it to arrive', async () => (await page.count('[data-testid=trace-broken]')) === 0)
    expect(await page.errors()).toEqual([])
  })

  it('is followed on the Desk too, and from there to the Bench', async () => {
    await page.go('/desk')
    await page.click('[data-control="fader-1"]')
    await page.click('[data-testid=follow-it]')
    await expect.poll(() => page.text('[data-testid=follow]')).toMatch(/Rings[\s\S]*Loomwright[\s\S]*Volume/)
    await page.click('[data-testid=play-it]')
    await page.find(SURFACE)
    await expect.poll(() => page.text('[data-testid=trace]')).toMatch(/Rings/)
  })
})

describe('a Bench that has stopped', () => {
  it('says so, with what to do, and goes on when it is started again', async () => {
    // The first worker that is to play does not start.
    await page.devTools('Page.addScriptToEvaluateOnNewDocument', {
      source: `
        const Real = Worker
        let isBroken = true
        window.Worker = class extends Real {
          constructor(url, options) {
            const breaks = isBroken && String(url).includes('player')
            super(breaks ? '/no-such-worker.js' : url, options)
            if (breaks) isBroken = false
          }
        }`,
    })
    await page.go('/bench')
    await expect.poll(() => page.text('[data-testid=bench-failure]')).toMatch(/stopped[\s\S]*untouched/)
    await page.press('Start the Bench again')
    await page.waitFor('it to go', async () => (await page.count('[data-testid=bench-failure]')) === 0)
    await drag('fader-1', 60)
    await page.waitFor('something that moves', async () => (await moves()).length > 0)
  })
})
