import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { nineRingsRig } from '../demo'
import { writeRig } from '../core/rig/parse'
import { recipeIn, rowsOf, writeRecipe } from '../core/bench/recipes'
import { modelOf } from '../core/rig'
import { importText, pickOption, setField, startSession, type Session } from './browser'
import { MIDI_STAND_IN } from './midi-stand-in'

/** The demo, with a button that sends MMC, which is SysEx. */
const RIG = structuredClone(nineRingsRig('as-performed'))
const start = RIG.controllers.find(({ id }) => id === 'syzra')?.templates[0]?.base['run-1.press']
if (start) start.messages = [{ kind: 'mmc', moment: 'press', command: 'play' }]

let page: Session
beforeAll(async () => {
  page = await startSession()
  await page.devTools('Page.addScriptToEvaluateOnNewDocument', { source: MIDI_STAND_IN })
  await page.go('/desk')
  await page.find('[data-testid=surface]')
  await importText(page, 'performed.json', writeRig(RIG))
  await page.go('/bench')
  await page.find('[data-testid=bench-surface]')
})
afterAll(() => page.quit())

const midi = (script: string): Promise<any> => page.driver.executeScript(script)
const plug = (id: string, name: string, type: 'input' | 'output') =>
  midi(`midi.plug('${id}', '${name}', '${type}')`)
const deliver = (id: string, ...messages: number[][]) =>
  midi(`midi.deliver('${id}', ...${JSON.stringify(messages)})`)
const side = (name: string) => page.click(`[data-side=${name}]`)
const stands = async (id: string): Promise<number> => {
  const label = await (
    await page.find(`[data-testid=bench-surface] [data-control="${id}"]`)
  ).getAttribute('aria-label')
  return Number(/(\d+) percent/.exec(label ?? '')?.[1] ?? -1)
}
/** Let a real port stand for one of the rig. */
const choose = (key: string, name: string): Promise<void> =>
  pickOption(page, `[data-port="${key}"] button`, name)
const trouble = (key: string) => page.text(`[data-port-trouble="${key}"]`)

describe('the ports of this computer', () => {
  it('are asked for only when they are wanted, and without SysEx', async () => {
    await expect.poll(() => midi('return midi.asked')).toEqual([])
    await side('ports')
    await page.click('[data-testid=ask-ports]')
    await page.waitFor('the ports', async () =>
      (await page.text('[data-testid=bench-ports]')).includes('No port is plugged in'),
    )
    await expect.poll(() => midi('return midi.asked')).toEqual([false])
  })

  it('stand for those of the rig: a real controller moves simulated destinations', async () => {
    await plug('in-1', 'Desk in', 'input')
    await choose('syzra/usb', 'Desk in')
    await page.waitFor('it to be heard', async () => midi(`return midi.isHeard('in-1')`))
    await page.driver.executeScript(`document.querySelector('[data-side=moves]').click()`)
    const fader = nineRingsRig('as-performed').controllers.find(({ id }) => id === 'syzra')?.templates[0]
      ?.base['fader-1.slide']?.messages[0]
    if (fader?.kind !== 'cc14' || typeof fader.number !== 'number') throw new Error('fader 1 is no 14-bit CC')
    const number = fader.number
    const halves = (value: number): number[][] => [
      [0xb0, number, value >> 7],
      [0xb0, number + 32, value & 127],
    ]
    await deliver('in-1', ...halves(0), ...halves(12_000))
    await page.waitFor('the fader to stand there', async () => (await stands('fader-1')) === 73)
    await page.waitFor('what moves', async () =>
      (await page.text('[data-testid=what-moves]')).includes('Volume'),
    )
    await expect.poll(() => page.text('[data-testid=trace]')).toMatch(/Rings/)
  })

  it('show what the template does not send as that, and say what is no message', async () => {
    await deliver('in-1', [0xbf, 3, 77])
    await page.click('[data-form=lines]')
    await page.waitFor('it to be listed', async () =>
      /not in the template[\s\S]*16:cc3/.test(await page.text('[data-testid=tape-lines]')),
    )
    await page.click('[data-form=strokes]')
  })

  it('are unplugged in mid-air, said so, and found again', async () => {
    await side('ports')
    await midi(`midi.unplug('in-1')`)
    await page.waitFor('it to be said', async () =>
      /Desk in was unplugged[\s\S]*goes on by itself/.test(await trouble('syzra/usb')),
    )
    await plug('in-1', 'Desk in', 'input')
    await page.waitFor('it to be heard again', async () => (await page.count('[data-port-trouble]')) === 0)
    await page.waitFor('it to be heard', async () => midi(`return midi.isHeard('in-1')`))
  })

  it('of one name are not taken for one another', async () => {
    await midi(`midi.unplug('in-1')`)
    await page.waitFor('it to be missed', async () => (await trouble('syzra/usb')).includes('unplugged'))
    // At another socket the same device may have another id: its name will do, until another port of the rig means that one.
    await plug('in-9', 'Desk in', 'input')
    await page.waitFor('it to be found by name', async () => (await page.count('[data-port-trouble]')) === 0)
    await choose('merrod/usb', 'Desk in')
    await page.waitFor('it to be missed', async () => (await trouble('syzra/usb')).includes('unplugged'))
    await choose('merrod/usb', 'simulated')
    await midi(`midi.unplug('in-9')`)
    await plug('in-1', 'Desk in', 'input')
    await page.waitFor('it to be heard', async () => midi(`return midi.isHeard('in-1')`))
  })

  it('are held by another program: said, with what to do', async () => {
    await plug('in-2', 'Feet in', 'input')
    await midi(`midi.hold('in-2', true)`)
    await choose('umbrek/din', 'Feet in')
    await page.waitFor('it to be said', async () =>
      /held by another program[\s\S]*Close the port there/.test(await trouble('umbrek/din')),
    )
    await expect.poll(() => page.text('[data-side=ports]')).toMatch(/Ports 1/)
    await midi(`midi.hold('in-2', false)`)
    await page.click('[data-retry="umbrek/din"]')
    await page.waitFor('it to be heard', async () => midi(`return midi.isHeard('in-2')`))
  })

  it('are sent to: a simulated controller plays a real synth, and lights are set', async () => {
    await plug('out-1', 'Synth out', 'output')
    await plug('out-2', 'Pad lights', 'output')
    await choose('ondrel-vi/in', 'Synth out')
    await choose('pelluna/usb-in', 'Pad lights')
    const lights = await page.waitFor('the lights', async () => {
      const sent = (await midi(`return midi.sent('out-2')`)) as number[][]
      return sent.length > 30 ? sent : undefined
    })
    expect((lights ?? []).every(([status]) => status === 0xbf)).toBe(true)
    await page.press('Merrod 49')
    const origin = await page.find('[data-testid=bench-surface] [data-control="keys"]')
    await page.driver.actions().move({ origin }).press().release().perform()
    const sent = await page.waitFor('a note', async () => {
      const all = (await midi(`return midi.sent('out-1')`)) as number[][]
      return all.length >= 2 ? all : undefined
    })
    expect((sent ?? []).some(([status = 0]) => (status & 0xf0) === 0x90)).toBe(true)
  })

  it('are not heard where hardware only says again what it was told', async () => {
    await plug('in-5', 'Pads in', 'input')
    await choose('pelluna/usb', 'Pads in')
    await page.waitFor('it to be heard', async () => midi(`return midi.isHeard('in-5')`))
    await page.press('Pelluna 36')
    await side('listen')
    await page.click('[data-testid=listen]')
    await side('ports')
    await choose('pelluna/usb-in', 'simulated')
    await midi(`midi.echoes['out-2'] = 'in-5'`)
    const before = ((await midi(`return midi.sent('out-2')`)) as number[][]).length
    await choose('pelluna/usb-in', 'Pad lights')
    await page.waitFor(
      'the lights to be set again',
      async () => ((await midi(`return midi.sent('out-2')`)) as number[][]).length > before + 30,
    )
    await side('listen')
    await deliver('in-5', [0x93, 77, 90], [0x83, 77, 64])
    await page.waitFor('a hand', async () => (await page.text('[data-testid=heard-tag]')) === '4:note77')
    await expect.poll(() => page.text('[data-testid=find-out]')).not.toContain('Heard before')
    await page.click('[data-testid=stop-listening]')
    await midi(`midi.echoes = {}`)
    await side('ports')
    await choose('pelluna/usb', 'simulated')
  })

  it('let a simulated controller hear a real program: lights it sets', async () => {
    await choose('pelluna/usb-in', 'simulated')
    await plug('prog-1', 'Program out', 'input')
    await choose('pelluna/usb-in hears', 'Program out')
    await page.waitFor('it to be heard', async () => midi(`return midi.isHeard('prog-1')`))
    await page.press('Pelluna 36')
    const light = async (): Promise<string | null> =>
      (await page.find('[data-testid=bench-surface] [data-control="pad-1"]')).getAttribute('data-light')
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
    await page.find('[data-testid=needs-sysex]')
    await expect.poll(() => page.text('[data-testid=needs-sysex]')).toMatch(/Syzra 24/)
    await page.press('Ask for SysEx')
    await page.waitFor('it to be allowed', async () => (await page.count('[data-testid=needs-sysex]')) === 0)
    await expect.poll(() => midi('return midi.asked')).toEqual([false, true])
    await page.waitFor('it to be heard', async () => midi(`return midi.isHeard('in-1')`))
    expect(await page.errors()).toEqual([])
  })

  it('carry what a recipe asks the hardware for, and what that answers', { timeout: 120_000 }, async () => {
    await plug('in-8', 'Pads out', 'input')
    await choose('pelluna/usb', 'Pads out')
    await choose('pelluna/usb-in', 'Pad lights')
    await page.press('Pelluna 36')
    await side('prove')
    await page.click('[data-prove=recipes]')
    await page.click('[data-testid=recipe-new]')
    const message = 'F0 7D 22 {slot} [ {layer} {control} {kind} {channel-1} {number} ] {xor from 3} F7'
    const kinds = 'cc 0, note 1, program 2, pitchBend 3, channelPressure 4, polyPressure 5, nrpn 6, cc14 7'
    await setField(page, '[data-testid=recipe-text]', message)
    await setField(page, '[data-testid=recipe-kinds]', kinds)
    await setField(page, '[data-testid=recipe-request]', 'F0 7D 21 {high} F7')
    await page.waitFor('it to be refused', async () =>
      (await page.text('[data-testid=recipe-problems]')).includes('{high} is of a control'),
    )
    await setField(page, '[data-testid=recipe-request]', 'F0 7D 21 {slot} F7')
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
    await page.waitFor('it to say that nothing came', async () =>
      (await page.text('[data-testid=recipe-failure]')).includes('did not answer within 4 s'),
    )
    await page.press('Syzra 24')
    await page.waitFor('it to be for the other only', async () =>
      (await page.text('[data-testid=recipes]')).includes('Real hardware takes its template'),
    )
    await side('ports')
    await choose('pelluna/usb', 'simulated')
  })

  it('light up on the Desk what is moved there, and select it where the hand is followed', async () => {
    await page.click('[data-testid=follow-hand]')
    await page.press('Desk')
    await page.find('[data-testid=surface]')
    const sender = setInterval(() => void deliver('in-1', [0xb0, 18, 20], [0xb0, 50, 0]), 200)
    try {
      await page.waitFor(
        'the control',
        async () => (await page.count('[data-heard="syzra/fader-3.slide"]')) === 1,
      )
      await page.waitFor('its cells', async () => (await page.count('[data-heard-cell="1 18"]')) === 1)
      await page.waitFor(
        'it to be selected',
        async () =>
          (await (await page.find('[data-control=fader-3]')).getAttribute('aria-pressed')) === 'true',
      )
    } finally {
      clearInterval(sender)
    }
    await page.waitFor('it to go out', async () => (await page.count('[data-heard]')) === 0)
    expect(await page.errors()).toEqual([])
  })

  it('are remembered on this computer, and not in the rig', async () => {
    await page.go('/bench')
    await page.find('[data-testid=bench-surface]')
    await plug('in-1', 'Desk in', 'input')
    await side('ports')
    await page.click('[data-testid=ask-ports]')
    await page.waitFor('it to be heard', async () => midi(`return midi.isHeard('in-1')`))
    await page.waitFor('the others to be missed', async () =>
      (await trouble('umbrek/din')).includes('Feet in was unplugged'),
    )
    await expect.poll(() => midi(`return JSON.stringify(localStorage).includes('Desk in')`)).toBe(true)
  })

  it.each([
    ['NotAllowedError', /was told not to give/],
    ['InvalidStateError', /does not answer/],
  ])('are refused with %s: said, with what to do', async (name, words) => {
    await page.go('/bench')
    await page.find('[data-testid=bench-surface]')
    await side('ports')
    await midi(`midi.refuses = '${name}'`)
    await page.click('[data-testid=ask-ports]')
    await page.waitFor('it to be said', async () =>
      words.test(await page.text('[data-testid=ports-trouble]')),
    )
    await midi(`midi.refuses = null`)
    await page.click('[data-testid=ask-ports]')
    await page.waitFor(
      'them to be given',
      async () => (await page.count('[data-testid=ports-trouble]')) === 0,
    )
  })

  it('are not offered by every browser', async () => {
    await page.go('/bench')
    await page.find('[data-testid=bench-surface]')
    await midi('navigator.requestMIDIAccess = undefined')
    await side('ports')
    await page.click('[data-testid=ask-ports]')
    await page.waitFor('it to be said', async () =>
      /offers no MIDI ports/.test(await page.text('[data-testid=ports-trouble]')),
    )
  })
})
