import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { parseMidi } from 'midi-file'
import { nineRingsRig } from '../demo'
import { By, giveFile, messagesKept, openPerformed, startSession, whenStill, type Session } from './browser'

/** Another reader and writer of Standard MIDI Files. */
const tool = (name: 'MIDICSV' | 'CSVMIDI', fallback: string, ...given: string[]): string =>
  execFileSync(process.env[name] ?? fallback, given, { encoding: 'utf8' })

let page: Session
let folder = ''
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'captures-'))
  page = await startSession()
  await page.go('/desk')
  await page.find('[data-testid=surface]')
  await openPerformed(page)
  await page.go('/bench')
  await page.find('[data-testid=bench-surface]')
})
afterAll(async () => {
  await page.quit()
  rmSync(folder, { recursive: true, force: true })
})

/** Give bytes as a file to the Bench's own way of opening captures. */
function openCapture(name: string, bytes: Uint8Array): Promise<void> {
  const choose = async (): Promise<void> => {
    await page.click('[data-testid=captures]')
    await page.click('[data-testid=open-capture]')
  }
  return giveFile(page, choose, name, bytes)
}
const messages = (): Promise<number> => messagesKept(page)
/** What has moved, each by its name in the page. */
async function movedNow(): Promise<(string | null)[]> {
  const each = await page.driver.findElements(By.css('[data-move]'))
  return (await Promise.all(each.map((one) => one.getAttribute('data-move')))).toSorted()
}
async function drag(id: string, up: number): Promise<void> {
  const origin = await page.find(`[data-testid=bench-surface] [data-control="${id}"]`)
  await page.driver
    .actions()
    .move({ origin })
    .press()
    .move({ origin, x: 0, y: -up, duration: 300 })
    .release()
    .perform()
}
async function keepMidi(): Promise<Uint8Array> {
  await page.click('[data-testid=captures]')
  await page.click('[data-testid=keep-midi]')
  return page.downloadedBytes('.mid')
}

describe('a capture', () => {
  let kept: Uint8Array = new Uint8Array()
  it('that is kept here is read by other programs, message for message', async () => {
    await drag('fader-1', 50)
    await drag('knob-1', 60)
    await page.press('Merrod 49')
    await drag('mod', 30)
    const count = await messages()
    expect(count).toBeGreaterThan(8)
    kept = await keepMidi()
    const path = join(folder, 'kept.mid')
    writeFileSync(path, kept)
    const lines = tool('MIDICSV', '/usr/bin/midicsv', path).trim().split('\n')
    const controls = lines.flatMap((line) => {
      const [, , kind, channel, number, value] = line.split(',').map((cell) => cell.trim())
      return kind === 'Control_c' ? [[Number(channel), Number(number), Number(value)]] : []
    })
    const own = parseMidi(kept)
      .tracks.flat()
      .flatMap((event) =>
        event.type === 'controller' ? [[event.channel, event.controllerType, event.value]] : [],
      )
    expect(controls).toEqual(own)
    expect(lines.some((line) => line.includes('"Syzra 24"'))).toBe(true)
    expect(lines.some((line) => line.includes('"Merrod 49"'))).toBe(true)
  })

  it('is opened and played again: the same controls move the same things', async () => {
    const moved = await whenStill(page, 'what has moved', movedNow)
    await page.press('Clear')
    await expect.poll(() => page.count('[data-move]')).toBe(0)
    await openCapture('kept.mid', kept)
    await page.click('[data-testid=capture-play]')
    await expect.poll(movedNow).toEqual(moved)
    await page.waitFor('it to be played', async () => (await page.count('[data-testid=capture-play]')) === 1)
    expect(moved.length).toBeGreaterThan(1)
    await page.click('[data-form=lines]')
    await expect.poll(() => page.text('[data-testid=tape-lines]')).toMatch(/\d:cc\d/)
    expect(await page.text('[data-testid=tape-lines]')).not.toMatch(/not in the template/)
    await page.click('[data-form=strokes]')
  })

  it('that another program has written is played', async () => {
    const csv = join(folder, 'other.csv')
    const rows = Array.from({ length: 64 }, (_, index) => `1, ${index * 4}, Control_c, 0, 16, ${index}`)
    writeFileSync(
      csv,
      [
        '0, 0, Header, 0, 1, 240',
        '1, 0, Start_track',
        ...rows,
        '1, 300, End_track',
        '0, 0, End_of_file',
        '',
      ].join('\n'),
    )
    const path = join(folder, 'other.mid')
    tool('CSVMIDI', '/usr/bin/csvmidi', csv, path)
    await page.press('Clear')
    await openCapture('other.mid', readFileSync(path))
    await page.waitFor('it to be open', async () =>
      (await page.text('[data-testid=capture]')).includes('other.mid'),
    )
    await expect.poll(() => page.text('[data-testid=capture]')).toMatch(/64 messages[\s\S]*Syzra 24/)
    await page.click('[data-testid=capture-play]')
    await page.waitFor('all of it', async () => (await messages()) === 64)
  })

  it('lets go of what it holds when it is stopped', async () => {
    const csv = join(folder, 'held.csv')
    writeFileSync(
      csv,
      [
        '0, 0, Header, 0, 1, 240',
        '1, 0, Start_track',
        '1, 0, Note_on_c, 9, 36, 100',
        '1, 60000, Note_off_c, 9, 36, 0',
        '1, 60001, End_track',
        '0, 0, End_of_file',
        '',
      ].join('\n'),
    )
    const path = join(folder, 'held.mid')
    tool('CSVMIDI', '/usr/bin/csvmidi', csv, path)
    await page.press('Clear')
    await openCapture('held.mid', readFileSync(path))
    await page.waitFor('it to be open', async () =>
      (await page.text('[data-testid=capture]')).includes('held.mid'),
    )
    await page.press('Pelluna 36')
    await page.click('[data-testid=capture-play]')
    const pressed = async () => page.count('[data-testid=bench-surface] [aria-pressed=true]')
    await page.waitFor('it to be held', async () => (await pressed()) === 1)
    await page.click('[data-testid=capture-stop]')
    await page.waitFor('it to be let go', async () => (await pressed()) === 0)
    await page.press('Syzra 24')
  })

  it('of a sweep with a hole shows the hole, and how far the sweep came', async () => {
    await page.press('Clear')
    const knob = nineRingsRig('as-performed')
      .controllers.find(({ id }) => id === 'syzra')
      ?.templates[0]?.stacks.find(({ id }) => id === 'knobs')?.layers[0]?.assignments['knob-1.turn']
      ?.messages[0]
    if (knob?.kind !== 'cc' || typeof knob.number !== 'number') throw new Error('knob 1 is no CC')
    const channel = knob.channel === 'home' ? 1 : knob.channel
    const hex = (value: number): string => value.toString(16).padStart(2, '0')
    const values = Array.from({ length: 100 }, (_, value) => value).filter(
      (value) => value < 40 || value > 60,
    )
    const lines = values.map(
      (value, index) =>
        `${index * 8},Syzra 24,${hex(0xb0 + channel - 1)} ${hex(Number(knob.number))} ${hex(value)}`,
    )
    const text = ['ms,Controller,Bytes', ...lines].join('\r\n')
    await openCapture('sweep.csv', new TextEncoder().encode(text))
    await page.waitFor('it to be open', async () =>
      (await page.text('[data-testid=capture]')).includes('sweep.csv'),
    )
    await page.click('[data-testid=capture-play]')
    await page.waitFor('the hole', async () =>
      (await page.text('[data-testid=tape]')).includes('40 to 60 skipped'),
    )
    await page.waitFor('its reach', async () => (await page.text('[data-testid=tape]')).includes('0–99'))
  })

  it('of bare bytes is listened to the same way, and says that it has no times', async () => {
    const bytes = Array.from({ length: 100 }, (_, value) => [0xb0, 85, value]).flat()
    await openCapture('stream.syx', Uint8Array.from(bytes))
    await page.waitFor('it to be open', async () =>
      (await page.text('[data-testid=capture]')).includes('stream.syx'),
    )
    await expect.poll(() => page.text('[data-testid=capture]')).toMatch(/100 messages[\s\S]*it has no times/)
    await page.click('[data-side=listen]')
    await page.click('[data-testid=listen]')
    await page.click('[data-testid=capture-play]')
    await page.waitFor('what it is', async () =>
      (await page.text('[data-testid=find-out]')).includes('1:cc85'),
    )
    await page.waitFor('it to be sure', async () => (await page.text('[data-testid=how-sure]')) === 'sure')
    await page.click('[data-testid=stop-listening]')
    await openCapture('cut.syx', Uint8Array.from(bytes.slice(0, -1)))
    await page.waitFor('it to be refused', async () =>
      /cut\.syx[\s\S]*At byte 297, a message ends before it is whole/.test(
        await page.text('[data-testid=capture-refused]'),
      ),
    )
    await page.click('[data-testid=capture-refused] button')
  })

  it('that is broken is refused whole with the place, and what was open stays', async () => {
    await openCapture('broken.mid', kept.slice(0, kept.length - 20))
    await expect
      .poll(() => page.text('[data-testid=capture-refused]'))
      .toMatch(/broken\.mid[\s\S]*at byte \d+/)
    const film = Uint8Array.from(kept)
    film[12] = 0xe7
    await openCapture('film.mid', film)
    await page.waitFor('it to be refused', async () =>
      /film\.mid[\s\S]*byte 12: it counts time in frames/.test(
        await page.text('[data-testid=capture-refused]'),
      ),
    )
    await openCapture('list.csv', new TextEncoder().encode('a,b\n1,2'))
    await page.waitFor('it to be refused', async () =>
      /list\.csv[\s\S]*needs the columns ms and Bytes/.test(await page.text('[data-testid=capture-refused]')),
    )
    await page.click('[data-testid=capture-refused] button')
    await expect.poll(() => page.text('[data-testid=capture]')).toMatch(/stream\.syx/)
    expect(await page.errors()).toEqual([])
  })
})
