<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { useElementSize } from '@vueuse/core'
import { boardLines } from '~/lib/destinations/board'

/** All that a destination has, to be joined to the controls above. */
const joining = useJoiningStore()
const picture = usePictureStore()
const scroller = useTemplateRef('scroller')
const { width } = useElementSize(scroller)
const COLUMN_PX = 290
const linePx = useLinePx(28)

const columns = computed(() => Math.max(1, Math.floor(width.value / COLUMN_PX)))
const lines = computed(() => boardLines(joining.items, columns.value))
const { active, onClick, onKey } = useBoardKeys(
  () => joining.items,
  () => columns.value,
  () => joining.join(),
)
const activeKey = computed(() => joining.items[active.value]?.key ?? null)
const carried = useJoinDrag()

const virtualizer = useVirtualizer(
  computed(() => ({
    count: lines.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => linePx.value,
    getItemKey: (index: number) => lines.value[index]?.key ?? index,
    overscan: 10,
  })),
)
watch(activeKey, (key) => {
  const line = lines.value.findIndex(
    (each) => each.kind === 'items' && each.items.some((item) => item.key === key),
  )
  if (line >= 0) virtualizer.value.scrollToIndex(line)
})

/** One listener serves all items. */
function clicked(event: MouseEvent): void {
  const key = (event.target as Element).closest('[data-board-item]')?.getAttribute('data-board-item')
  const index = joining.items.findIndex((item) => item.key === key)
  if (index >= 0) onClick(index, event)
}
async function fillIn(): Promise<void> {
  if (joining.destination) picture.open(joining.destination.id)
  await navigateTo('/rig')
}
</script>

<template>
  <section class="bg-sheet flex h-full flex-col" aria-label="Destination" data-testid="board">
    <template v-if="joining.destination">
      <BoardHead />
      <p v-if="joining.items.length === 0" class="text-soft px-4 py-3">
        <template v-if="joining.query || joining.onlyUnmoved"
          >Nothing here fits: search for less, or show what is moved already.</template
        >
        <template v-else
          >{{ joining.destination.name }} has no parameters yet.
          <UiButton class="ml-1" @click="fillIn">Write them down, or read a list</UiButton></template
        >
      </p>
      <div
        ref="scroller"
        class="group/board min-h-0 flex-1 overflow-auto px-3 outline-none"
        role="listbox"
        aria-multiselectable="true"
        :aria-label="`What ${joining.destination.name} has`"
        tabindex="0"
        :aria-activedescendant="activeKey === null ? undefined : `board-${activeKey}`"
        data-testid="board-list"
        @click="clicked"
        @dblclick="joining.join()"
        @keydown="onKey"
      >
        <div
          class="relative w-full"
          :style="{ height: `${virtualizer.getTotalSize()}px` }"
          role="presentation"
        >
          <template v-for="row in virtualizer.getVirtualItems()" :key="String(row.key)">
            <div
              v-if="lines[row.index]"
              class="absolute inset-x-0 top-0"
              :style="{ height: `${linePx}px`, transform: `translateY(${row.start}px)` }"
              role="presentation"
            >
              <div
                v-if="lines[row.index]?.kind === 'heading'"
                role="presentation"
                class="text-soft flex h-full items-end px-1 pb-0.5 text-xs font-bold"
              >
                {{ (lines[row.index] as { text: string }).text }}
              </div>
              <div
                v-else
                class="grid items-center gap-x-2"
                :style="{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }"
                role="presentation"
              >
                <BoardCell
                  v-for="item in (lines[row.index] as { items: typeof joining.items }).items"
                  :key="item.key"
                  :item="item"
                  :is-picked="joining.picked.has(item.key)"
                  :is-active="item.key === activeKey"
                />
              </div>
            </div>
          </template>
        </div>
      </div>
      <JoinStrip />
    </template>
    <EmptyState v-else title="Nothing to move yet">
      A destination is a DAW, a plugin or a synth that listens.
      <template #actions
        ><UiButton look="strong" @click="navigateTo('/rig')">Add one in the Rig view</UiButton></template
      >
    </EmptyState>
    <div
      v-if="carried"
      class="bg-marker text-on-marker border-ink shadow-float pointer-events-none fixed z-50 rounded border px-2 py-0.5 font-medium"
      :style="{ left: `${carried.x + 12}px`, top: `${carried.y + 8}px` }"
      data-testid="carried"
    >
      {{ carried.text }}
    </div>
  </section>
</template>
