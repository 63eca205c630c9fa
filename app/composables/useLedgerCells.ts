import { toast } from '~/lib/toast'
import {
  blockToText,
  LEDGER_COLUMNS,
  textToBlock,
  writeBlock,
  type LedgerColumnId,
  type LedgerRow,
} from '#core/rig/program/ledger'

export interface CellSpot {
  row: number
  column: number
}

const BAD_SHOWN = 4

/** The cells of the ledger that are selected, walked, copied, filled and pasted, as in a spreadsheet. */
export function useLedgerCells(rows: () => readonly LedgerRow[], columns: () => readonly LedgerColumnId[]) {
  const rigs = useRigStore()
  const edit = useEdit()
  const pending = usePendingEditStore()
  const active = ref<CellSpot>({ row: 0, column: 0 })
  const anchor = ref<CellSpot>({ row: 0, column: 0 })
  const editing = ref<string | null>(null)

  const range = computed(() => ({
    top: Math.min(active.value.row, anchor.value.row),
    bottom: Math.max(active.value.row, anchor.value.row),
    left: Math.min(active.value.column, anchor.value.column),
    right: Math.max(active.value.column, anchor.value.column),
  }))
  const isInRange = (row: number, column: number): boolean => {
    const { top, bottom, left, right } = range.value
    return row >= top && row <= bottom && column >= left && column <= right
  }

  function moveTo(spot: CellSpot, extend: boolean): void {
    active.value = {
      row: Math.max(0, Math.min(rows().length - 1, spot.row)),
      column: Math.max(0, Math.min(columns().length - 1, spot.column)),
    }
    if (!extend) anchor.value = active.value
  }
  const moveBy = (down: number, across: number, extend: boolean): void =>
    moveTo({ row: active.value.row + down, column: active.value.column + across }, extend)

  const textAt = ({ row, column }: CellSpot): string => {
    const id = columns()[column]
    return id === undefined ? '' : (rows()[row]?.[id] ?? '')
  }

  function selectedBlock(): string[][] {
    const { top, bottom, left, right } = range.value
    return rows()
      .slice(top, bottom + 1)
      .map((line) =>
        columns()
          .slice(left, right + 1)
          .map((id) => line[id]),
      )
  }

  const columnName = (id: LedgerColumnId): string =>
    LEDGER_COLUMNS.find((column) => column.id === id)?.name ?? id

  function write(label: string, at: CellSpot, block: ReadonlyArray<readonly string[]>): boolean {
    if (!rigs.rig) return false
    const result = writeBlock(rigs.rig, rows(), columns(), at, block)
    if (result.ok) return result.edits.length === 0 || edit(label, result.edits)
    const shown = result.bad
      .slice(0, BAD_SHOWN)
      .map(({ row, column, message }) => `${rows()[row]?.control}, ${columnName(column)}: ${message}.`)
    const more = result.bad.length - shown.length
    toast.error(`Nothing was written. ${shown.join(' ')}${more > 0 ? ` And ${more} more.` : ''}`, {
      duration: 12_000,
    })
    return false
  }

  function startEdit(text: string | null): void {
    editing.value = text ?? textAt(active.value)
  }
  /** Keep what was typed, or have it held back; false if it was refused and the cell stays open. */
  function commitEdit(): boolean {
    if (editing.value === null) return true
    const text = editing.value
    const isKept = text === textAt(active.value) || write('Change a cell', active.value, [[text]])
    if (!isKept && pending.current === null) return false
    editing.value = null
    return true
  }

  const copy = (): string => blockToText(selectedBlock())

  /** Paste a block; one cell fills the whole range. */
  function paste(text: string): void {
    const block = textToBlock(text)
    const { top, bottom, left, right } = range.value
    const [only] = block[0] ?? []
    const isSingle = block.length === 1 && block[0]?.length === 1 && only !== undefined
    const filled = isSingle
      ? Array.from({ length: bottom - top + 1 }, () => Array.from({ length: right - left + 1 }, () => only))
      : block
    if (write('Paste', { row: top, column: left }, filled)) {
      anchor.value = { row: top, column: left }
      active.value = {
        row: Math.min(rows().length - 1, top + filled.length - 1),
        column: Math.min(columns().length - 1, left + (filled[0]?.length ?? 1) - 1),
      }
    }
  }

  /** Fill the range with its first line. */
  function fillDown(): void {
    const block = selectedBlock()
    const [first] = block
    if (first && block.length > 1)
      write(
        'Fill down',
        { row: range.value.top, column: range.value.left },
        block.map(() => first),
      )
  }

  /** Empty the cells of the range. */
  const emptyCells = (): void =>
    void write(
      'Empty cells',
      { row: range.value.top, column: range.value.left },
      selectedBlock().map((texts) => texts.map(() => '')),
    )

  return {
    active,
    editing,
    isInRange,
    moveTo,
    moveBy,
    startEdit,
    commitEdit,
    copy,
    paste,
    fillDown,
    emptyCells,
  }
}
