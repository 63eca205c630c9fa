import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { parseMidi } from 'midi-file'
import { afterAll, beforeEach, describe, expect, it } from 'vitest'
import { dragUp, SURFACE } from './support/bench'
import { usePage } from './support/page'
import { AS_PERFORMED } from './support/rigs'

const page = usePage()
const folder = mkdtempSync(join(tmpdir(), 'captures-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
beforeEach(async () => {
  await page.open('/bench', AS_PERFORMED)
  await page.find(SURFACE)
})

/** Another reader and writer of Standard MIDI Files. */
const tool = (name: 'MIDICSV' | 'CSVMIDI', fallback: string, ...given: string[]): string =>
  execFileSync(process.env[name] ?? fallback, given, { encoding: 'utf8' })

/** A Standard MIDI File that another program has written, with these events in its one track. */
function fileOf(...events: string[]): Uint8Array {
  const [text, file] = [join(folder, 'other.csv'), join(folder, 'other.mid')]
  const ends = ['1, 100000, End_track', '0, 0, End_of_file', '']
  writeFileSync(text, ['0, 0, Header, 0, 1, 240', '1, 0, Start_track', ...events, ...ends].join('\n'))
  tool('CSVMIDI', '/usr/bin/csvmidi', text, file)
  return readFileSync(file)
}

const REFUSED = '[data-testid=capture-refused]'
const give = (name: string, bytes: Uint8Array): Promise<void> =>
  page.giveFile(
    async () => {
      await page.click('[data-testid=captures]')
      await page.click('[data-testid=open-capture]')
    },
    name,
    bytes,
  )
/** Give bytes as a file to the Bench's own way of opening captures, and wait until it is open. */
async function openCapture(name: string, bytes: Uint8Array): Promise<void> {
  await give(name, bytes)
  await page.says('[data-testid=capture]', name)
}
async function refuses(name: string, bytes: Uint8Array, words: RegExp): Promise<void> {
  await give(name, bytes)
  await page.says(REFUSED, words)
}
/** What has moved, each by its name in the page. */
const movedNow = (): Promise<string[]> =>
  page.run(`return [...document.querySelectorAll('[data-move]')].map((each) => each.dataset.move).sort()`)
const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text)
const bareSweep = (): Uint8Array =>
  Uint8Array.from(Array.from({ length: 100 }, (_, value) => [0xb0, 85, value]).flat())

describe('a capture', () => {
  it('that is kept here is read by other programs; opened and played again, it moves the same things', async () => {
    await dragUp(page, 'fader-1', 50)
    await dragUp(page, 'knob-1', 60)
    await page.press('Merrod 49')
    await dragUp(page, 'mod', 30)
    expect(await page.messagesKept()).toBeGreaterThan(8)
    await page.click('[data-testid=captures]')
    await page.click('[data-testid=keep-midi]')
    const kept = await page.downloadedBytes('.mid')
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
    for (const name of ['"Syzra 24"', '"Merrod 49"'])
      expect(lines.some((line) => line.includes(name))).toBe(true)

    const moved = await page.whenStill('what has moved', movedNow)
    expect(moved.length).toBeGreaterThan(1)
    await page.press('Clear')
    await page.counts('[data-move]', 0)
    await openCapture('kept.mid', kept)
    await page.click('[data-testid=capture-play]')
    await expect.poll(movedNow).toEqual(moved)
    await page.counts('[data-testid=capture-play]', 1)
    await page.click('[data-form=lines]')
    await page.says('[data-testid=tape-lines]', /\d:cc\d/)
    expect(await page.text('[data-testid=tape-lines]')).not.toMatch(/not in the template/)
  })

  it('that another program has written is played, and lets go of what it holds when it is stopped', async () => {
    const rows = Array.from({ length: 64 }, (_, index) => `1, ${index * 4}, Control_c, 0, 16, ${index}`)
    await openCapture('other.mid', fileOf(...rows))
    await page.says('[data-testid=capture]', /64 messages[\s\S]*Syzra 24/)
    await page.click('[data-testid=capture-play]')
    await page.waitFor('all of it', async () => (await page.messagesKept()) === 64)
    await page.counts('[data-testid=capture-play]', 1)

    await openCapture('held.mid', fileOf('1, 0, Note_on_c, 9, 36, 100', '1, 60000, Note_off_c, 9, 36, 0'))
    await page.press('Pelluna 36')
    await page.click('[data-testid=capture-play]')
    await page.counts(`${SURFACE} [aria-pressed=true]`, 1)
    await page.click('[data-testid=capture-stop]')
    await page.counts(`${SURFACE} [aria-pressed=true]`, 0)
  })

  it('of a sweep with a hole shows the hole, and how far the sweep came', async () => {
    const knob = AS_PERFORMED.controllers
      .find(({ id }) => id === 'syzra')
      ?.templates[0]?.stacks.find(({ id }) => id === 'knobs')?.layers[0]?.assignments['knob-1.turn']
      ?.messages[0]
    if (knob?.kind !== 'cc' || typeof knob.number !== 'number') throw new Error('knob 1 is no CC')
    const channel = knob.channel === 'home' ? 1 : knob.channel
    const hex = (value: number): string => value.toString(16).padStart(2, '0')
    const head = `${hex(0xb0 + channel - 1)} ${hex(knob.number)}`
    const values = [...Array(100).keys()].filter((value) => value < 40 || value > 60)
    const lines = values.map((value, index) => `${index * 8},Syzra 24,${head} ${hex(value)}`)
    await openCapture('sweep.csv', utf8(['ms,Controller,Bytes', ...lines].join('\r\n')))
    await page.click('[data-testid=capture-play]')
    await page.says('[data-testid=tape]', '40 to 60 skipped')
    await page.says('[data-testid=tape]', '0–99')
  })

  it('of bare bytes is listened to the same way, and says that it has no times', async () => {
    await openCapture('stream.syx', bareSweep())
    await page.says('[data-testid=capture]', /100 messages[\s\S]*it has no times/)
    await page.click('[data-side=listen]')
    await page.click('[data-testid=listen]')
    await page.click('[data-testid=capture-play]')
    await page.says('[data-testid=find-out]', '1:cc85')
    await page.reads('[data-testid=how-sure]', 'sure')
  })

  it('that is broken is refused whole with the place, and what was open stays', async () => {
    await openCapture('stream.syx', bareSweep())
    await refuses(
      'cut.syx',
      bareSweep().slice(0, -1),
      /cut\.syx[\s\S]*At byte 297, a message ends before it is whole/,
    )
    const file = fileOf('1, 0, Control_c, 0, 16, 1', '1, 9, Control_c, 0, 16, 2')
    await refuses('broken.mid', file.slice(0, -6), /broken\.mid[\s\S]*at byte \d+/)
    const film = Uint8Array.from(file)
    film[12] = 0xe7
    await refuses('film.mid', film, /film\.mid[\s\S]*byte 12: it counts time in frames/)
    await refuses('list.csv', utf8('a,b\n1,2'), /list\.csv[\s\S]*needs the columns ms and Bytes/)
    await page.click(`${REFUSED} button`)
    await page.says('[data-testid=capture]', /stream\.syx/)
  })
})
