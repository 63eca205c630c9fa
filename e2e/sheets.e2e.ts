import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { beforeEach, describe, expect, it } from 'vitest'
import { readNames } from '../core/midi/names'
import { readProperties } from '../core/midi/properties'
import { bigSurfaceRig } from '../core/testing/big-surface'
import { By, Key, usePage } from './support/page'
import { AS_PERFORMED } from './support/rigs'
import { longestBar, painted, pagesOf, PX_A_MM } from '../shared/sheets/testing/poppler'

const page = usePage()

const openSheets = async (): Promise<void> => {
  await page.open('/sheets', AS_PERFORMED)
  await page.find('[data-testid=sheet]')
}
const open = async (id: string, title: string): Promise<void> => {
  await page.click(`[data-sheet="${id}"]`)
  await page.reads('[data-testid=sheet] h1', title)
}
const save = (format: string): Promise<void> => page.click(`[data-export=${format}]`)

describe('a sheet', () => {
  beforeEach(openSheets)

  it('is found by its name, made as is chosen, and kept as a file', async () => {
    await open('map loomwright', 'Loomwright: destination map')
    await page.pick('[data-option=order] button', 'By controller')
    await page.says('[data-testid=sheet]', 'By Syzra 24')
    await save('csv')
    const text = await page.downloaded('loomwright-map.csv')
    expect(text).toContain('By Syzra 24')
    await save('xlsx')
    const bytes = await page.downloadedBytes('loomwright-map.xlsx')
    expect(Buffer.from(bytes.subarray(0, 2)).toString()).toBe('PK')
  })

  it('leads from a line of the channel chart to that channel in the lattice', async () => {
    await open('channels loomwright', 'Loomwright: channel chart')
    await page.run(
      `[...document.querySelectorAll('[data-testid=sheet] tbody button')].find((each) => each.textContent.trim() === '9').click()`,
    )
    await page.find('[data-testid=all-channels]')
    await expect.poll(() => page.value(':has(> [data-testid=all-channels]) select')).toBe('9')
  })

  it('is searched with all others, and a line leads to its control', async () => {
    await page.type('[data-testid=sheet-search]', 'high cut 1:cc109')
    await page.click('[data-testid=sheet-hit]')
    await page.focused('[data-line]')
    await page.says('[data-line]:focus', 'High cut')
    await page.type('[data-testid=sheet-search]', Key.DELETE)
    await open('controller syzra', 'Syzra 24: controller map')
    await page.run(
      `[...document.querySelectorAll('[data-testid=sheet] tbody button')].find((each) => each.textContent.trim() === 'Fdbk').click()`,
    )
    await page.find('[data-testid=surface]')
    await page.says('[data-testid=side-panel]', 'Fdbk')
  })
})

describe('the set-up checklist', () => {
  beforeEach(openSheets)

  const doneCount = (count: number): Promise<void> =>
    page.says('[data-testid=sheet] dl', new RegExp(`Done\\s*${count} of \\d+`))

  it('leaves the focus where it is worked on, after a line of it was looked for', async () => {
    await open('checklist', 'Set-up checklist')
    const last = await page.run<string>(
      `return [...document.querySelectorAll('[data-line]')].at(-1).querySelectorAll('td')[2].textContent.trim()`,
    )
    await open('teach', 'Teach again')
    await page.type('[data-testid=sheet-search]', last)
    await page.press('Set-up checklist,')
    await page.focused('[data-line]')
    await page.reads('[data-testid=sheet] h1', 'Set-up checklist')
    await page.says('[data-line]:focus', last)
    await page.click('[data-testid=tick]')
    await doneCount(1)
    await page.focused('[data-testid=tick]')
  })

  it('keeps what is ticked and what is written to a step, over a reload, and in print', async () => {
    await open('checklist', 'Set-up checklist')
    await page.click('[data-testid=tick]')
    await doneCount(1)
    await page.type('[data-testid=step-words]', 'under the desk', Key.ENTER)
    await page.canUndo('Write to a step')
    await page.find('[data-keep=kept]')
    await page.go('/sheets')
    await open('checklist', 'Set-up checklist')
    await expect.poll(async () => (await page.find('[data-testid=tick]')).isSelected()).toBe(true)
    await expect.poll(() => page.value('[data-testid=step-words]')).toBe('under the desk')
    await save('pdf')
    const [first] = pagesOf(await page.downloadedBytes('checklist.pdf'))
    expect(first).toContain('under the desk')
    expect(first).toMatch(/Done 1 of \d+/)
    await page.click('[data-testid=clear-ticks]')
    await doneCount(0)
    await expect.poll(() => page.value('[data-testid=step-words]')).toBe('under the desk')
  })
})

describe('the book', () => {
  beforeEach(openSheets)
  async function openBook(): Promise<void> {
    await page.click('[data-sheet=book]')
    await page.find('[data-testid=book]')
  }

  it('is stopped amid its writing, and written anew when it is asked for again', async () => {
    await openBook()
    await page.says('[data-testid=book]', /[23]\d of 34 sheets are in/)
    await page.click('[data-export=pdf]')
    await page.click('[data-testid=stop-writing]')
    await page.counts('[data-export=pdf]:not([disabled])', 1)
    await page.counts('[data-testid=stop-writing]', 0)
    await page.counts('[role=alert]', 0)
  })

  it('binds what is chosen, with contents and page numbers', async () => {
    await openBook()
    for (const box of await page.driver.findElements(By.css('[data-testid=book] [data-bind]'))) {
      const id = await box.getAttribute('data-bind')
      const isWanted = id === 'lights' || id === 'map kettlow' || id === 'wake'
      if ((await box.isSelected()) !== isWanted) await box.click()
    }
    await page.says('[data-testid=book]', '3 of 34 sheets are in')
    await save('pdf')
    const pages = pagesOf(await page.downloadedBytes('the-book.pdf'))
    // The whole book, which was stopped, has some ninety.
    expect(pages.length).toBeLessThan(30)
    for (const title of ['Kettlow: destination map', 'Light key', 'Wake sequence']) {
      expect(pages[0]).toContain(title)
      expect(pages.slice(1).some((text) => text.startsWith(title))).toBe(true)
    }
    expect(pages[0]).toMatch(/Version [0-9A-F]{4}(-[0-9A-F]{4}){3}/)
    expect(pages.at(-1)).toContain(`${pages.length} of ${pages.length}`)
  })
})

describe('the card of a pad grid with six layers', () => {
  it('is made, and kept as print, as lines and as a picture', async () => {
    await page.open('/sheets', bigSurfaceRig(36, 6))
    await page.click('[data-sheet^="card "]')
    await page.counts('[data-testid=card]', 6)
    await page.pick('[data-option=paper] button', 'As large')
    await page.says('[data-testid=sheet] dl', 'on a page of')
    await save('pdf')
    const pdf = await page.downloadedBytes('card.pdf')
    const cards = pagesOf(pdf).filter((text) => text.includes('This bar is 50 mm long.'))
    expect(cards).toHaveLength(6)
    expect(Math.abs(longestBar(painted(pdf)) / PX_A_MM - 50)).toBeLessThanOrEqual(0.2)
    await save('svg')
    const svg = await page.downloaded('.svg')
    const tool = process.env.XMLLINT ?? '/usr/bin/xmllint'
    if (!existsSync(tool)) throw new Error('Install xmllint (Debian: libxml2-utils) to read what is written.')
    const folder = mkdtempSync(join(tmpdir(), 'deft-svg-'))
    writeFileSync(join(folder, 'card.svg'), svg)
    execFileSync(tool, ['--noout', '--nonet', join(folder, 'card.svg')], { stdio: 'pipe' })
    rmSync(folder, { recursive: true })
    await save('png')
    const png = await page.downloadedBytes('.png')
    expect(Buffer.from(png.subarray(1, 4)).toString()).toBe('PNG')
  })
})

describe('a spreadsheet of a made-up controller', () => {
  async function openTable(): Promise<void> {
    await page.open('/desk', AS_PERFORMED)
    await page.click('[data-tool=ledger]')
    await page.find('[data-testid=read-table]')
  }

  it('is seen, matched, and written: controls that are not there are drawn, bad lines are named', async () => {
    await openTable()
    await page.click('[data-testid=read-table]')
    const table = ['What;Ch;Knob no', 'Warmth;9;cc101', 'Grit;9;102', 'Air band;9;lots', 'Warmth;9;103'].join(
      '\n',
    )
    await page.type('[data-testid=table-text]', table)
    for (const [column, field] of [
      [1, 'control'],
      [2, 'channel'],
      [3, 'number'],
    ] as const)
      await page.click(`[data-testid=table-preview] [data-column="${column}"] option[value=${field}]`)
    await page.says('[data-testid=bad-lines]', 'no control “Warmth”')
    await (await page.find('[data-testid=draw-missing]')).sendKeys('draw them as encoders')
    await page.says('[data-testid=read-lines]', '9:cc101')
    const bad = await page.text('[data-testid=bad-lines]')
    expect(bad).toContain('Line 4')
    expect(bad).toContain('says already')
    await page.click('[data-testid=write-lines]')
    await (await page.find('[data-testid=ledger-search]')).sendKeys('9:cc10')
    await page.says('[data-testid=ledger]', 'Warmth')
    await page.says('[data-testid=ledger]', '9:cc102')
  })

  it('gives what a controller sends as lists of MIDI-CI property exchange, and reads them into another', async () => {
    await openTable()
    await page.click('[data-tool=controller]')
    await page.click('[data-testid=save-controller-properties]')
    const list = await page.downloaded('.midi-ci.json')
    const read = readProperties(list)
    expect(read.ok && read.properties.controls.length).toBeGreaterThan(20)
    await page.click('[data-testid=save-controller-names]')
    const names = readNames(await page.downloaded('.midnam'))
    expect(names.ok && names.names.controls.length).toBeGreaterThan(20)
    const one = { title: 'Warmth', ctrlType: 'cc', ctrlIndex: [14], channel: 3, transmit: 'absolute' }
    const other = { title: 'Grit', ctrlType: 'cc', ctrlIndex: [15], transmit: 'relative' }
    await page.click('[data-testid=read-table]')
    await page.type('[data-testid=table-text]', JSON.stringify({ AllCtrlList: [one, other] }))
    await (await page.find('[data-testid=draw-missing]')).sendKeys('draw them as encoders')
    await page.says('[data-testid=read-lines]', /3:cc14/)
    await page.says('[data-testid=read-left]', '“Grit” is left out: it is relative')
    await page.click('[data-testid=write-lines]')
    await page.type('[data-testid=ledger-search]', '3:cc14')
    await page.says('[data-testid=ledger]', 'Warmth')
  })
})
