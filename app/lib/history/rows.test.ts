import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lastSittingEnd } from './sittings'
import { historyRows, SITTING_GAP_MS, type HistoryRow } from './rows'

const version = (id: string, at: number, name: string | null = 'A name') => ({
  id,
  rig: 'r',
  name,
  at,
  label: '',
  byteLength: 1,
})
const minute = 60_000
const steps = (...minutes: Array<number | undefined>) =>
  minutes.map((at, index) => ({ label: `edit ${index}`, ...(at === undefined ? {} : { at: at * minute }) }))
const said = (rows: readonly HistoryRow[]): string[] =>
  rows.map((row) =>
    row.kind === 'sitting' ? `— ${row.count}` : row.kind === 'step' ? row.label : `★ ${row.version.id}`,
  )

describe('the line of edits', () => {
  it('groups what was done at one go, the latest first', () => {
    expect(said(historyRows(steps(0, 5, 60, 61), []))).toEqual([
      '— 2',
      'edit 3',
      'edit 2',
      '— 2',
      'edit 1',
      'edit 0',
    ])
    expect(SITTING_GAP_MS).toBe(30 * minute)
  })

  it('puts a version above the edit that led to it, whether its edit is still known or not', () => {
    const rows = historyRows(steps(10, 20, 100), [
      version('old', 0),
      version('second', 20 * minute),
      version('now', 100 * minute),
    ])
    expect(said(rows)).toEqual(['— 1', '★ now', 'edit 2', '— 2', '★ second', 'edit 1', 'edit 0', '★ old'])
  })

  it('keeps edits of unknown time together', () => {
    expect(said(historyRows(steps(undefined, undefined, 5), []))).toEqual([
      '— 1',
      'edit 2',
      '— 2',
      'edit 1',
      'edit 0',
    ])
  })

  it('shows every edit and version once, in order, whatever the times', () => {
    const any = fc.record({
      times: fc.array(fc.option(fc.integer({ min: 0, max: 300 }), { nil: undefined }), { maxLength: 30 }),
      versions: fc.array(fc.integer({ min: 0, max: 300 }), { maxLength: 10 }),
    })
    fc.assert(
      fc.property(any, ({ times, versions }) => {
        const rows = historyRows(
          steps(...times),
          versions.map((at, index) => version(`v${index}`, at * minute)),
        )
        const indices = rows.flatMap((row) => (row.kind === 'step' ? [row.index] : []))
        expect(indices).toEqual(times.map((_, index) => index).toReversed())
        expect(rows.filter(({ kind }) => kind === 'version')).toHaveLength(versions.length)
        expect(new Set(rows.map(({ key }) => key)).size).toBe(rows.length)
      }),
    )
  })

  it('leaves out sittings in which nothing is searched for', () => {
    expect(said(historyRows(steps(0, 60, 61), [], (index) => index === 1))).toEqual(['— 1', 'edit 1'])
  })
})

describe('the end of the last sitting', () => {
  const openedAt = 100 * minute

  it('is before the first edit after a pause, however many came since', () => {
    expect(lastSittingEnd(steps(10, 20, 101), openedAt)).toBe(2)
    expect(lastSittingEnd(steps(10, 20, 101, 102, 103), openedAt)).toBe(2)
    expect(lastSittingEnd(steps(undefined, undefined, 101), openedAt)).toBe(2)
  })

  it('is none while a sitting goes on, and none of edits that another page made', () => {
    expect(lastSittingEnd(steps(95, 101, 102), openedAt)).toBe(null)
    expect(lastSittingEnd(steps(10, 90), openedAt)).toBe(null)
    expect(lastSittingEnd(steps(101), openedAt)).toBe(null)
    expect(lastSittingEnd([], openedAt)).toBe(null)
  })
})
