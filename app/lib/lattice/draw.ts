import { cellKey, type Family, type LatticeCell, type LatticeRow, type Owner } from '#core/addresses'
import { PAIR_DISTANCE } from '#core/midi'
import type { Finding } from '#core/conflicts'
import type { GestureRef } from '#core/rig'
import { LATTICE, type LatticeGeometry } from './geometry'

/** Cells of one look, drawn as one path: a full lattice is a few hundred paths, not thousands of shapes. */
export interface CellPath {
  key: string
  controller: string
  opacity: number
  d: string
}

/** A cell of which something more is to be said than who sends it. */
export interface CellNote {
  number: number
  severity: Finding['severity'] | null
  isShared: boolean
  isLive: boolean
}

const MOST_SLICES = 3
const OTHER_LAYER_OPACITY = 0.28
const SECOND_HALF_OPACITY = 0.5

/** How strongly who has a cell is drawn, 0–1: other layers, LSBs and carriers are fainter. */
export const ownerOpacity = ({ live, part, role }: Owner): number =>
  !live ? OTHER_LAYER_OPACITY : part === 'lsb' || role === 'carrier' ? SECOND_HALF_OPACITY : 1

const shownOwners = (cell: LatticeCell, withOthers: boolean): readonly Owner[] => {
  const live = cell.owners.filter((owner) => owner.live)
  return live.length > 0 ? live : withOthers ? cell.owners : []
}

/** The cells of a row, whose top is 0, as paths, one a controller and opacity; several senders of a cell share its height. */
export function cellPaths(row: LatticeRow, geometry: LatticeGeometry, withOthers: boolean): CellPath[] {
  const paths = new Map<string, CellPath>()
  const width = (geometry.columnWidth - 2).toFixed(2)
  for (const cell of row.cells) {
    const owners = shownOwners(cell, withOthers).slice(0, MOST_SLICES)
    const step = (LATTICE.rowHeight - 6) / Math.max(1, owners.length)
    const height = step - (owners.length > 1 ? 1 : 0)
    owners.forEach((owner, index) => {
      const opacity = ownerOpacity(owner)
      const key = `${owner.controller} ${opacity}`
      const path = paths.get(key) ?? { key, controller: owner.controller, opacity, d: '' }
      paths.set(key, path)
      const left = (geometry.x(cell.number) + 1).toFixed(2)
      path.d += `M${left} ${(3 + index * step).toFixed(2)}h${width}v${height.toFixed(2)}h-${width}z`
    })
  }
  return [...paths.values()]
}

/** What is to be said of single cells: trouble, and sharing on purpose. */
export function cellNotes(
  row: LatticeRow,
  family: Family,
  marks: ReadonlyMap<number, Finding>,
  shared: ReadonlySet<GestureRef>,
  withOthers: boolean,
): CellNote[] {
  return row.cells.flatMap((cell): CellNote[] => {
    const { number } = cell
    const severity = marks.get(cellKey({ kind: family, channel: row.channel, number }))?.severity ?? null
    const owners = shownOwners(cell, withOthers)
    const isLive = owners.some(({ live }) => live)
    const isShared = owners.filter(({ gesture, live }) => live && shared.has(gesture)).length > 1
    return owners.length > 0 && (severity !== null || isShared)
      ? [{ number, severity, isShared, isLive }]
      : []
  })
}

/** First numbers of the 14-bit pairs that the selection sends now, both halves of them. */
export function selectedPairs(row: LatticeRow, selected: ReadonlySet<GestureRef>): number[] {
  const halves = (part: Owner['part']): number[] =>
    row.cells.flatMap(({ number, owners }) =>
      owners.some((owner) => owner.live && owner.part === part && selected.has(owner.gesture))
        ? [number]
        : [],
    )
  const seconds = new Set(halves('lsb'))
  return halves('msb').filter((number) => seconds.has(number + PAIR_DISTANCE))
}

/** The cells of a row that the selection sends, and whether it does so now. */
export function selectedCells(
  row: LatticeRow,
  selected: ReadonlySet<GestureRef>,
  withOthers: boolean,
): Array<{ number: number; isLive: boolean }> {
  if (selected.size === 0) return []
  return row.cells.flatMap(({ number, owners }) => {
    const mine = owners.filter(({ live, gesture }) => (live || withOthers) && selected.has(gesture))
    return mine.length > 0 ? [{ number, isLive: mine.some(({ live }) => live) }] : []
  })
}
