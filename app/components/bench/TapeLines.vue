<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { rigIndex } from '#core/rig'
import type { Passes } from '~/lib/bench/narrow'
import { bytesText, runsOf, type Run } from '~/lib/bench/runs'

/** What passed as lines: one for each message, or for each run of them. Newest first. */
const { isLookedAt } = defineProps<{ isLookedAt: Passes }>()
const bench = useBenchStore()
const rigs = useRigStore()
const scroller = useTemplateRef('scroller')
const runs = computed<readonly Run[]>(() => (rigs.rig ? runsOf(rigs.rig, bench.tape, isLookedAt) : []))
const linePx = useLinePx(24)
const virtualizer = useVirtualizer(
  computed(() => ({
    count: runs.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => linePx.value,
    overscan: 8,
  })),
)
const ownerOf = ({ controller }: Run) =>
  rigs.rig ? rigIndex(rigs.rig).controllers.get(controller) : undefined
</script>

<template>
  <div ref="scroller" class="h-full overflow-auto px-4" data-testid="tape-lines" tabindex="0">
    <p v-if="runs.length === 0" class="text-soft py-2">
      {{ bench.tape.count === 0 ? 'Nothing was sent yet.' : 'Nothing on the tape is like this.' }}
    </p>
    <div class="relative" :style="{ height: `${virtualizer.getTotalSize()}px` }" role="list">
      <template v-for="line in virtualizer.getVirtualItems()" :key="String(line.key)">
        <button
          v-if="runs[line.index]"
          type="button"
          role="listitem"
          class="hover:bg-hair absolute inset-x-0 grid grid-cols-[5rem_1.5rem_minmax(8rem,14rem)_8rem_10rem_minmax(0,1fr)_9rem] items-center gap-2 rounded px-1 text-left"
          :style="{ height: `${linePx}px`, transform: `translateY(${line.start}px)` }"
          @click="bench.follow(runs[line.index]?.controller ?? '', runs[line.index]?.gesture ?? null)"
        >
          <span class="tag text-soft text-xs">{{ runs[line.index]?.time }}</span>
          <LetterBadge
            class="scale-90"
            :letter="ownerOf(runs[line.index] as Run)?.letter ?? ''"
            :hue="ownerOf(runs[line.index] as Run)?.hue ?? 0"
          />
          <span class="truncate font-medium">{{ runs[line.index]?.name }}</span>
          <span class="tag">{{ runs[line.index]?.tag }}</span>
          <span class="tag">{{ runs[line.index]?.values }}</span>
          <span class="text-soft truncate">{{ runs[line.index]?.became }}</span>
          <span class="tag text-soft truncate text-xs">{{
            bytesText(runs[line.index]?.last.bytes ?? [])
          }}</span>
        </button>
      </template>
    </div>
  </div>
</template>
