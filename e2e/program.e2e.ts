import { describe, expect, it } from 'vitest'
import type { Rig } from '../core/rig'
import { Key, usePage } from './support/page'
import { AS_PERFORMED } from './support/rigs'

const page = usePage()

/** The open rig as the application exports it. */
const rigNow = async (): Promise<Rig> => JSON.parse(await page.exported()) as Rig
const set = (css: string, value: string): Promise<void> => page.type(css, value)
const count = (css: string, wanted: number): Promise<void> => page.counts(css, wanted)
const choose = (css: string, label: string): Promise<void> => page.choose(css, label)

async function addControls(kind: string, rows: number, columns: number): Promise<void> {
  await choose('#add-kind', kind)
  await set('#add-rows', String(rows))
  await set('[data-testid=add-columns]', String(columns))
  await count('[data-testid=ghost]', rows * columns)
  await page.click('[data-testid=add-controls]')
}

describe('a controller drawn from nothing', () => {
  it('drawn from nothing: controls in blocks, named, nudged and dragged; templates, layers, and many at once', async () => {
    await page.step('a new rig offers to add one; a blank surface opens for drawing', async () => {
      await page.open('/desk')
      await page.click('[data-testid=rig-menu]')
      await page.click('[data-testid=new-rig]')
      await page.press('Add a controller')
      await page.find('[data-testid=new-controller]')
      await page.press('Blank')
      await set('[data-testid=new-controller] input[maxlength]', 'Test box')
      await page.press('Add it')
      await page.find('[data-testid=draw-panel]')
    })
    await page.step(
      'takes 10 faders, 10 knobs, 12 pads, 5 buttons and one more fader apart, all named',
      async () => {
        await addControls('Faders', 1, 10)
        await count('[data-control]', 10)
        await set('[data-testid=name-pattern]', 'Level {1}')
        await page.press('Name')
        await page.reads('[data-control=fader-10] .label', 'Level 10')
        await addControls('Knobs', 1, 10)
        await addControls('Pads', 3, 4)
        await addControls('Buttons', 1, 5)
        await set('[data-testid=name-pattern]', 'Play')
        await page.run(`
      const area = document.querySelector('[data-testid=name-pattern]')
      area.value = 'Play\\nStop\\nRecord\\nBack\\nLoop'
      area.dispatchEvent(new Event('input', { bubbles: true }))`)
        await page.press('Name')
        await page.says('[data-control=button-3]', 'Record')
        await addControls('Faders', 1, 1)
        await count('[data-control]', 38)
        await set('[data-testid=name-pattern]', 'Overall')
        await page.press('Name')
        const rig = await rigNow()
        const [model] = rig.models
        expect(model?.surface.controls.find(({ label }) => label === 'Overall')?.block).toBeNull()
        expect(model?.surface.blocks.map(({ rows, columns }) => rows * columns)).toEqual([10, 10, 12, 5])
      },
    )
    await page.step('is nudged by keys, dragged by mouse, and undone', async () => {
      const place = async (): Promise<{ x: number; y: number }> =>
        (await rigNow()).models[0]?.surface.controls.find(({ label }) => label === 'Overall')?.place ?? {
          x: 0,
          y: 0,
        }
      await page.click('[data-control=fader-11]')
      const before = await place()
      await page.focus('[data-control=fader-11]')
      await page.keys(Key.chord(Key.ALT, Key.ARROW_RIGHT))
      await expect.poll(async () => (await place()).x).toBe(before.x + 0.5)
      await page.drag('[data-control=fader-11]', [
        { x: 30, y: 0 },
        { x: 70, y: 0 },
      ])
      await page.waitFor('a move', async () => (await place()).x > before.x + 5)
      await page.undo('Move')
      await page.waitFor('the place before', async () => (await place()).x === before.x + 0.5)
    })
    await page.step('a second template, a stack of six layers over the pads', async () => {
      await page.click('[data-tool=templates]')
      await page.click('[data-testid=add-template]')
      await page.click('[data-control=pad-1]')
      await page.click('[data-tool=draw]')
      await page.find('[data-testid=draw-panel]')
      await page.click('[data-testid=whole-block]')
      await page.press('Pressure')
      await page.click('[data-tool=templates]')
      await set('[data-testid=new-stack] input', '6')
      await page.click('[data-testid=new-stack] button')
      await page.find('[data-stack]')
      const rig = await rigNow()
      const template = rig.controllers[0]?.templates[1]
      expect(template?.stacks[0]?.layers).toHaveLength(6)
      expect(template?.stacks[0]?.gestures).toHaveLength(24)
    })
    await page.step(
      'notes and pressure of all pads in all layers, then all to another channel in one action',
      async () => {
        await page.click('[data-tool=templates]')
        await page.find('[data-testid=many]')
        await page.reads('[data-testid=many-title]', '12 pads')
        await page.click('[data-testid=all-layers]')
        const pickWord = async (id: string, option: string): Promise<void> => {
          await page.click(`[data-testid=many-sentence] [data-word=${id}]`)
          await page.waitFor(option, () =>
            page.run(
              `const found = [...document.querySelectorAll('li[role=option]')].find((each) => each.textContent.trim() === arguments[0])
               found?.click()
               return Boolean(found)`,
              option,
            ),
          )
        }
        await pickWord('kind', 'note')
        await set('#numbering-from', '36')
        await page.press('Give numbers')
        await page.click('[data-gesture-kind=pressure]')
        await page.click('[data-gesture-kind=strike]')
        await pickWord('kind', 'channel pressure')
        await page.click('[data-gesture-kind=strike]')
        await pickWord('channel', 'channel 7')
        const words = (await page.text('[data-testid=many-sentence]')).replaceAll(/\s+/g, ' ')
        expect(words).toMatch(/^They send mixed on channel 7, mixed/)
        await page.canUndo('Change 12 pads')
        const layers = (await rigNow()).controllers[0]?.templates[1]?.stacks[0]?.layers ?? []
        const messages = layers.flatMap(({ assignments }) =>
          Object.values(assignments).flatMap((each) => each.messages),
        )
        expect(messages).toHaveLength(6 * 24)
        expect(messages.every((message) => 'channel' in message && message.channel === 7)).toBe(true)
        expect(new Set(messages.map(({ kind }) => kind))).toEqual(new Set(['note', 'channelPressure']))
      },
    )
  })

  it('a floor board whose five switches each choose what the pedals send, none at power-up', async () => {
    await page.open('/desk', AS_PERFORMED)
    await page.click('[data-testid=add-controller]')
    await page.press('Floor board')
    await page.press('Add it')
    await page.find('[data-control=footswitch-5]')
    await page.click('[data-control=pedal-1]')
    await page.shiftClick('[data-control=pedal-2]')
    await page.click('[data-tool=templates]')
    await set('[data-testid=new-stack] input', '5')
    await page.click('[data-testid=new-stack] button')
    await page.find('[data-stack]')
    await choose('[data-stack] label select', 'none shows')
    for (let number = 1; number <= 5; number++) {
      await page.click(`[data-control=footswitch-${number}]`)
      await choose('[data-testid=add-choice] select[aria-label=Layer]', `Layer ${number}`)
      await page.click('[data-testid=add-choice] button[type=submit]')
      await page.says('[data-stack]', `Switch ${number} shows Layer ${number}`)
    }
    const rig = await rigNow()
    const board = rig.controllers.at(-1)
    const own = rig.choices.filter(
      ({ by }) => by.kind === 'gesture' && by.gesture.startsWith(`${board?.id}/`),
    )
    expect(own).toHaveLength(5)
    expect(board?.templates[0]?.stacks[0]?.powerUp).toBeNull()
  })
})

describe('choices by incoming messages, and what a removal says', () => {
  it('a program message chooses a layer', async () => {
    await page.open('/desk', AS_PERFORMED)
    await page.press('Umbrek')
    await page.click('[data-tool=templates]')
    await page.click('[data-control=foot-1]')
    await choose('[data-testid=add-choice] select[aria-label="Who chooses"]', 'an incoming message')
    await set('[data-testid=incoming] [aria-label^="Number"]', '12')
    await set('[data-testid=incoming] [aria-label^="Channel"]', '16')
    await page.click('[data-testid=add-choice] button[type=submit]')
    await page.waitFor('the choice', async () =>
      (await rigNow()).choices.some(({ by }) => by.kind === 'incoming' && by.trigger.number === 12),
    )
  })

  it('deleting a control names the mappings that lose it, and Undo brings all back', async () => {
    await page.open('/desk', AS_PERFORMED)
    await page.click('[data-control=fader-1]')
    await page.click('[data-tool=draw]')
    await page.click('[data-testid=delete-controls]')
    await page.says('[data-testid=pending]', /Loomwright · Track 1 Rings · Volume/)
    await count('[data-control=fader-1]', 1)
    await page.makePending()
    await count('[data-control=fader-1]', 0)
    await page.undo('Delete a control')
    await count('[data-control=fader-1]', 1)
  })
})

describe('the table', () => {
  const grid = '[data-testid=ledger-grid]'
  const at = (row: number, column: string): string => `[data-cell-at="${row}:${column}"]`
  const clipboard = (type: 'copy' | 'paste', text: string): Promise<string> =>
    page.run<string>(
      `const data = new DataTransfer()
       data.setData('text/plain', arguments[1])
       document.querySelector('[data-testid=ledger-grid]').dispatchEvent(
         new ClipboardEvent(arguments[0], { clipboardData: data, bubbles: true, cancelable: true }))
       return data.getData('text/plain')`,
      type,
      text,
    )

  it('copies and takes back blocks, refuses a bad paste whole, and is edited in the cell by keyboard', async () => {
    await page.open('/desk', AS_PERFORMED)

    await page.step('copies a block, takes it back changed, and fills down', async () => {
      await page.click('[data-tool=ledger]')
      await page.find(grid)
      await set('[data-testid=ledger-search]', 'syzra rings volume')
      await page.counts(`${grid} [role=row]`, 2)
      await set('[data-testid=ledger-search]', 'syzra volume')
      await page.counts(`${grid} [role=row]`, 9)
      await page.click(at(0, 'channel'))
      await page.keys(Key.chord(Key.SHIFT, Key.ARROW_DOWN), Key.chord(Key.SHIFT, Key.ARROW_RIGHT))
      expect(await clipboard('copy', '')).toBe('home\t16\nhome\t17')
      await clipboard('paste', '7\t24\n8\t25\n')
      await page.makePending()
      await page.reads(at(1, 'address'), '8:cc25+57')
      await page.click(at(0, 'channel'))
      await page.keys(Key.chord(Key.SHIFT, Key.ARROW_DOWN))
      await page.keys(Key.chord(Key.CONTROL, 'd'))
      await page.reads(at(1, 'channel'), '7')
    })
    await page.step('refuses a bad paste whole, naming each bad cell', async () => {
      await page.click(at(0, 'channel'))
      await clipboard('paste', '99\t24\n8\tbanana')
      await page.waitFor('the reasons', async () => {
        const said = await page.text('[data-sonner-toaster]')
        return (
          said.includes('Rings, Channel: “99” is no channel') &&
          said.includes('Dust, Number: “banana” is no number')
        )
      })
      await expect.poll(() => page.text(at(0, 'channel'))).toBe('7')
    })
    await page.step('is edited in the cell by keyboard', async () => {
      await page.click(at(2, 'address'))
      await page.keys(Key.ENTER)
      await page.find(`${at(2, 'address')} input`)
      await page.keys('1:cc30+62', Key.ENTER)
      await page.makePending()
      await page.reads(at(2, 'address'), '1:cc30+62')
      await page.reads('[data-testid=selection-name]', 'Choir')
    })
  })
})

describe('the command box', () => {
  it('finds who sends an address, a control by name, and runs a command', async () => {
    await page.open('/desk', AS_PERFORMED)
    await page.shortcut('/')
    await page.focused('[data-testid=command-box] input')
    await page.keys('1:cc18+50')
    await page.counts('[data-hit=sender]', 1)
    await page.keys(Key.ENTER)
    await page.reads('[data-testid=selection-name]', 'Ice')
    await page.click('[data-testid=find]')
    await page.find('[data-testid=command-box] input')
    await page.keys('as a table')
    await page.counts('[data-hit=command]', 1)
    await page.keys(Key.ENTER)
    await page.find('[data-testid=ledger-grid]')
    await page.shortcut('?')
    await page.says('[role=dialog]', 'next in use')
    await page.press('Close')
  })
})
