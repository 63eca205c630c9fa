import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { emit } from '../addresses'
import { perform, plain, type Rig } from '../rig'
import { ledgerRows } from '../rig/program/ledger'
import { renamed } from '../testing/named-rigs'
import { anyRig, sending, sendingCc, testController, testDestination, testRig } from '../testing/rigs'
import { chosenProblem, setUpSteps, sheetsOf, type Section, type SheetDocument } from '.'
import { cardPages, OVERLAP, PAPERS, type Paper } from './card/pages'
import { cut, fitted, textWidth } from './card/fit'
import { linesBeside } from './document'
import { escaped } from './markup'
import { cases } from '../testing/cases'

const performed = nineRingsRig('as-performed')
const made = (rig: Rig, id: string, chosen = {}): SheetDocument => {
  const sheet = sheetsOf(rig)
    .flatMap(({ sheets }) => sheets)
    .find((each) => each.id === id)
  if (!sheet) throw new Error(`no ${id}`)
  return sheet.make(chosen)
}
const cells = ({ table }: Section): string[][] =>
  (table?.rows ?? []).map((row) => row.cells.map(({ text }) => text))
const column = (sheet: SheetDocument, title: string): string[] =>
  sheet.sections.flatMap((section) => {
    const at = section.table?.columns.findIndex((each) => each.title === title) ?? -1
    return at === -1 ? [] : cells(section).map((row) => row[at] ?? '')
  })

describe('the controller map', () => {
  it('has every message of the ledger under its layer, for any rig', () => {
    fc.assert(
      fc.property(anyRig, (rig) => {
        for (const { id } of rig.controllers) {
          const sent = ledgerRows(rig).filter(
            ({ place, address }) => place.controller === id && address !== '',
          )
          const listed = column(made(rig, `controller ${id}`), 'Sends')
          expect(listed.length).toBeGreaterThanOrEqual(sent.length)
        }
      }),
      cases(40),
    )
  })

  it('names what sends nothing, and what a switch chooses', () => {
    const sheet = made(performed, 'controller pelluna')
    expect(column(sheet, 'Moves')).toContain('shows Scales')
    expect(made(performed, 'controller syzra').facts).toContainEqual({
      label: 'Purely analog',
      value: 'Master',
    })
  })
})

describe('the channel chart', () => {
  const rig = testRig(
    [testController('a', { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) })],
    [
      testDestination('d', {
        claims: [{ id: 'c', function: 'transport', kind: 'cc', channel: null, low: 30, high: 39 }],
      }),
    ],
  )
  it('counts what is taken, and offers neither that nor what is kept', () => {
    const [chart, grid] = made(rig, 'channels d').sections
    const [, users, taken, free] = cells(chart as Section)[0] ?? []
    expect(users).toContain('2 CC')
    expect(taken).toBe('2')
    expect(free).toBe('1–5, 7–19, 22–29, 40–95, 102–119')
    const twenties = cells(grid as Section)[2] ?? []
    expect(twenties[5]).toMatch(/^A /)
    expect(twenties[7]).toBe('')
    expect(cells(grid as Section)[3]?.[7]).toBe('kept')
  })

  it('agrees with what arrives, number by number, for any rig', () => {
    fc.assert(
      fc.property(anyRig, (any) => {
        for (const destination of any.destinations) {
          const sheet = made(any, `channels ${destination.id}`, { grid: 'none' })
          const arrived = new Set(
            emit(any)
              .filter(({ bus }) => bus.destination === destination.id)
              .flatMap((emission) =>
                emission.cells
                  .filter(({ kind }) => kind === 'cc')
                  .map(
                    ({ channel, number }) =>
                      `${emission.bus.mergesChannels ? 1 : channel} ${number} ${emission.bus.id}`,
                  ),
              ),
          )
          const perChannel = sheet.sections.map((section) => cells(section).map((row) => Number(row[2])))
          const merges = emit(any).some(({ bus }) => bus.destination === destination.id && bus.mergesChannels)
          const total = perChannel.flat().reduce((sum, each) => sum + each, 0)
          expect(total).toBe(arrived.size * (merges ? 16 : 1))
        }
      }),
      cases(40),
    )
  })
})

describe('the implementation chart', () => {
  it('keeps the order of the standard, and is filled from the rig', () => {
    const [chart] = made(performed, 'implementation ondrel-vi').sections
    const functions = [...new Set(cells(chart as Section).map(([name]) => name))]
    expect(functions).toEqual([
      'Basic channel',
      'Mode',
      'Note number',
      'Velocity',
      'Aftertouch',
      'Pitch bend',
      'Control change',
      'Program change',
      'System exclusive',
      'System common',
      'System real time',
      'Aux messages',
    ])
    const brightness = cells(chart as Section).find(
      ([name, number]) => name === 'Control change' && number === '74',
    )
    expect(brightness?.[3]).toBe('o')
    expect(brightness?.[4]).toContain('Brightness')
  })
})

describe('what a controller transmits', () => {
  it('is what its messages occupy: one half of a pair where only one is sent, and what carries a parameter', () => {
    const numbers = (message: object): string[] => {
      const rig = testRig([testController('a', { 'k1.turn': sending(message as never) })])
      return cells(made(rig, 'implementation a').sections[0] as Section)
        .filter(([name, number, sent]) => name === 'Control change' && number !== '' && sent === 'o')
        .map(([, number]) => number ?? '')
    }
    expect(numbers({ kind: 'cc14', number: 20, halves: 'msb-only' })).toEqual(['20'])
    expect(numbers({ kind: 'cc14', number: 20 })).toEqual(['20', '52'])
    expect(numbers({ kind: 'nrpn', number: 300, sendsLsb: false })).toEqual(['6', '98', '99'])
    expect(numbers({ kind: 'nrpn', number: 300 })).toEqual(['6', '38', '98', '99'])
  })
})

describe('passages', () => {
  it('say what changes, and nothing else where only that is wanted', () => {
    const all = made(performed, 'passages')
    const changes = made(performed, 'passages', { lines: 'changes' })
    const count = (sheet: SheetDocument): number =>
      sheet.sections.reduce((sum, { table }) => sum + (table?.rows.length ?? 0), 0)
    expect(count(changes)).toBeLessThan(count(all))
    const later = changes.sections.filter(({ heading }) => !heading.startsWith('1 '))
    for (const section of later) for (const row of cells(section)) expect(row[3]).not.toBe('')
  })
})

describe('the set-up checklist', () => {
  it('names every step once, for any rig, and keeps what the player said of it', () => {
    fc.assert(
      fc.property(anyRig, (rig) => {
        const ids = setUpSteps(rig).flatMap(({ steps }) => steps.map(({ id }) => id))
        expect(new Set(ids).size).toBe(ids.length)
        const [first] = ids
        if (first === undefined) return
        const ticked = perform(rig, 'x', [
          { type: 'step-set', step: first, set: { done: true, memo: 'mine' } },
        ]).rig
        const row = made(ticked, 'checklist')
          .sections.flatMap(({ table }) => table?.rows ?? [])
          .find(({ step }) => step === first)
        expect(row?.cells.map(({ text }) => text).slice(1)).toEqual([
          'done',
          expect.any(String),
          expect.any(String),
          'mine',
        ])
      }),
      cases(40),
    )
  })

  it('names every step once where a computer has ports that nothing uses', () => {
    const spare = ['spare-1', 'spare-2'].map((id) => ({ id, name: id, sharing: 'shared' as const }))
    const rig = {
      ...performed,
      computers: performed.computers.map((each) => ({ ...each, ports: [...each.ports, ...spare] })),
    }
    const steps = setUpSteps(rig).flatMap((group) => group.steps)
    expect(new Set(steps.map(({ id }) => id)).size).toBe(steps.length)
    expect(steps.filter(({ text }) => text.startsWith('Leave this')).length).toBeGreaterThanOrEqual(4)
  })

  it('says what the rig says: ports, slots, what must be off, and a last test of each way', () => {
    const said = column(made(performed, 'checklist'), 'What to do').join('\n')
    expect(said).toContain('Keep Corvel 8 unplugged')
    expect(said).toMatch(/Calibrate/)
    expect(said).toMatch(/Send the wake sequence: \d+ messages/)
    expect(said).toMatch(/Move .+ on .+ must move/)
    expect(column(made(performed, 'checklist'), 'Where').join('\n')).toMatch(/slot \d/)
  })
})

describe('sheets of what is not there', () => {
  it('say so: an empty rig, a destination without parameters', () => {
    const empty = { ...testRig([], []), models: [] }
    for (const sheet of sheetsOf(empty).flatMap(({ sheets }) => sheets)) {
      const { sections } = sheet.make()
      expect(sections.length, sheet.id).toBeGreaterThan(0)
      expect(
        sections.some(({ note }) => note !== undefined),
        sheet.id,
      ).toBe(true)
    }
    const bare = testRig([], [testDestination('d', { parameters: [] })])
    expect(
      made(bare, 'map d')
        .sections.map(({ note }) => note)
        .join(' '),
    ).toContain('no parameters yet')
  })
})

describe('options', () => {
  it('are refused in words where they are not there', () => {
    const sheet = sheetsOf(performed)
      .flatMap(({ sheets }) => sheets)
      .find(({ id }) => id === 'map kettlow')
    expect(chosenProblem(sheet?.options ?? [], { order: 'scope' })).toBeNull()
    expect(chosenProblem(sheet?.options ?? [], { order: 'size' })).toContain(
      'use parameter, controller, scope',
    )
    expect(chosenProblem(sheet?.options ?? [], { colour: 'red' })).toContain('no option “colour”')
    expect(chosenProblem([], { colour: 'red' })).toContain('no options')
  })
})

describe('plain text', () => {
  it('is one line without anything that turns or breaks what stands beside it, and stays as it is when it is done again', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 60 }), (text) => {
        const once = plain(text)
        // eslint-disable-next-line no-control-regex -- they are what must not be left
        expect(once).not.toMatch(/[\u0000-\u001f\u007f-\u009f\u2028\u2029\u202a-\u202e\u2066-\u2069]/)
        expect(() => encodeURIComponent(once)).not.toThrow()
        expect(plain(once)).toBe(once)
        expect(escaped(once)).not.toMatch(/[<>"']/)
      }),
    )
  })
})

describe('writing on a card', () => {
  const face = fc.constantFrom('plain', 'bold', 'figures' as const)
  it('never reaches beyond its room, and what is cut has a sign', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ text: fc.string({ minLength: 1, maxLength: 40 }).map(plain), face }), {
          minLength: 1,
          maxLength: 5,
        }),
        fc.double({ min: 3, max: 60, noNaN: true }),
        fc.double({ min: 0, max: 40, noNaN: true }),
        (wanted, width, height) => {
          const { size, lines, isCut } = fitted(wanted as never, width, height)
          expect(lines.length * size * 1.18).toBeLessThanOrEqual(Math.max(height, 0) + 1e-9)
          for (const line of lines)
            expect(textWidth(line.text, size, line.face)).toBeLessThanOrEqual(width + size)
          if (!isCut)
            expect(
              lines
                .map(({ text }) => text)
                .join('')
                .replace(/\s/g, ''),
            ).toBe(
              wanted
                .map(({ text }) => text)
                .join('')
                .replace(/\s/g, ''),
            )
          else if (lines.length > 0) expect(lines.some(({ text }) => text.endsWith('…'))).toBe(true)
        },
      ),
    )
    expect(cut('abcdef', 1, 2, 'plain')).toBe('')
  })

  it('says all of a line on the drawing, or the line stands below it', () => {
    const long = 'a very long name that no control has room for '.repeat(2).trim()
    let at = 0
    const rigs = [performed, renamed(performed, (old) => (at++ % 2 === 0 ? long : old))]
    const shown = rigs.map((rig) => {
      const sections = rig.controllers.flatMap(({ id }) => made(rig, `card ${id}`).sections)
      return sections.flatMap((section) => {
        const { drawing, table } = section
        const drawn = (drawing?.parts ?? [])
          .flatMap((part) => (part.kind === 'text' ? part.text : []))
          .join('')
          .replace(/\s/g, '')
        const below = linesBeside(section)
        for (const row of table?.rows ?? []) {
          const [, , tags = '', does = ''] = row.cells.map(({ text }) => text)
          const isSaid = [tags.replaceAll(', ', ''), does].every((text) =>
            drawn.includes(text.replace(/\s/g, '')),
          )
          expect(isSaid || below.includes(row), `${section.heading}: ${does}`).toBe(true)
        }
        return below
      })
    })
    expect(shown[1]?.length).toBeGreaterThan(shown[0]?.length ?? 0)
  })

  it('on one card of all layers never leaves out which layer has which light', () => {
    const { sections } = made(performed, 'card pelluna', { layers: 'together' })
    const below = sections.flatMap((section) => linesBeside(section))
    const lit = sections.flatMap(({ table }) =>
      (table?.rows ?? []).filter(({ cells: row }) => row.at(-1)?.text !== ''),
    )
    expect(lit.length).toBeGreaterThan(0)
    for (const row of lit) expect(below).toContain(row)
  })

  it('lies on pages that cover the whole drawing and show their edges twice', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 1500, noNaN: true }),
        fc.double({ min: 20, max: 1500, noNaN: true }),
        fc.constantFrom(...(Object.keys(PAPERS) as Paper[])),
        (width, height, paper) => {
          const pages = cardPages({ name: 'D', width, height, parts: [] }, paper)
          const { width: w, height: h } = PAPERS[paper]
          for (const page of pages) {
            expect([`${w} ${h}`, `${h} ${w}`]).toContain(`${page.width} ${page.height}`)
            expect(page.x + page.region.w * page.scale).toBeLessThanOrEqual(page.width - 6.9)
            expect(page.y + page.region.h * page.scale).toBeLessThanOrEqual(page.height - 6.9)
          }
          if (pages[0] && pages[0].scale < 1) return
          const right = Math.max(...pages.map(({ region }) => region.x + region.w))
          const bottom = Math.max(...pages.map(({ region }) => region.y + region.h))
          expect([right, bottom].map(Math.round)).toEqual([width, height].map(Math.round))
          for (const { region, row, column: at } of pages) {
            const next = pages.find((page) => page.row === row && page.column === at + 1)
            if (next) expect(region.x + region.w - next.region.x).toBeCloseTo(OVERLAP, 6)
          }
        },
      ),
      cases(400),
    )
  })
})
