<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import {
  columnVisibilityFeature,
  createSortedRowModel,
  rowSortingFeature,
  sortFn_alphanumeric,
  tableFeatures,
  useTable,
} from '@tanstack/vue-table'
import { placeKey } from '#core/rig'
import { isWritable, LEDGER_COLUMNS, type LedgerColumnId, type LedgerRow } from '#core/rig/program/ledger'

const linePx = useLinePx(28)
const WIDTHS: Readonly<Record<LedgerColumnId, number>> = {
  controller: 96,
  template: 92,
  layer: 120,
  control: 120,
  address: 112,
  kind: 96,
  channel: 66,
  number: 66,
  low: 56,
  high: 62,
  moves: 240,
  memo: 180,
}

const desk = useDeskStore()
/** A table is being read in the place of the lines. */
const isReading = ref(false)
const marks = useMarks()
const scroller = useTemplateRef('scroller')

const features = tableFeatures({
  rowSortingFeature,
  columnVisibilityFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric },
})
const shown = ref<LedgerColumnId[]>([])
const { filter, lines: data, choices, clear } = useLedgerLines(() => shown.value)
const table = useTable({
  features,
  columns: LEDGER_COLUMNS.map(({ id, name }) => ({
    id,
    header: name,
    accessorFn: (line: LedgerRow) => line[id],
    sortFn: 'alphanumeric' as const,
  })),
  data,
  getRowId: (line: LedgerRow) => line.key,
  initialState: { columnVisibility: { template: false, kind: false } },
})
const shownColumns = computed(() => table.getVisibleLeafColumns().map(({ id }) => id as LedgerColumnId))
watch(
  () => shownColumns.value.join(' '),
  () => (shown.value = shownColumns.value),
  { immediate: true },
)
const rows = computed(() => table.getRowModel().rows.map(({ original }) => original))
const totalWidth = computed(() => shownColumns.value.reduce((sum, id) => sum + WIDTHS[id], 0))

const {
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
} = useLedgerCells(
  () => rows.value,
  () => shownColumns.value,
)

const virtualizer = useVirtualizer(
  computed(() => ({
    count: rows.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => linePx.value,
    getItemKey: (index: number) => rows.value[index]?.key ?? index,
    overscan: 12,
  })),
)
const lines = computed(() => virtualizer.value.getVirtualItems())

watch(active, ({ row }) => {
  virtualizer.value.scrollToIndex(row)
  const line = rows.value[row]
  if (line) desk.goTo(line.place)
})
const selectedKey = computed(() => {
  const place = desk.gesture ? desk.placeOf(desk.gesture) : null
  return place ? placeKey(place) : null
})

const MOVES: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  PageUp: [-12, 0],
  PageDown: [12, 0],
}
function focusGrid(): void {
  scroller.value?.focus({ preventScroll: true })
}
/** A character that opens the cell with itself, as in a spreadsheet; “/” and “?” stay the application's. */
const opensCell = ({ key, ctrlKey, metaKey, altKey }: KeyboardEvent): boolean =>
  key.length === 1 && !ctrlKey && !metaKey && !altKey && key !== '/' && key !== '?' && key !== ' '
function onKey(event: KeyboardEvent): void {
  if (editing.value !== null) return
  const move = MOVES[event.key]
  const isCommand = event.ctrlKey || event.metaKey
  const column = shownColumns.value[active.value.column]
  if (move) moveBy(move[0], move[1], event.shiftKey)
  else if (event.key === 'Home') moveTo({ row: isCommand ? 0 : active.value.row, column: 0 }, event.shiftKey)
  else if (event.key === 'End')
    moveTo(
      { row: isCommand ? rows.value.length - 1 : active.value.row, column: shownColumns.value.length - 1 },
      event.shiftKey,
    )
  else if (event.key === 'Enter' || event.key === 'F2') {
    if (column && isWritable(column)) startEdit(null)
  } else if (isCommand && event.key.toLowerCase() === 'd') fillDown()
  else if (event.key === 'Delete' || event.key === 'Backspace') emptyCells()
  else if (event.key === 'Escape') desk.select(null)
  else if (opensCell(event) && column && isWritable(column)) startEdit(event.key)
  else return
  event.preventDefault()
}
function onEditKey(event: KeyboardEvent): void {
  if (event.key === 'Enter') {
    if (commitEdit()) {
      focusGrid()
      moveBy(1, 0, false)
    }
  } else if (event.key === 'Escape') {
    editing.value = null
    focusGrid()
  } else if (event.key === 'Tab') {
    if (commitEdit()) {
      focusGrid()
      moveBy(0, event.shiftKey ? -1 : 1, false)
    }
  } else return
  event.preventDefault()
  event.stopPropagation()
}
function onCopy(event: ClipboardEvent): void {
  if (editing.value !== null) return
  event.clipboardData?.setData('text/plain', copy())
  event.preventDefault()
}
function onPaste(event: ClipboardEvent): void {
  if (editing.value !== null) return
  paste(event.clipboardData?.getData('text/plain') ?? '')
  event.preventDefault()
}
const vFocus = {
  mounted: (element: HTMLInputElement) => {
    element.focus()
    if (element.value.length > 1) element.select()
  },
}
</script>

<template>
  <section class="flex h-full flex-col" aria-label="Ledger" data-testid="ledger">
    <LedgerBar
      v-model="filter"
      :choices="choices"
      :count="rows.length"
      :columns="
        table.getAllLeafColumns().map((column) => ({
          id: column.id,
          name: String(column.columnDef.header),
          isShown: column.getIsVisible(),
        }))
      "
      @read="isReading = true"
      @toggle-column="table.getColumn($event)?.toggleVisibility()"
    />
    <ReadAssignments v-if="isReading" @done="isReading = false" />
    <div
      v-show="!isReading"
      ref="scroller"
      class="bg-sheet relative min-h-0 flex-1 overflow-auto outline-none"
      role="grid"
      tabindex="0"
      aria-label="Assignments. Arrows move, Shift extends, Enter edits, Control with C, V and D copies, pastes and fills down."
      :aria-rowcount="rows.length"
      data-testid="ledger-grid"
      @keydown="onKey"
      @copy="onCopy"
      @paste="onPaste"
    >
      <div
        class="bg-ground border-line sticky top-0 z-10 flex border-b"
        role="row"
        :style="{ width: `${totalWidth}px` }"
      >
        <button
          v-for="id in shownColumns"
          :key="id"
          type="button"
          role="columnheader"
          tabindex="-1"
          class="flex h-7 shrink-0 items-center gap-1 px-2 text-left text-xs font-medium"
          :style="{ width: `${WIDTHS[id]}px` }"
          :aria-sort="
            table.getColumn(id)?.getIsSorted() === 'asc'
              ? 'ascending'
              : table.getColumn(id)?.getIsSorted() === 'desc'
                ? 'descending'
                : 'none'
          "
          @click="table.getColumn(id)?.toggleSorting()"
        >
          {{ table.getColumn(id)?.columnDef.header }}
          <span v-if="table.getColumn(id)?.getIsSorted()" aria-hidden="true">{{
            table.getColumn(id)?.getIsSorted() === 'asc' ? '↑' : '↓'
          }}</span>
        </button>
      </div>
      <p v-if="rows.length === 0" class="text-soft px-4 py-3">
        No line is like that.
        <button type="button" class="text-ink underline" @click="clear">Show every line</button>
      </p>
      <div class="relative" :style="{ height: `${virtualizer.getTotalSize()}px`, width: `${totalWidth}px` }">
        <div
          v-for="line in lines"
          :key="String(line.key)"
          class="border-hair absolute top-0 left-0 flex border-b"
          role="row"
          :aria-rowindex="line.index + 1"
          :class="rows[line.index]?.key === selectedKey && 'bg-raised'"
          :style="{ transform: `translateY(${line.start}px)`, height: `${linePx}px` }"
        >
          <div
            v-for="(id, column) in shownColumns"
            :key="id"
            role="gridcell"
            class="relative flex shrink-0 items-center px-2"
            :class="[
              isInRange(line.index, column) && 'bg-marker/40',
              active.row === line.index &&
                active.column === column &&
                'outline-ink outline-2 -outline-offset-2',
              ['address', 'channel', 'number', 'low', 'high'].includes(id) && 'tag',
              id === 'address' &&
                marks.worstByPlace.get(rows[line.index]?.key ?? '')?.severity === 'error' &&
                'text-conflict',
              !isWritable(id) && !isInRange(line.index, column) && 'text-soft',
            ]"
            :style="{ width: `${WIDTHS[id]}px` }"
            :data-cell-at="`${line.index}:${id}`"
            @pointerdown="moveTo({ row: line.index, column }, $event.shiftKey)"
            @dblclick="isWritable(id) && startEdit(null)"
          >
            <input
              v-if="editing !== null && active.row === line.index && active.column === column"
              v-model="editing"
              v-focus
              class="bg-raised absolute inset-0 px-2 outline-none"
              :aria-label="String(table.getColumn(id)?.columnDef.header)"
              @keydown="onEditKey"
              @blur="commitEdit() || (editing = null)"
            />
            <span v-else class="truncate">{{ rows[line.index]?.[id] }}</span>
          </div>
        </div>
      </div>
    </div>
  </section>
</template>
