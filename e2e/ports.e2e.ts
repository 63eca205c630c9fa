import { beforeEach, describe, expect, it } from 'vitest'
import { recipeIn, rowsOf, writeRecipe } from '../core/bench/recipes'
import { modelOf } from '../core/rig'
import { control, openBench, stands as standsOn, touch } from './support/bench'
import { MIDI_STAND_IN } from './support/midi-stand-in'
import { usePage } from './support/page'
import { AS_PERFORMED } from './support/rigs'

/** The demo, with a button that sends MMC, which is SysEx. */
const RIG = structuredClone(AS_PERFORMED)
const start = RIG.controllers.find(({ id }) => id === 'syzra')?.templates[0]?.base['run-1.press']
if (start) start.messages = [{ kind: 'mmc', moment: 'press', command: 'play' }]

const page = usePage()
beforeEach(async () => {
  await page.open('/desk', RIG)
  await page.atEveryLoad(MIDI_STAND_IN)
  await openBench(page)
})

const midi = (script: string): Promise<any> => page.run(script)
const plug = (id: string, name: string, type: 'input' | 'output') =>
  midi(`midi.plug('${id}', '${name}', '${type}')`)
const deliver = (id: string, ...messages: number[][]) =>
  midi(`midi.deliver('${id}', ...${JSON.stringify(messages)})`)
const side = (name: string) => page.click(`[data-side=${name}]`)
const stands = (id: string): Promise<number> => standsOn(page, id)
/** Let a real port stand for one of the rig. */
const choose = (key: string, name: string): Promise<void> => page.pick(`[data-port="${key}"] button`, name)
const trouble = (key: string, words: string | RegExp): Promise<void> =>
  page.says(`[data-port-trouble="${key}"]`, words)
const isHeard = (id: string): Promise<unknown> =>
  page.waitFor(`${id} to be heard`, () => midi(`return midi.isHeard('${id}')`))
const sentTo = (id: string): Promise<number[][]> => midi(`return midi.sent('${id}')`)
/** Ask for the ports of the computer. */
async function ask(): Promise<void> {
  await side('ports')
  await page.click('[data-testid=ask-ports]')
}
/** Ask for the ports, plug one in, and let it stand for one of the rig. */
async function join(
  key: string,
  id: string,
  name: string,
  type: 'input' | 'output' = 'input',
): Promise<void> {
  await plug(id, name, type)
  await choose(key, name)
  if (type === 'input') await isHeard(id)
}

describe('the ports of this computer', () => {
  it('are asked for only when they are wanted, and without SysEx', async () => {
    await expect.poll(() => midi('return midi.asked')).toEqual([])
    await ask()
    await page.says('[data-testid=bench-ports]', 'No port is plugged in')
    await expect.poll(() => midi('return midi.asked')).toEqual([false])
  })

  it('stand for those of the rig: a real controller moves simulated destinations, and what is not in the template is shown as that', async () => {
    await page.step(
      'stand for those of the rig: a real controller moves simulated destinations',
      async () => {
        await ask()
        await join('syzra/usb', 'in-1', 'Desk in')
        await side('moves')
        const fader = RIG.controllers.find(({ id }) => id === 'syzra')?.templates[0]?.base['fader-1.slide']
          ?.messages[0]
        if (fader?.kind !== 'cc14' || typeof fader.number !== 'number')
          throw new Error('fader 1 is no 14-bit CC')
        const number = fader.number
        const halves = (value: number): number[][] => [
          [0xb0, number, value >> 7],
          [0xb0, number + 32, value & 127],
        ]
        await deliver('in-1', ...halves(0), ...halves(12_000))
        await page.waitFor('the fader to stand there', async () => (await stands('fader-1')) === 73)
        await page.says('[data-testid=what-moves]', 'Volume')
        await page.says('[data-testid=trace]', /Rings/)
      },
    )
    await page.step('show what the template does not send as that, and say what is no message', async () => {
      await deliver('in-1', [0xbf, 3, 77])
      await page.click('[data-form=lines]')
      await page.says('[data-testid=tape-lines]', /not in the template[\s\S]*16:cc3/)
      await page.click('[data-form=strokes]')
    })
  })

  it('are unplugged in mid-air, said so, and found again; those of one name are not taken for one another', async () => {
    await page.step('are unplugged in mid-air, said so, and found again', async () => {
      await ask()
      await join('syzra/usb', 'in-1', 'Desk in')
      await midi(`midi.unplug('in-1')`)
      await trouble('syzra/usb', /Desk in was unplugged[\s\S]*goes on by itself/)
      await plug('in-1', 'Desk in', 'input')
      await page.counts('[data-port-trouble]', 0)
      await isHeard('in-1')
    })
    await page.step('of one name are not taken for one another', async () => {
      await midi(`midi.unplug('in-1')`)
      await trouble('syzra/usb', 'unplugged')
      // At another socket the same device may have another id: its name will do, until another port of the rig means that one.
      await plug('in-9', 'Desk in', 'input')
      await page.counts('[data-port-trouble]', 0)
      await choose('merrod/usb', 'Desk in')
      await trouble('syzra/usb', 'unplugged')
    })
  })

  it('are held by another program: said, with what to do', async () => {
    await ask()
    await plug('in-2', 'Feet in', 'input')
    await midi(`midi.hold('in-2', true)`)
    await choose('umbrek/din', 'Feet in')
    await trouble('umbrek/din', /held by another program[\s\S]*Close the port there/)
    await midi(`midi.hold('in-2', false)`)
    await page.click('[data-retry="umbrek/din"]')
    await isHeard('in-2')
    await page.says('[data-side=ports]', /Ports\s*1/)
  })

  it('are sent to: a simulated controller plays a real synth, and lights are set', async () => {
    await ask()
    await join('ondrel-vi/in', 'out-1', 'Synth out', 'output')
    await join('pelluna/usb-in', 'out-2', 'Pad lights', 'output')
    const lights = await page.waitFor('the lights', async () => {
      const sent = await sentTo('out-2')
      return sent.length > 30 ? sent : undefined
    })
    expect(lights.every(([status]) => status === 0xbf)).toBe(true)
    await page.press('Merrod 49')
    await touch(page, 'keys')
    const sent = await page.waitFor('a note', async () => {
      const all = await sentTo('out-1')
      return all.length >= 2 ? all : undefined
    })
    expect(sent.some(([status = 0]) => (status & 0xf0) === 0x90)).toBe(true)
  })

  it('are not heard where hardware only says again what it was told', async () => {
    await ask()
    await join('pelluna/usb', 'in-5', 'Pads in')
    await plug('out-2', 'Pad lights', 'output')
    await page.press('Pelluna 36')
    await side('listen')
    await page.click('[data-testid=listen]')
    await side('ports')
    await midi(`midi.echoes['out-2'] = 'in-5'`)
    const before = (await sentTo('out-2')).length
    await choose('pelluna/usb-in', 'Pad lights')
    await page.waitFor('the lights to be set again', async () => (await sentTo('out-2')).length > before + 30)
    await side('listen')
    await deliver('in-5', [0x93, 77, 90], [0x83, 77, 64])
    await page.reads('[data-testid=heard-tag]', '4:note77')
    await expect.poll(() => page.text('[data-testid=find-out]')).not.toContain('Heard before')
  })

  it('let a simulated controller hear a real program: lights it sets', async () => {
    await ask()
    await join('pelluna/usb-in hears', 'prog-1', 'Program out')
    await page.press('Pelluna 36')
    const light = (): Promise<string | null> => page.attribute(control('pad-1'), 'data-light')
    const before = await light()
    const colours = new Set<string | null>()
    for (const index of [5, 44]) {
      await deliver('prog-1', [0xbf, 0, index])
      await page.waitFor('another light', async () => {
        const now = await light()
        return now !== before && !colours.has(now)
      })
      colours.add(await light())
    }
    expect(colours.size).toBe(2)
  })

  it('are asked for SysEx once something needs it, and go on as they were', async () => {
    await ask()
    await join('syzra/usb', 'in-1', 'Desk in')
    await page.says('[data-testid=needs-sysex]', /Syzra 24/)
    await page.press('Ask for SysEx')
    await page.counts('[data-testid=needs-sysex]', 0)
    await expect.poll(() => midi('return midi.asked')).toEqual([false, true])
    await isHeard('in-1')
  })

  it('carry what a recipe asks the hardware for, and what that answers', async () => {
    await ask()
    await join('pelluna/usb', 'in-8', 'Pads out')
    await join('pelluna/usb-in', 'out-2', 'Pad lights', 'output')
    await page.press('Ask for SysEx')
    await page.counts('[data-testid=needs-sysex]', 0)
    await isHeard('in-8')
    await page.press('Pelluna 36')
    await side('prove')
    await page.click('[data-prove=recipes]')
    await page.click('[data-testid=recipe-new]')
    const message = 'F0 7D 22 {slot} [ {layer} {control} {kind} {channel-1} {number} ] {xor from 3} F7'
    const kinds = 'cc 0, note 1, program 2, pitchBend 3, channelPressure 4, polyPressure 5, nrpn 6, cc14 7'
    await page.type('[data-testid=recipe-text]', message)
    await page.type('[data-testid=recipe-kinds]', kinds)
    await page.type('[data-testid=recipe-request]', 'F0 7D 21 {high} F7')
    await page.says('[data-testid=recipe-problems]', '{high} is of a control')
    await page.type('[data-testid=recipe-request]', 'F0 7D 21 {slot} F7')
    await page.click('[data-testid=recipe-model] option:nth-child(3)')
    await page.click('[data-testid=recipe-done]')

    await page.click('[data-testid=recipe-fetch]')
    await page.waitFor('it to ask', async () =>
      JSON.stringify(await midi(`return midi.sent('out-2')`)).includes('[240,125,33,1,247]'),
    )
    const pelluna = RIG.controllers.find(({ id }) => id === 'pelluna')
    const [template] = pelluna?.templates ?? []
    const recipe = recipeIn({ message, kinds, behaviours: '', request: '' })
    if (!pelluna || !template || !recipe.ok) throw new Error('no template')
    const rows = rowsOf(modelOf(RIG, pelluna), pelluna, template, RIG.lightRoles)
    const dump = writeRecipe(
      recipe.recipe,
      rows.filter(({ kind }) => kind !== 'off'),
      { slot: 1, device: 0 },
    )
    if (!dump.ok) throw new Error(dump.why)
    await deliver('in-8', ...dump.messages)
    await page.waitFor('it to be read', async () =>
      /What Pelluna 36 sent: \d+ assignments in 1 message, for slot 1\.\s+They are the same/.test(
        await page.text('[data-testid=recipe-found]'),
      ),
    )
    await page.click('[data-testid=recipe-fetch]')
    await page.says('[data-testid=recipe-failure]', 'did not answer within 4 s')
    await page.press('Syzra 24')
    await page.says('[data-testid=recipes]', 'Real hardware takes its template')
  })

  it('light up on the Desk what is moved there, and select it where the hand is followed', async () => {
    await ask()
    await join('syzra/usb', 'in-1', 'Desk in')
    await page.click('[data-testid=follow-hand]')
    await page.press('Desk')
    await page.find('[data-testid=surface]')
    const sender = setInterval(() => void deliver('in-1', [0xb0, 18, 20], [0xb0, 50, 0]), 200)
    try {
      await page.counts('[data-heard="syzra/fader-3.slide"]', 1)
      await page.counts('[data-heard-cell="1 18"]', 1)
      await page.find('[data-control=fader-3][aria-pressed=true]')
    } finally {
      clearInterval(sender)
    }
    await page.counts('[data-heard]', 0)
  })

  it('are remembered on this computer, and not in the rig', async () => {
    await ask()
    await join('syzra/usb', 'in-1', 'Desk in')
    await join('umbrek/din', 'in-2', 'Feet in')
    await openBench(page)
    await plug('in-1', 'Desk in', 'input')
    await ask()
    await isHeard('in-1')
    await trouble('umbrek/din', 'Feet in was unplugged')
    await expect.poll(() => midi(`return JSON.stringify(localStorage).includes('Desk in')`)).toBe(true)
  })

  it.each([
    ['NotAllowedError', /was told not to give/],
    ['InvalidStateError', /does not answer/],
  ])('are refused with %s: said, with what to do', async (name, words) => {
    await midi(`midi.refuses = '${name}'`)
    await ask()
    await page.says('[data-testid=ports-trouble]', words)
    await midi(`midi.refuses = null`)
    await page.click('[data-testid=ask-ports]')
    await page.counts('[data-testid=ports-trouble]', 0)
  })

  it('are not offered by every browser', async () => {
    await midi('navigator.requestMIDIAccess = undefined')
    await ask()
    await page.says('[data-testid=ports-trouble]', /offers no MIDI ports/)
  })
})
