import { openSync } from 'fontkit'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { bookOf, sheetsOf, type SheetDocument } from '../../core/sheets'
import { columns, linesBeside, row, words } from '../../core/sheets/document'
import { HELD_HAN } from '../../core/sheets/held-han'
import { faceOf, runsOf, type Face, type HanFace } from '../../core/sheets/scripts'
import { AWKWARD_TEXTS, renamed } from '../../core/testing/named-rigs'
import { testDestination, testRig } from '../../core/testing/rigs'
import { FONT_FILES, type FontFile } from './fonts'
import { nodeTools } from './node-tools'
import { writePdf } from './pdf'
import {
  embedded,
  factsOf,
  fontsOf,
  longestBar,
  painted,
  pagesOf,
  PX_A_MM,
  wordsOf,
  type PdfWord,
} from './testing/poppler'

const pdfOf = (sheet: SheetDocument): Promise<Uint8Array> => writePdf(sheet, '1 May 2026', nodeTools)
const performed = nineRingsRig('as-performed')
const sheetNamed = (id: string, chosen = {}, rig = performed): SheetDocument => {
  const found = sheetsOf(rig)
    .flatMap(({ sheets }) => sheets)
    .find((each) => each.id === id)
  if (!found) throw new Error(`no ${id}`)
  return found.make(chosen)
}

/** Texts as they can be compared however they are broken into lines and joined. */
const bare = (text: string): string => text.replace(/[\s,;…]/g, '')

function factsIn(sheet: SheetDocument): string[] {
  return [
    sheet.title,
    ...sheet.facts.map(({ value }) => value),
    ...sheet.sections.flatMap((section) => [
      section.heading,
      ...(section.note === undefined ? [] : [section.note]),
      ...linesBeside(section).flatMap(({ cells }) => cells.map(({ text }) => text)),
      // What is drawn is written at its control: what it moves and where it is sent.
      ...(section.table?.rows ?? [])
        .filter(({ isDrawn }) => isDrawn)
        .flatMap(({ cells }) => cells.slice(2, 4).map(({ text }) => text)),
    ]),
  ].filter((text) => text !== '')
}

async function saysAll(sheet: SheetDocument): Promise<void> {
  const pdf = await pdfOf(sheet)
  const text = bare(
    pagesOf(pdf)
      .join('\n')
      .replace(/1 May 2026\n\d+ of \d+/g, ''),
  )
  for (const fact of factsIn(sheet)) {
    const written = runsOf(fact)
      .map((run) => run.text)
      .join('')
    // What runs from right to left comes back in another order; that it is there is looked at letter by letter.
    if (/[\u0590-\u08ff]/.test(written)) for (const letter of bare(written)) expect(text).toContain(letter)
    else expect(text.includes(bare(written)), `${sheet.title}: ${fact}`).toBe(true)
  }
  expect(embedded(pdf).every(Boolean)).toBe(true)
}

describe('every sheet as PDF', () => {
  it('says what the rig says, in embedded typefaces', async () => {
    for (const { sheets } of sheetsOf(performed))
      for (const each of sheets) await saysAll(each.make(each.kind === 'card' ? { paper: 'own' } : {}))
  })

  it('says what the rig says, whatever it is called', async () => {
    let at = 0
    const rig = renamed(performed, (old) =>
      at++ % 3 === 0 ? (AWKWARD_TEXTS[at % AWKWARD_TEXTS.length] ?? old) : old,
    )
    for (const id of ['controller merrod', 'map loomwright', 'names', 'checklist'])
      await saysAll(sheetNamed(id, {}, rig))
  })

  it.each([
    ['כפתור ראשון גדול', ['גדול', 'ראשון', 'כפתור']],
    ['Pad שלום עולם 12 end', ['Pad', '12', 'עולם', 'שלום', 'end']],
    ['قرص كبير اول', ['اول', 'كبير', 'قرص']],
    ['שלום (ראשון) 7 לחצן and more', ['לחצן', '7', 'ראשון', 'שלום', 'and', 'more']],
  ])('sets the words of %s in their order, with blanks between them', async (name, fromLeft) => {
    const sheet: SheetDocument = {
      ...sheetNamed('teach'),
      facts: [{ label: 'Name', value: name }],
      sections: [{ heading: name, note: 'N', table: { columns: columns('A'), rows: [row([words(name)])] } }],
    }
    const written = wordsOf(await pdfOf(sheet)).map(({ text, ...at }) => ({
      ...at,
      text: text.normalize('NFKC').replace(/[^\p{L}\p{N}]/gu, ''),
    }))
    for (const word of fromLeft) expect(written.filter(({ text }) => text === word).length).toBe(3)
    const lines = new Map<number, PdfWord[]>()
    for (const word of written.filter(({ text }) => fromLeft.includes(text))) {
      const line = Math.round(word.bottom / 3)
      lines.set(line, [...(lines.get(line) ?? []), word])
    }
    for (const line of lines.values()) {
      const ordered = line.toSorted((a, b) => a.left - b.left)
      expect(ordered.map(({ text }) => text)).toEqual(fromLeft)
      for (const [index, { left }] of ordered.entries())
        if (index > 0) expect(left - (ordered[index - 1]?.right ?? 0)).toBeGreaterThan(1)
    }
    expect(lines.size).toBe(3)
  })

  it('breaks what runs from right to left into lines from its beginning on', async () => {
    const name = 'ראשון שני שלישי רביעי חמישי'
    const note = Array.from({ length: 12 }, () => name).join(' ')
    const sheet: SheetDocument = { ...sheetNamed('teach'), facts: [], sections: [{ heading: 'H', note }] }
    const written = wordsOf(await pdfOf(sheet)).filter(({ text }) => /[\u05d0-\u05ea]/.test(text))
    const top = Math.min(...written.map(({ bottom }) => bottom))
    const first = written.filter(({ bottom }) => bottom < top + 3).toSorted((a, b) => b.left - a.left)
    expect(written.length).toBe(60)
    expect(first.length).toBeLessThan(60)
    expect(first.slice(0, 5).map(({ text }) => text)).toEqual(name.split(' '))
  })

  it('writes what no typeface holds as code points that stay in their column', async () => {
    const sheet: SheetDocument = {
      ...sheetNamed('teach'),
      facts: [],
      sections: [
        {
          heading: 'H',
          table: {
            columns: columns('A', 'B', 'C'),
            rows: [
              row([words('คีย์'), words('x1'), words('y1')]),
              row([words('แป้นพิมพ์'), words('x2'), words('y2 '.repeat(60))]),
            ],
          },
        },
      ],
    }
    const written = wordsOf(await pdfOf(sheet))
    const spelled = written.filter(({ text }) => text.includes('U+'))
    const second = written.filter(({ text }) => /^x\d$/.test(text))
    expect(spelled.map(({ text }) => text).join('')).toContain('[U+0E04][U+0E35][U+0E22][U+0E4C]')
    expect(second.length).toBe(2)
    for (const { right } of spelled) expect(right).toBeLessThan(second[0]?.left ?? 0)
  })

  it.each([
    ['Japanese', '鍵盤つまみ、音量ﾂﾏﾐ', '鍵盤つまみ、音量ツマミ', 'NotoSansJP'],
    ['simplified Chinese', '合成器：滤波说', '合成器：滤波说', 'NotoSansSC'],
    ['traditional Chinese', '櫥攔音量', '櫥攔音量', 'NotoSansTC'],
    ['Korean', '건반노브', '건반노브', 'NotoSansKR'],
  ])('sets %s in letters that can be read and searched', async (_, name, written, typeface) => {
    const long = Array.from({ length: 30 }, () => name).join('')
    const sheet: SheetDocument = {
      ...sheetNamed('teach'),
      facts: [{ label: 'Name', value: name }],
      sections: [
        {
          heading: name,
          note: long,
          table: {
            columns: columns('A', 'B'),
            rows: [row([words(name), words('x1')]), row([words(long), words('x2')])],
          },
        },
      ],
    }
    const pdf = await pdfOf(sheet)
    const text = bare(pagesOf(pdf).join('\n'))
    expect(text.split(bare(written)).length - 1).toBe(3 + 30 + 30)
    expect(text).not.toContain('U+')
    expect(fontsOf(pdf).some((font) => font.includes(typeface))).toBe(true)
    expect(embedded(pdf).every(Boolean)).toBe(true)
    const spread = wordsOf(pdf)
    const second = spread.filter(({ text: word }) => /^x\d$/.test(word))
    expect(second.length).toBe(2)
    const right = Math.max(...spread.map((word) => word.right))
    expect(right).toBeLessThan((factsOf(pdf).width / 25.4) * 72 - 20)
  })

  it('sets the cells of a row on one base line, whatever letters they are of', async () => {
    const texts = ['x1', '日本 x1', 'שלום x1', 'κύμα x1', 'قرص x1', '건반 x1']
    const sheet: SheetDocument = {
      ...sheetNamed('teach'),
      facts: [{ label: 'x2', value: 'قرص x2' }],
      sections: [
        {
          heading: 'H',
          table: {
            columns: columns('A', 'B', 'C', 'D', 'E', 'F'),
            rows: [row(texts.map((text) => words(text)))],
          },
        },
      ],
    }
    const written = wordsOf(await pdfOf(sheet))
    for (const [word, count] of [
      ['x1', 6],
      ['x2', 2],
    ] as const) {
      const bottoms = written.filter(({ text }) => text === word).map(({ bottom }) => bottom)
      expect(bottoms.length).toBe(count)
      expect(Math.max(...bottoms) - Math.min(...bottoms)).toBeLessThan(0.1)
    }
  })

  it('binds a book whose contents name the pages of its sheets', async () => {
    const sheets = ['card umbrek', 'controller umbrek', 'map ferric-mile', 'lights'].map((id) =>
      sheetNamed(id),
    )
    const pages = pagesOf(await pdfOf(bookOf('Rig', sheets, { date: '1 May 2026', version: 'AAAA' })))
    for (const { title } of sheets) {
      const at = pages.findIndex((text, index) => index > 0 && text.startsWith(title))
      expect(at).toBeGreaterThan(0)
      expect(pages[0]?.replace(/\s+/g, ' ')).toContain(`${title} ${at + 1}`)
    }
    expect(pages[0]).toContain('AAAA')
  })
})

describe('page breaks', () => {
  const parameters = Array.from({ length: 300 }, (_, index) => ({
    id: `p${index}`,
    name: `Parameter number ${index} end`,
  }))
  const rig = testRig([], [testDestination('d', { parameters })])

  it('give every page its heading, and leave every row whole', async () => {
    const pages = pagesOf(await pdfOf(sheetNamed('map d', {}, rig)))
    expect(pages.length).toBeGreaterThan(3)
    const found = parameters.map(({ name }) =>
      pages.findIndex((text) => text.replace(/\s+/g, ' ').includes(name)),
    )
    expect(found).not.toContain(-1)
    for (const page of new Set(found)) expect(pages[page]).toContain('What nothing moves')
  })

  it('lose nothing of a row that is taller than a page', async () => {
    const words = Array.from({ length: 1800 }, (_, index) => `w${index}`).join(' ')
    const sheet = {
      title: 'T',
      subtitle: 'S',
      facts: [],
      sections: [
        {
          heading: 'H',
          table: {
            columns: ['A', 'B', 'C', 'D'].map((title) => ({ title })),
            rows: [{ cells: [words, words, 'short', 'short'].map((text) => ({ text })) }],
          },
        },
      ],
    }
    const text = pagesOf(await pdfOf(sheet))
      .join(' ')
      .split(/\s+/)
    for (const index of [0, 900, 1799]) expect(text.filter((word) => word === `w${index}`)).toHaveLength(2)
  })
})

describe('a surface card', () => {
  it.each(['syzra', 'pelluna', 'merrod', 'umbrek', 'corvel'])('%s is true to scale', async (id) => {
    const controller = performed.controllers.find((each) => each.id === id)
    const surface = performed.models.find((model) => model.id === controller?.model)?.surface
    if (!surface) throw new Error(`no ${id}`)
    const pdf = await pdfOf(sheetNamed(`card ${id}`, { paper: 'own' }))
    const picture = painted(pdf)
    expect(Math.abs(longestBar(picture) / PX_A_MM - 50)).toBeLessThanOrEqual(0.2)
    // The dashed line to cut along is dark for a part of each side, and nothing else is so wide or so high.
    const { width, height, isDark } = picture
    const rows = Array.from({ length: height }, (_, y) => y)
    const columns = Array.from({ length: width }, (_, x) => x)
    const across = rows.filter(
      (y) => columns.filter((x) => isDark(x, y)).length > surface.width * PX_A_MM * 0.4,
    )
    const down = columns.filter(
      (x) => rows.filter((y) => isDark(x, y)).length > surface.height * PX_A_MM * 0.4,
    )
    for (const [side, edges] of [
      [surface.width, down],
      [surface.height, across],
    ] as const)
      expect(Math.abs(((edges.at(-1) ?? 0) - (edges[0] ?? 0)) / PX_A_MM - side)).toBeLessThanOrEqual(0.2)
    const { width: page } = factsOf(pdf)
    expect(page).toBeGreaterThanOrEqual(surface.width)
  })

  it('takes several pages of small paper, each with its place, and the ruler still right', async () => {
    for (const [paper, size] of [
      ['a4', 210],
      ['letter', 215.9],
    ] as const) {
      const pdf = await pdfOf(sheetNamed('card merrod', { paper }))
      const pages = pagesOf(pdf)
      const tiles = pages.filter((text) => /Row \d+, column \d+ of \d+ pages/.test(text))
      expect(tiles.length).toBeGreaterThan(1)
      const { width, height } = factsOf(pdf)
      expect([width, height].some((side) => Math.abs(side - size) < 0.2)).toBe(true)
      const bars = pages.flatMap((text, index) =>
        text.includes('This bar is 50 mm long.') ? [longestBar(painted(pdf, index + 1))] : [],
      )
      expect(bars.length).toBeGreaterThan(0)
      for (const bar of bars) expect(Math.abs(bar / PX_A_MM - 50)).toBeLessThanOrEqual(0.2)
    }
  })
})

describe('the typefaces', () => {
  const charactersIn = (file: FontFile): Set<number> =>
    new Set(openSync(`node_modules/${FONT_FILES[file]}`).characterSet)
  const FILES: Readonly<Record<Exclude<Face, 'unknown'>, readonly FontFile[]>> = {
    latin: ['next-400', 'next-700', 'mono-400'],
    'latin-ext': ['next-ext-400', 'next-ext-700', 'mono-ext-400'],
    greek: ['greek'],
    cyrillic: ['cyrillic'],
    hebrew: ['hebrew'],
    arabic: ['arabic'],
    emoji: ['emoji'],
    korean: ['korean'],
    japanese: ['japanese'],
    simplified: ['simplified'],
    traditional: ['traditional'],
  }
  it('hold every character that they are asked for', () => {
    const missing: string[] = []
    const held = Object.fromEntries(
      Object.entries(FILES).map(([face, files]) => [face, files.map(charactersIn)]),
    )
    for (let point = 0x20; point < 0x20000; point++) {
      const face = faceOf(point)
      if (face === 'unknown') continue
      if (!held[face]?.every((characters) => characters.has(point)))
        missing.push(`${face} ${point.toString(16)}`)
    }
    expect(missing).toEqual([])
  })

  it.each(Object.keys(HELD_HAN) as HanFace[])('hold the ideographs that %s is said to hold', (face) => {
    const characters = charactersIn(face)
    let digits = ''
    for (let point = 0x4e00; point < 0xa000; point += 4) {
      const bits = [0, 1, 2, 3].map((bit) => (characters.has(point + bit) ? 2 ** bit : 0))
      digits += bits.reduce((sum, bit) => sum + bit, 0).toString(16)
    }
    expect(HELD_HAN[face]).toBe(digits)
  })

  it('hold the marks beside ideographs that are set in their face', () => {
    for (const [face, ideograph] of [
      ['simplified', '说'],
      ['traditional', '櫥攔'],
    ] as const) {
      const characters = charactersIn(face)
      expect(runsOf(ideograph)).toEqual([{ face, text: ideograph }])
      let isSet = 0
      for (let point = 0x3000; point < 0x10000; point++) {
        const [first] = runsOf(`${ideograph}${String.fromCharCode(point)}`)
        if (first?.face !== face || first.text.length <= ideograph.length) continue
        isSet++
        for (const character of first.text) expect(characters.has(character.codePointAt(0) ?? 0)).toBe(true)
      }
      expect(isSet).toBeGreaterThan(6000)
    }
  })
})
