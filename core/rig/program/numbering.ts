import { rowsOf } from '../surface/reading'
import type { Control, Id } from '../types'

/** Musical steps of common scales within an octave, in semitones. */
export const SCALES = {
  major: [0, 2, 4, 5, 7, 9, 11],
  minor: [0, 2, 3, 5, 7, 8, 10],
  dorian: [0, 2, 3, 5, 7, 9, 10],
  pentatonic: [0, 2, 4, 7, 9],
  'minor pentatonic': [0, 3, 5, 7, 10],
  'whole tone': [0, 2, 4, 6, 8, 10],
} as const
export type ScaleName = keyof typeof SCALES

/** How numbers run over a selection. */
export type Numbering =
  | { kind: 'same'; number: number }
  /** Upwards in reading order, by a step (negative runs down). */
  | { kind: 'run'; from: number; step: number }
  /** Each row of the selection starts further on; within it numbers run upwards. */
  | { kind: 'rows'; from: number; rowStep: number }
  /** A grid of notes from the bottom left: steps to the right and up, in semitones. */
  | { kind: 'grid'; from: number; columnStep: number; rowStep: number }
  /** Notes of a scale from the bottom left, row after row. */
  | { kind: 'scale'; from: number; scale: ScaleName }

export interface Numbered {
  numbers: ReadonlyMap<Id, number>
  /** Controls whose number would lie outside `low`–`high`: they are left as they are. */
  beyond: readonly Id[]
}

/** Numbers for controls; none for those that would fall outside the range. Rows are as on the surface. */
export function numbersFor(
  controls: readonly Control[],
  numbering: Numbering,
  bounds: { low: number; high: number },
): Numbered {
  const numbers = new Map<Id, number>()
  const beyond: Id[] = []
  const give = (id: Id, number: number): void => {
    if (Number.isInteger(number) && number >= bounds.low && number <= bounds.high) numbers.set(id, number)
    else beyond.push(id)
  }
  const rows = rowsOf(controls)
  switch (numbering.kind) {
    case 'same':
      rows.flat().forEach(({ id }) => give(id, numbering.number))
      break
    case 'run':
      rows.flat().forEach(({ id }, index) => give(id, numbering.from + index * numbering.step))
      break
    case 'rows':
      rows.forEach((row, rowIndex) =>
        row.forEach(({ id }, column) => give(id, numbering.from + rowIndex * numbering.rowStep + column)),
      )
      break
    case 'grid':
      rows
        .toReversed()
        .forEach((row, rowIndex) =>
          row.forEach(({ id }, column) =>
            give(id, numbering.from + rowIndex * numbering.rowStep + column * numbering.columnStep),
          ),
        )
      break
    case 'scale':
      rows
        .toReversed()
        .flat()
        .forEach(({ id }, index) => give(id, numbering.from + scaleStep(numbering.scale, index)))
      break
  }
  return { numbers, beyond }
}

/** Semitones above the root of the `index`-th note of a scale. */
function scaleStep(scale: ScaleName, index: number): number {
  const steps = SCALES[scale]
  return Math.floor(index / steps.length) * 12 + (steps[index % steps.length] ?? 0)
}
