<script setup lang="ts">
import { mappingsByParameter, moverName } from '#core/mappings'
import { itemName, type BoardItem } from '~/lib/destinations/board'

/** One thing of a destination, with the controls that move it. */
const { item, isPicked, isActive } = defineProps<{ item: BoardItem; isPicked: boolean; isActive: boolean }>()
const rigs = useRigStore()
const desk = useDeskStore()
const joining = useJoiningStore()

const MOST = 2
const movers = computed(() => {
  const { rig } = rigs
  const owner = joining.destination
  return rig && owner && item.target.kind === 'parameter'
    ? mappingsByParameter(rig, owner.id, item.target.parameter)
    : []
})
const scopeName = (id: string | null): string | null =>
  joining.destination?.scopes.find((each) => each.id === id)?.name ?? null
/** Everything that stands here, in words: its group, where it listens, and what moves it. */
const spoken = computed(() =>
  [
    itemName(item),
    item.address && `at ${item.address}`,
    movers.value.length > 0 && `moved by ${moverNames.value.join(', ')}`,
  ]
    .filter(Boolean)
    .join(', '),
)
const moverNames = computed(() =>
  movers.value.map((mapping) => (rigs.rig && moverName(rigs.rig, mapping)) ?? 'a control that is gone'),
)
const isLinked = computed(() =>
  movers.value.some(({ gesture }) => gesture !== null && desk.selectedRefs.has(gesture)),
)
</script>

<template>
  <div
    :id="`board-${item.key}`"
    role="option"
    :aria-label="spoken"
    :aria-selected="isPicked"
    :data-board-item="item.key"
    class="flex h-[26px] min-w-0 cursor-pointer touch-none pointer-coarse:touch-pan-y items-center gap-1.5 rounded border px-2"
    :class="[
      isPicked
        ? 'bg-marker text-on-marker border-ink'
        : isLinked
          ? 'border-ink bg-raised'
          : 'hover:border-line border-transparent',
      isActive && 'outline-ink group-focus/board:outline-1 group-focus/board:outline-dashed',
    ]"
  >
    <span class="min-w-0 truncate" :class="isLinked && 'font-bold'">{{ item.name }}</span>
    <span v-if="item.address" class="tag shrink-0 text-2xs! opacity-75">{{ item.address }}</span>
    <span class="ml-auto flex shrink-0 gap-1">
      <MoverChip
        v-for="mapping in movers.slice(0, MOST)"
        :key="mapping.id"
        :mapping="mapping"
        :scope="scopeName(mapping.scope)"
        is-inside
      />
      <span v-if="movers.length > MOST" class="text-2xs opacity-75">+{{ movers.length - MOST }}</span>
    </span>
  </div>
</template>
