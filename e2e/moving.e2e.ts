import { beforeEach, describe, expect, it } from 'vitest'
import { readRig, type Rig, type RigInput } from '../core/rig'
import { sendingCc, testController, testDestination, testRig } from '../core/testing/rigs'
import { openBench } from './support/bench'
import { usePage } from './support/page'
import {
  bent,
  clicked,
  flipped,
  held,
  playedBy,
  setOff,
  struck,
  swept,
  touched,
  type Timed,
} from './support/hand-played'
import { MIDI_STAND_IN } from './support/midi-stand-in'

const place = (column: number, row: number) => ({ x: 6 + column * 22, y: 6 + row * 18, w: 10, h: 10 })
const tallow = (
  surface: Partial<NonNullable<RigInput['models']>[number]['surface']>,
  base: Parameters<typeof testController>[1],
): Rig =>
  testRig([testController('a', base, { name: 'Tallow 19' })], [testDestination('d', { name: 'Ondrel' })], {
    name: 'By moving',
    models: [
      {
        id: 'plain',
        name: 'Tallow 19',
        abilities: { connection: 'usb', relativeEncodings: ['twos-complement'] },
        surface: { width: 260, height: 60, controls: [], ...surface },
      },
    ],
  })

/** A controller of which nothing is drawn yet, and something that it is to move. */
const BLANK = tallow({}, {})
const EIGHT = [0, 1, 2, 3, 4, 5, 6, 7]
/** The same with a row of faders, a row of buttons, and an encoder that senses a touch. */
const DRAWN = tallow(
  {
    blocks: [
      { id: 'faders', label: 'Faders', rows: 1, columns: 8 },
      { id: 'buttons', label: 'Buttons', rows: 1, columns: 8 },
    ],
    controls: [
      ...EIGHT.map((n) => ({
        id: `fader-${n + 1}`,
        kind: 'fader' as const,
        label: `Fader ${n + 1}`,
        block: 'faders',
        gestures: ['slide' as const],
        place: place(n, 0),
      })),
      ...EIGHT.map((n) => ({
        id: `button-${n + 1}`,
        kind: 'button' as const,
        label: `Button ${n + 1}`,
        block: 'buttons',
        gestures: ['press' as const],
        place: place(n, 1),
      })),
      {
        id: 'encoder-1',
        kind: 'encoder' as const,
        label: 'Encoder 1',
        block: null,
        gestures: ['turn' as const, 'touch' as const],
        place: place(10, 0),
      },
    ],
  },
  {
    ...Object.fromEntries(EIGHT.map((n) => [`fader-${n + 1}.slide`, sendingCc(20 + n)])),
    ...Object.fromEntries(
      EIGHT.map((n) => [`button-${n + 1}.press`, sendingCc(102 + n, { behaviour: { kind: 'momentary' } })]),
    ),
    'encoder-1.turn': sendingCc(70, { behaviour: { kind: 'relative', encoding: 'twos-complement' } }),
    'encoder-1.touch': sendingCc(90, { behaviour: { kind: 'momentary' } }),
  },
)
const PORT = 'in-1'

const page = usePage()
/** Open a rig with real ports, of which one stands for the controller. */
async function plugIn(rig: Rig): Promise<void> {
  await page.open('/desk', rig)
  await page.atEveryLoad(MIDI_STAND_IN)
  await openBench(page)
  await page.click('[data-side=ports]')
  await page.click('[data-testid=ask-ports]')
  await page.run(`midi.plug('${PORT}', 'Tallow in', 'input')`)
  await pick('[data-port="a/out"]', 'Tallow in')
  await page.waitFor('it to be heard', () => page.run(`return midi.isHeard('${PORT}')`))
  await page.click('[data-side=listen]')
}
/** The same on the Desk, with the tools for drawing open. */
async function drawOnDesk(): Promise<void> {
  await page.press('Desk')
  await page.find('[data-testid=surface]')
  await page.click('[data-tool=draw]')
  await page.click('[data-testid=draw-by-moving]')
}

const pick = (css: string, name: string): Promise<void> => page.pick(`${css} button`, name)
const play = (timed: readonly Timed[]): Promise<unknown> => playedBy(page, PORT, timed)
const drawn = (): Promise<string> => page.text('[data-testid=moving-drawn]')
/** Choose what is drawn next. */
async function next(kind: string, columns: number): Promise<void> {
  if ((await page.count('[data-testid=something-else]')) > 0) await page.click('[data-testid=something-else]')
  await page.click(`#moving-kind option[value=${kind}]`)
  await page.type('[data-testid=moving-columns]', String(columns))
  await page.click('[data-testid=begin-drawing]')
}
/** The rig as it is saved. */
async function rigNow(): Promise<Rig> {
  const read = readRig(await page.exported())
  if (!read.ok) throw new Error('the file cannot be read')
  return read.rig
}

describe('a controller that is drawn by moving it', () => {
  beforeEach(async () => {
    await plugIn(BLANK)
    await page.click('[data-moving=draw]')
  })

  it('gets faders, buttons of three kinds, an encoder and a surface in under two minutes, and is what the hardware is', async () => {
    await page.step('is off until it is switched on, and then shows the place that is next', async () => {
      await play(swept(20))
      await page.counts('[data-testid=bench-surface] [data-control]', 0)
      await next('fader', 8)
      await page.counts('[data-testid=ghost]', 8)
      await page.says('[data-testid=moving-next]', /Fader 1, 1 of 8/)
    })
    await page.step(
      'gets faders, buttons of three kinds, an encoder and a surface in under two minutes',
      async () => {
        const began = Date.now()
        for (let fader = 0; fader < 8; fader++) await play(swept(20 + fader))
        await page.says('[data-testid=moving-next]', /All of these are done/)
        await next('button', 8)
        for (let button = 0; button < 3; button++) await play(held(102 + button))
        for (let button = 3; button < 6; button++) await play(flipped(102 + button))
        for (let button = 6; button < 8; button++) await play(setOff(102 + button, 100))
        await next('encoder', 1)
        await play(touched(90, clicked(70)))
        await play(held(91))
        await next('xy', 1)
        await play(touched(92, [...swept(74), ...swept(71, 1100)]))
        await page.waitFor('the surface to be drawn', async () => (await drawn()).includes('1:cc71'))
        expect(Date.now() - began).toBeLessThan(120_000)
      },
    )
    await page.step('is what the hardware is, control by control', async () => {
      await page.waitFor(
        'the last presses to be looked at',
        async () => !(await drawn()).includes('not sure'),
      )
      const rig = await rigNow()
      const [model] = rig.models
      const base = rig.controllers[0]?.templates[0]?.base ?? {}
      const told = (model?.surface.controls ?? []).flatMap(({ id, gestures }) =>
        gestures.map((gesture) => {
          const message = base[`${id}.${gesture}`]?.messages[0]
          return message?.kind === 'cc'
            ? `${id}.${gesture} cc${message.number} ${message.behaviour.kind} ${message.range.low}-${message.range.high}`
            : `${id}.${gesture} nothing`
        }),
      )
      expect(told).toEqual([
        ...Array.from({ length: 8 }, (_, index) => `fader-${index + 1}.slide cc${20 + index} absolute 0-127`),
        ...[1, 2, 3].map((index) => `button-${index}.press cc${101 + index} momentary 0-127`),
        ...[4, 5, 6].map((index) => `button-${index}.press cc${101 + index} toggle 0-127`),
        ...[7, 8].map((index) => `button-${index}.press cc${101 + index} trigger 100-100`),
        'encoder-1.turn cc70 relative 0-127',
        'encoder-1.push cc91 momentary 0-127',
        'encoder-1.touch cc90 momentary 0-127',
        'xy-1.x cc74 absolute 0-127',
        'xy-1.y cc71 absolute 0-127',
        'xy-1.touch cc92 momentary 0-127',
      ])
      expect(model?.surface.blocks.map(({ label, columns }) => `${label} ${columns}`)).toEqual([
        'Faders 8',
        'Buttons 8',
      ])
    })
    await page.step(
      'leaves a place out, takes the last one back, and only lights up what is known',
      async () => {
        await next('knob', 3)
        await page.click('[data-testid=leave-out]')
        await play(swept(80))
        await page.waitFor('the second knob', async () => (await drawn()).startsWith('Knob 2'))
        await play(swept(20))
        await page.says('[data-testid=moving-next]', /Knob 3, 3 of 3/)
        await page.click('[data-testid=take-back]')
        await page.says('[data-testid=moving-next]', 'Knob 2, 2 of 3')
        await page.counts('[data-control=knob-2]', 0)
        await play(swept(81))
        await page.waitFor('another in its place', async () => (await drawn()).includes('1:cc81'))
        await page.click('[data-testid=stop-moving]')
        await page.counts('[data-testid=ghost]', 0)
      },
    )
  })
})

describe('a keyboard that is drawn by moving it', () => {
  beforeEach(async () => {
    await plugIn(BLANK)
    await page.click('[data-moving=draw]')
  })

  it('is all its keys together, a zone where each key is bent by itself, or switches where that is asked for', async () => {
    await page.step('is all its keys together, from the lowest to the highest', async () => {
      await next('keybed', 1)
      await play([...struck(48), ...struck(84, 500), ...struck(60, 1000)])
      await page.waitFor('the keys', async () => /1:note48–84\s+keys/.test(await drawn()))
      await page.click('[data-testid=stop-moving]')
    })
    await page.step('is a zone where each key is bent by itself on a channel of its own', async () => {
      await next('keybed', 1)
      await play([...bent(41, 0, 2), ...bent(62, 900, 3)])
      await page.waitFor('the zone', async () =>
        (await drawn()).includes('keys, a channel for each: manager 1, at least 2 members'),
      )
      await page.click('[data-testid=stop-moving]')
    })
    await page.step('is switches, one a key, where that is asked for', async () => {
      await next('footswitch', 2)
      await page.says('[data-testid=moving-next]', /1 of 2/)
      // A key that the template has from its keyboard is no switch by itself.
      await play(struck(48))
      await page.says('[data-testid=moving-next]', /1 of 2/)
      await page.click('[data-testid=something-else]')
      await page.click('[data-testid=takes-keys]')
      await page.click('[data-testid=begin-drawing]')
      await play(struck(48))
      await page.waitFor('the key', async () => (await drawn()).includes('1:note48'))
      await play(struck(50))
      await page.waitFor('the other key', async () => (await drawn()).includes('1:note50'))
      await page.click('[data-testid=stop-moving]')
    })
  })
})

describe('a controller that is learned by moving it', () => {
  beforeEach(async () => {
    await plugIn(DRAWN)
    await page.click('[data-moving=learn]')
  })

  it('lays what is sent beside what is written; one is written down, the other kept as it is written', async () => {
    await page.step(
      'lays what is sent beside what is written, one control of a block after the other',
      async () => {
        await pick('[data-testid=learn-which]', 'Faders')
        await page.click('[data-testid=begin-learning]')
        await play(swept(20))
        await play(touched(110, swept(61)))
        await page.says('[data-testid=moving-others]', '1:cc110')
        await play(swept(62))
        const learned = (): Promise<string> => page.text('[data-testid=moving-learned]')
        await page.waitFor('the third', async () => (await learned()).includes('1:cc62'))
        await expect
          .poll(learned)
          .toMatch(
            /Fader 1[\s\S]*It sends what is written[\s\S]*Fader 2[\s\S]*written: Slide sends CC 21[\s\S]*heard: Slide sends CC 61/,
          )
      },
    )
    await page.step('writes one down, and keeps the other as it is written', async () => {
      await page.click('[data-testid=write-heard]')
      await page.counts('[data-testid=write-heard]', 1)
      await page.click('[data-testid=keep-written]')
      await page.waitFor('both', async () => {
        const text = await page.text('[data-testid=moving-learned]')
        return /Fader 2[\s\S]*It sends what is written[\s\S]*Fader 3[\s\S]*Kept: change the hardware/.test(
          text,
        )
      })
      await page.click('[data-testid=stop-moving]')
    })
  })
})

describe('a control that sends nothing', () => {
  beforeEach(async () => {
    await plugIn(DRAWN)
    await page.click('[data-moving=learn]')
  })

  it('is asked about after a while, marked, and gone past', async () => {
    await pick('[data-testid=learn-which]', 'Buttons')
    await page.click('[data-testid=begin-learning]')
    await page.says('[data-testid=moving-next]', /Button 1, 1 of 8/)
    await page.says('[data-testid=moving-silent]', 'Nothing has come for 12 s')
    await page.click('[data-testid=mark-silent]')
    await page.says('[data-testid=moving-next]', 'Button 2, 2 of 8')
    await page.counts('.silent[data-control=button-1]', 1)
    await page.click('[data-testid=stop-moving]')
  })
})

describe('on the Desk', () => {
  it('draws by moving too, with the next place on the surface, and names by a pattern', async () => {
    await plugIn(BLANK)
    await drawOnDesk()
    await page.type('#moving-names', 'Send {a}')
    await next('knob', 2)
    await page.counts('[data-testid=surface] [data-testid=ghost]', 2)
    await play(swept(86))
    await page.waitFor('the first', async () => (await drawn()).startsWith('Send a'))
    await page.click('[data-testid=stop-moving]')
    await page.counts('[data-testid=surface] [data-testid=ghost]', 0)
  })

  it('joins what is picked to the control that is moved, and not to its touch; another is taken instead', async () => {
    await plugIn(DRAWN)
    await page.press('Desk')
    await page.click('[data-lens=destinations]')
    await page.click('[data-board-item=p1]')
    await page.click('[data-testid=join-by-moving-now]')
    await page.says('[data-testid=join-by-moving]', /Now move the control for One/)
    // The encoder is touched, turned, and let go.
    await play(touched(90, clicked(70)))
    await page.says('[data-testid=joined-last]', 'One is moved by Encoder 1')
    const joined = async (): Promise<Array<string | null>> =>
      (await rigNow()).mappings.map(({ gesture, parameter }) => `${gesture} ${parameter}`)
    await expect.poll(joined).toEqual(['a/encoder-1.turn p1'])
    await page.click('[data-take-instead]')
    await page.says('[data-testid=joined-last]', 'One is moved by Encoder 1 touch')
    await page.click('[data-testid=stop-joining]')
    await page.counts('[data-testid=join-by-moving]', 0)
  })

  it('draws nothing in another rig of what was moved in the one before', async () => {
    await plugIn(BLANK)
    await drawOnDesk()
    await next('wheel', 1)
    await page.click('[data-testid=rig-menu]')
    await page.says('body', 'Duplicate')
    // The hand is not seen to be done when the other rig is opened.
    await page.runAsync(
      `const [port, timed, done] = arguments
      const now = performance.now()
      for (const { at, bytes } of timed) midi.deliverAt(port, now - 900 + at, bytes)
      setTimeout(() => {
        ;[...document.querySelectorAll('button')].find((each) => each.textContent.trim() === 'Duplicate').click()
        done()
      }, 60)`,
      PORT,
      swept(95),
    )
    await page.waitFor('the copy', async () =>
      /By moving.*copy|copy.*By moving/i.test(await page.text('[data-testid=rig-menu]')),
    )
    await page.counts('[data-testid=surface] [data-control^=wheel]', 0)
    await page.counts('[data-testid=moving-now]', 0)
    await page.counts('[data-testid=ghost]', 0)
  })
})
