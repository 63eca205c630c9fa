import { CONTROL_KIND_NAME, KIND_FACTS, type ControlKind } from '#core/rig'

/** The kinds of controls in the order in which they are offered. */
export const CONTROL_KINDS = Object.keys(KIND_FACTS) as readonly ControlKind[]

const [MOST_ROWS, MOST_COLUMNS] = [32, 64]
const isWhole = (value: number, high: number): boolean =>
  Number.isInteger(value) && value >= 1 && value <= high

/** Why a block cannot have so many rows and columns; null where it can. */
export const rowsRefusal = (rows: number, columns: number): string | null =>
  isWhole(rows, MOST_ROWS) && isWhole(columns, MOST_COLUMNS)
    ? null
    : `Rows go from 1 to ${MOST_ROWS}, columns from 1 to ${MOST_COLUMNS}.`

/** So many controls of a kind in words: "1 fader", "8 faders". */
export const countWords = (kind: ControlKind, count: number): string =>
  `${count} ${count === 1 ? CONTROL_KIND_NAME[kind] : KIND_FACTS[kind].plural.toLowerCase()}`
