import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { changedFindings, changeReport } from '../history'
import { changesSheet } from './changes-sheet'
import { renderCsv } from './render-csv'
import { renderMarkdown } from './render-markdown'

const found = nineRingsRig('as-found')
const performed = nineRingsRig('as-performed')

describe('the sheet of what changed', () => {
  it('lists every thing that differs once, with addresses old and new', () => {
    const sheet = changesSheet(found, performed, 'the first day')
    const rows = sheet.sections
      .filter(({ table }) => table?.columns.length === 4)
      .flatMap(({ table }) => table?.rows ?? [])
    expect(rows).toHaveLength(changeReport(found, performed).count)
    const drift = rows.map(({ cells }) => cells.map(({ text }) => text)).find(([, name]) => name === 'Drift')
    expect(drift).toEqual(['moved', 'Drift', '1:cc49', '1:cc114'])
    expect(sheet.facts[0]).toEqual({ label: 'Since', value: 'the first day' })
  })

  it('says what must be taught again and what was found and is no more', () => {
    const sheet = changesSheet(found, performed, '')
    const listed = (heading: string): number =>
      sheet.sections.find((each) => each.heading === heading)?.table?.rows.length ?? 0
    expect(listed('Teach again')).toBe(changeReport(found, performed).teach.length)
    expect(listed('Findings that went')).toBe(changedFindings(found, performed).went.length)
    expect(listed('Findings that came')).toBe(0)
  })

  it('is written in the formats of every sheet, and says it where nothing differs', () => {
    expect(renderCsv(changesSheet(found, performed, 'x'))).toContain('moved,Drift,1:cc49,1:cc114')
    expect(renderMarkdown(changesSheet(found, found, 'x'))).toContain('Nothing differs')
  })
})
