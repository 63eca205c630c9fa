import { controllerName, noteName, percussionName, PERCUSSION_CHANNEL, type MiddleC } from '#core/midi'
import { cellKey, type Family, type LatticeRow, type Owner } from '#core/addresses'
import type { Finding, Severity } from '#core/conflicts'
import { groundRuns, type GroundRun } from './ground'

/** What a number of a family is called, in short; empty where the standard leaves it open. */
export function numberName(
  family: Family,
  channel: number,
  number: number,
  { middleC, programsFrom }: { middleC: MiddleC; programsFrom: 0 | 1 },
): string {
  switch (family) {
    case 'cc':
      return controllerName(number) ?? ''
    case 'note': {
      const drum = channel === PERCUSSION_CHANNEL ? percussionName(number) : null
      return drum ? `${noteName(number, middleC)} ${drum}` : noteName(number, middleC)
    }
    case 'program':
      return programsFrom === 0 ? '' : `shown as ${number + 1}`
  }
}

/** One number of the channel that is shown large. */
export interface LargeCell {
  number: number
  name: string
  owners: readonly Owner[]
  isLive: boolean
  kept: string | null
  severity: Severity | null
  ground: GroundRun['ground']
}

/** The 128 numbers of one channel, each with what is to be said of it. */
export function largeCells(
  family: Family,
  channel: number,
  row: LatticeRow | undefined,
  marks: ReadonlyMap<number, Finding>,
  naming: { middleC: MiddleC; programsFrom: 0 | 1 },
): LargeCell[] {
  const runs = groundRuns(family)
  const byNumber = new Map(row?.cells.map((cell) => [cell.number, cell.owners]))
  return Array.from({ length: 128 }, (_, number) => {
    const owners = byNumber.get(number) ?? []
    return {
      number,
      name: numberName(family, channel, number, naming),
      owners,
      isLive: owners.some(({ live }) => live),
      kept: row?.kept.find(({ low, high }) => number >= low && number <= high)?.function ?? null,
      ground: runs.find(({ low, high }) => number >= low && number <= high)?.ground ?? 'plain',
      severity: marks.get(cellKey({ kind: family, channel, number }))?.severity ?? null,
    }
  })
}
