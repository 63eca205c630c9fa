import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readNames } from '../core/midi/names'
import { readProperties } from '../core/midi/properties'
import { writeRig } from '../core/rig'
import { bigSurfaceRig } from '../core/testing/big-surface'
import { By, importText, Key, openPerformed, setField, startSession, type Session } from './browser'
import { longestBar, painted, pagesOf, PX_A_MM } from './poppler'

let page: Session
beforeAll(async () => {
  page = await startSession()
  await page.go('/desk')
  await page.find('[data-testid=surface]')
  await openPerformed(page)
  await page.press('Sheets')
  await page.find('[data-testid=sheet]')
})
afterAll(() => page.quit())

const open = async (id: string, title: string): Promise<void> => {
  await page.click(`[data-sheet="${id}"]`)
  await page.waitFor(`the sheet ${title}`, async () => (await page.text('[data-testid=sheet] h1')) === title)
}
const save = (format: string): Promise<void> => page.click(`[data-export=${format}]`)

describe('a sheet', () => {
  it('is found by its name, made as is chosen, and kept as a file', async () => {
    await open('map loomwright', 'Loomwright: destination map')
    await page.click('[data-option=order] button')
    await page.driver.executeScript(
      `[...document.querySelectorAll('[role=option]')].find((each) => each.textContent.includes('By controller')).click()`,
    )
    await page.waitFor('headings by controller', async () =>
      (await page.text('[data-testid=sheet]')).includes('By Syzra 24'),
    )
    await save('csv')
    const text = await page.downloaded('loomwright-map.csv')
    expect(text).toContain('By Syzra 24')
    await save('xlsx')
    const bytes = await page.downloadedBytes('loomwright-map.xlsx')
    expect(Buffer.from(bytes.subarray(0, 2)).toString()).toBe('PK')
  })

  it('leads from a line of the channel chart to that channel in the lattice', async () => {
    await open('channels loomwright', 'Loomwright: channel chart')
    await page.driver.executeScript(
      `[...document.querySelectorAll('[data-testid=sheet] tbody button')].find((each) => each.textContent.trim() === '9').click()`,
    )
    await page.find('[data-testid=all-channels]')
    await expect
      .poll(() =>
        page.driver.executeScript(
          `return document.querySelector('[data-testid=all-channels]').parentElement.querySelector('select').value`,
        ),
      )
      .toBe('9')
    await page.click('[data-testid=all-channels]')
    await page.press('Sheets')
    await page.find('[data-testid=sheet]')
  })

  it('is searched with all others, and a line leads to its control', async () => {
    const field = await page.find('[data-testid=sheet-search]')
    await field.sendKeys('high cut 1:cc109')
    await page.find('[data-testid=sheet-hit]')
    await page.click('[data-testid=sheet-hit]')
    const line = await page.waitFor('the line', async () => {
      const found = await page.driver.switchTo().activeElement()
      return (await found.getAttribute('data-line')) === null ? null : found
    })
    await expect.poll(() => line?.getText()).toContain('High cut')
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), Key.DELETE)
    await open('controller syzra', 'Syzra 24: controller map')
    await page.driver.executeScript(
      `[...document.querySelectorAll('[data-testid=sheet] tbody button')].find((each) => each.textContent.trim() === 'Fdbk').click()`,
    )
    await page.waitFor('the Desk', async () => (await page.driver.getCurrentUrl()).endsWith('/desk'))
    await expect.poll(() => page.text('[data-testid=side-panel]')).toContain('Fdbk')
    await page.press('Sheets')
  })
})

describe('the set-up checklist', () => {
  const doneCount = (count: number) =>
    page.waitFor(`${count} done`, async () =>
      new RegExp(`Done\\s*${count} of \\d+`).test(await page.text('[data-testid=sheet] dl')),
    )

  it('leaves the focus where it is worked on, after a line of it was looked for', async () => {
    await open('checklist', 'Set-up checklist')
    const last = await page.driver.executeScript<string>(
      `return [...document.querySelectorAll('[data-line]')].at(-1).querySelectorAll('td')[2].textContent.trim()`,
    )
    await open('teach', 'Teach again')
    await setField(page, '[data-testid=sheet-search]', last)
    await page.press('Set-up checklist,')
    const focused = (what: string) =>
      page.driver.executeScript<string | null>(`return document.activeElement.getAttribute('${what}')`)
    await page.waitFor('the line', async () => (await focused('data-line')) !== null)
    await expect.poll(() => page.text('[data-testid=sheet] h1')).toBe('Set-up checklist')
    await expect.poll(async () => (await page.driver.switchTo().activeElement()).getText()).toContain(last)
    await page.click('[data-testid=tick]')
    await doneCount(1)
    await expect.poll(() => focused('data-testid')).toBe('tick')
    await setField(page, '[data-testid=sheet-search]', Key.DELETE)
    await page.click('[data-testid=clear-ticks]')
    await doneCount(0)
  })

  it('keeps what is ticked and what is written to a step, over a reload, and in print', async () => {
    await open('checklist', 'Set-up checklist')
    await page.click('[data-testid=tick]')
    await doneCount(1)
    const words = await page.find('[data-testid=step-words]')
    await words.sendKeys('under the desk', Key.ENTER)
    await page.find('button[aria-label="Undo: Write to a step"]')
    await page.driver.sleep(600)
    await page.go('/sheets')
    await open('checklist', 'Set-up checklist')
    await expect.poll(async () => (await page.find('[data-testid=tick]')).isSelected()).toBe(true)
    await expect
      .poll(async () => (await page.find('[data-testid=step-words]')).getAttribute('value'))
      .toBe('under the desk')
    await save('pdf')
    const [first] = pagesOf(await page.downloadedBytes('checklist.pdf'))
    expect(first).toContain('under the desk')
    expect(first).toMatch(/Done 1 of \d+/)
    await page.click('[data-testid=clear-ticks]')
    await doneCount(0)
    await expect
      .poll(async () => (await page.find('[data-testid=step-words]')).getAttribute('value'))
      .toBe('under the desk')
  })
})

describe('the book', () => {
  it('is stopped amid its writing, and written anew when it is asked for again', async () => {
    await page.click('[data-sheet=book]')
    await page.find('[data-testid=book]')
    await expect.poll(() => page.text('[data-testid=book]')).toMatch(/[23]\d of 34 sheets are in/)
    await page.click('[data-export=pdf]')
    await page.click('[data-testid=stop-writing]')
    await page.waitFor(
      'the formats',
      async () => (await page.count('[data-export=pdf]:not([disabled])')) === 1,
    )
    await expect.poll(() => page.count('[data-testid=stop-writing]')).toBe(0)
    await expect.poll(() => page.count('[role=alert]')).toBe(0)
  })

  it('binds what is chosen, with contents and page numbers', async () => {
    for (const box of await page.driver.findElements(By.css('[data-testid=book] [data-bind]'))) {
      const id = await box.getAttribute('data-bind')
      const isWanted = id === 'lights' || id === 'map kettlow' || id === 'wake'
      if ((await box.isSelected()) !== isWanted) await box.click()
    }
    await expect.poll(() => page.text('[data-testid=book]')).toContain('3 of 34 sheets are in')
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
    await importText(page, 'grid.json', writeRig(bigSurfaceRig(36, 6)))
    await page.press('Sheets')
    await page.waitFor('its list', async () => (await page.count('[data-sheet="card syzra"]')) === 0)
    await page.click('[data-sheet^="card "]')
    await page.waitFor('six cards', async () => (await page.count('[data-testid=card]')) === 6)
    await page.click('[data-option=paper] button')
    await page.driver.executeScript(
      `[...document.querySelectorAll('[role=option]')].find((each) => each.textContent.includes('As large')).click()`,
    )
    await page.waitFor('its own paper', async () =>
      (await page.text('[data-testid=sheet] dl')).includes('on a page of'),
    )
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
  it('is seen, matched, and written: controls that are not there are drawn, bad lines are named', async () => {
    await page.press('Desk')
    await openPerformed(page)
    await page.click('[data-tool=ledger]')
    await page.click('[data-testid=read-table]')
    const table = ['What;Ch;Knob no', 'Warmth;9;cc101', 'Grit;9;102', 'Air band;9;lots', 'Warmth;9;103'].join(
      '\n',
    )
    await (await page.find('[data-testid=table-text]')).sendKeys(table)
    for (const [column, field] of [
      [1, 'control'],
      [2, 'channel'],
      [3, 'number'],
    ] as const)
      await page.click(`[data-testid=table-preview] [data-column="${column}"] option[value=${field}]`)
    await page.waitFor('what is missing', async () =>
      (await page.text('[data-testid=bad-lines]')).includes('no control “Warmth”'),
    )
    await (await page.find('[data-testid=draw-missing]')).sendKeys('draw them as encoders')
    await page.waitFor('what is written', async () =>
      (await page.text('[data-testid=read-lines]')).includes('9:cc101'),
    )
    const bad = await page.text('[data-testid=bad-lines]')
    expect(bad).toContain('Line 4')
    expect(bad).toContain('says already')
    await page.click('[data-testid=write-lines]')
    await (await page.find('[data-testid=ledger-search]')).sendKeys('9:cc10')
    await page.waitFor('the lines', async () => (await page.text('[data-testid=ledger]')).includes('Warmth'))
    await expect.poll(() => page.text('[data-testid=ledger]')).toContain('9:cc102')
  })

  it('gives what a controller sends as lists of MIDI-CI property exchange, and reads them into another', async () => {
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
    await setField(page, '[data-testid=table-text]', JSON.stringify({ AllCtrlList: [one, other] }))
    await page.waitFor('what is written', async () =>
      /becomes\s+3:cc14/.test(await page.text('[data-testid=read-lines]')),
    )
    await expect
      .poll(() => page.text('[data-testid=read-left]'))
      .toContain('“Grit” is left out: it is relative')
    await page.click('[data-testid=write-lines]')
    await setField(page, '[data-testid=ledger-search]', '3:cc14')
    await page.waitFor('the line', async () => (await page.text('[data-testid=ledger]')).includes('Warmth'))
  })

  it('logged no error on the way', async () => {
    expect(await page.errors()).toEqual([])
  })
})
