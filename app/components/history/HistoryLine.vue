<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { Search } from '@lucide/vue'
import type { Point } from '~/lib/history/points'
import type { HistoryRow } from '~/lib/history/rows'
import { clock, dayAndTime } from '~/lib/history/times'

/** The line of edits, with knots where versions were kept: the latest on top. */
const history = useHistoryStore()
const rigs = useRigStore()
const scroller = useTemplateRef('scroller')
const ROW_PX = { sitting: 30, step: 40, version: 40 } as const

const virtualizer = useVirtualizer(
  computed(() => ({
    count: history.rows.length,
    getScrollElement: () => scroller.value,
    estimateSize: (index: number) => ROW_PX[history.rows[index]?.kind ?? 'step'],
    overscan: 8,
    getItemKey: (index: number) => history.rows[index]?.key ?? index,
  })),
)
const chosenKey = computed(() => {
  const { point } = history
  if (point?.kind === 'version') return point.id
  return point?.kind === 'step' ? `step ${point.count}` : null
})
const detailOf = (row: HistoryRow): string => {
  if (row.kind !== 'step') return ''
  const words = history.words.get(row.index)
  if (!words) return ''
  const [first] = words.lines
  return words.count > 1 ? `${first?.text ?? ''} and ${words.count - 1} more` : (first?.text ?? '')
}
const shown = computed(() =>
  virtualizer.value.getVirtualItems().flatMap((item) => {
    const row = history.rows[item.index]
    return row ? [{ item, row, detail: detailOf(row), size: sizeOf(row) }] : []
  }),
)
/** How large an edit was, as the width of its stroke: 3 to 14 px, by powers of two. */
function sizeOf(row: HistoryRow): number {
  const count = row.kind === 'step' ? (history.words.get(row.index)?.count ?? 1) : 0
  return count === 0 ? 0 : Math.min(14, 3 + 2 * Math.log2(count))
}
/** The point of a row: of an edit just before it, so that what it did can be seen and brought back; as an end just after it. */
function pointOf(row: HistoryRow, isEnd: boolean): Point | null {
  if (row.kind === 'sitting') return null
  return row.kind === 'version'
    ? { kind: 'version', id: row.version.id }
    : { kind: 'step', count: row.index + (isEnd ? 1 : 0) }
}
/** With Shift, up to where the one that is chosen is compared. */
function choose(row: HistoryRow, withShift = false): void {
  const isEnd = withShift && history.point !== null
  const point = pointOf(row, isEnd)
  if (point) void (isEnd ? history.compareUntil(point) : history.compareWith(point))
}
function walk(by: number): void {
  const rows = history.rows
  let at = rows.findIndex(({ key }) => key === chosenKey.value)
  do at += by
  while (rows[at]?.kind === 'sitting')
  const row = rows[at]
  if (!row) return
  choose(row)
  virtualizer.value.scrollToIndex(at, { align: 'auto' })
  void nextTick(() => document.getElementById(`history-${row.key}`)?.focus())
}
const KEYS: Readonly<Record<string, number>> = { ArrowDown: 1, ArrowUp: -1 }
function onKey(event: KeyboardEvent): void {
  const by = KEYS[event.key]
  if (by === undefined) return
  event.preventDefault()
  walk(by)
}
const sittingText = (row: Extract<HistoryRow, { kind: 'sitting' }>): string =>
  row.to === null ? 'Earlier' : dayAndTime(row.from ?? row.to, row.to)
const tabIndex = (row: HistoryRow, index: number): number =>
  row.key === chosenKey.value || (chosenKey.value === null && index === 1) ? 0 : -1
</script>

<template>
  <div class="border-line flex w-84 shrink-0 flex-col border-r">
    <label class="border-line flex h-11 shrink-0 items-center gap-2 border-b px-4">
      <Search :size="14" class="text-soft shrink-0" aria-hidden="true" />
      <input
        v-model="history.search"
        type="search"
        class="placeholder:text-soft w-full bg-transparent text-sm outline-none"
        placeholder="Find an edit: Drift cc49"
        aria-label="Find an edit"
        data-testid="history-search"
      />
    </label>
    <p v-if="history.rows.length === 0" class="text-soft px-4 py-4 text-sm">
      <template v-if="history.search.trim() && rigs.past.length > 0"
        >No edit speaks of “{{ history.search.trim() }}”.</template
      >
      <template v-else
        >Nothing was edited yet. Every edit will stand here, and can be looked at and taken back.</template
      >
    </p>
    <div
      v-else
      ref="scroller"
      class="min-h-0 flex-1 overflow-y-auto py-2"
      role="listbox"
      aria-label="Edits and versions, the latest first"
      data-testid="history-line"
      @keydown="onKey"
    >
      <div class="relative w-full" :style="{ height: `${virtualizer.getTotalSize()}px` }">
        <div
          v-for="{ item, row, detail, size } in shown"
          :id="`history-${row.key}`"
          :key="row.key"
          class="absolute inset-x-0 flex items-center gap-3 px-4"
          :class="[
            row.kind === 'sitting' ? 'text-soft text-xs' : 'hover:bg-hair cursor-pointer',
            row.key === chosenKey && 'bg-marker text-on-marker hover:bg-marker!',
          ]"
          :style="{ transform: `translateY(${item.start}px)`, height: `${item.size}px` }"
          :role="row.kind === 'sitting' ? 'presentation' : 'option'"
          :aria-selected="row.kind === 'sitting' ? undefined : row.key === chosenKey"
          :tabindex="row.kind === 'sitting' ? undefined : tabIndex(row, item.index)"
          :data-history="row.kind"
          @click="choose(row, $event.shiftKey)"
        >
          <svg class="h-full w-4 shrink-0 overflow-visible" aria-hidden="true">
            <line x1="8" x2="8" y1="0" y2="100%" class="stroke-line" stroke-width="1.5" />
            <line
              v-if="row.kind === 'step'"
              :x1="8 - size / 2"
              :x2="8 + size / 2"
              y1="50%"
              y2="50%"
              stroke="currentColor"
              stroke-width="2"
            />
            <circle
              v-if="row.kind === 'version'"
              cx="8"
              cy="50%"
              r="5"
              stroke="currentColor"
              stroke-width="1.8"
              :class="row.version.name === null ? 'fill-sheet' : 'fill-current'"
            />
          </svg>
          <template v-if="row.kind === 'sitting'">
            <span class="truncate font-bold">{{ sittingText(row) }}</span>
            <span class="ml-auto whitespace-nowrap"
              >{{ row.count }} {{ row.count === 1 ? 'edit' : 'edits' }}</span
            >
          </template>
          <template v-else-if="row.kind === 'step'">
            <span class="min-w-0 flex-1">
              <span class="block truncate leading-tight">{{ row.label }}</span>
              <span
                v-if="detail"
                class="block truncate text-2xs leading-tight"
                :class="row.key === chosenKey ? '' : 'text-soft'"
                :title="detail"
                >{{ detail }}</span
              >
            </span>
            <span class="tag text-2xs shrink-0">{{ clock(row.at) }}</span>
          </template>
          <template v-else>
            <span class="min-w-0 flex-1">
              <span class="block truncate leading-tight font-bold">{{
                row.version.name ?? 'Kept by itself'
              }}</span>
              <span
                class="block truncate text-2xs leading-tight"
                :class="row.key === chosenKey ? '' : 'text-soft'"
                >{{ row.version.label ? `after “${row.version.label}”` : 'kept by name' }}</span
              >
            </span>
            <span class="tag text-2xs shrink-0">{{ clock(row.version.at) }}</span>
          </template>
        </div>
      </div>
    </div>
  </div>
</template>
