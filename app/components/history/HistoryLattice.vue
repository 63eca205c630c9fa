<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import type { CellChange, CellState } from '#core/history'

/** Where addresses were given up, taken and passed on: channels that changed × 128 numbers; what has no such number, as a list. */
const { cells } = defineProps<{ cells: readonly CellChange[] }>()
const frame = useTemplateRef('frame')
const { width } = useElementSize(frame)
const LABEL_PX = 22
const ROW_PX = 15
const NUMBERS = 128
const FAMILIES = [
  { id: 'cc', name: 'CC' },
  { id: 'note', name: 'Notes' },
  { id: 'program', name: 'Programs' },
  { id: 'other', name: 'Others' },
] as const
type FamilyId = (typeof FAMILIES)[number]['id']
const familyOf = ({ kind }: CellChange): FamilyId =>
  kind === 'cc' || kind === 'note' || kind === 'program' ? kind : 'other'
const changed = computed(() => cells.filter(({ state }) => state !== 'same'))
const tabs = computed(() =>
  FAMILIES.flatMap(({ id, name }) => {
    const count = changed.value.filter((each) => familyOf(each) === id).length
    return count === 0 ? [] : [{ id, name, hint: count }]
  }),
)
const chosen = ref<FamilyId | null>(null)
const family = computed({
  get: () => tabs.value.find(({ id }) => id === chosen.value)?.id ?? tabs.value[0]?.id ?? 'cc',
  set: (id) => (chosen.value = id),
})
const others = computed(() => changed.value.filter((each) => familyOf(each) === 'other'))
const step = computed(() => Math.max(1, (width.value - LABEL_PX) / NUMBERS))

const STATES: readonly CellState[] = ['same', 'changed', 'gone', 'new']
const own = computed(() => cells.filter((each) => familyOf(each) === family.value))
const rows = computed(() => {
  const channels = [
    ...new Set(own.value.filter(({ state }) => state !== 'same').map(({ channel }) => channel)),
  ]
  return channels.map((channel, index) => {
    const y = index * ROW_PX
    const path = (state: CellState): string =>
      own.value
        .filter((each) => each.channel === channel && each.state === state)
        .map(({ number }) => {
          const x = LABEL_PX + number * step.value
          const [w, h] = [Math.max(1, step.value - 0.8), ROW_PX - 4]
          return state === 'gone'
            ? `M${x} ${y + 2}l${w} ${h}M${x + w} ${y + 2}l${-w} ${h}`
            : `M${x} ${y + 2}h${w}v${h}h${-w}z`
        })
        .join('')
    return { channel, y, paths: STATES.map((state) => ({ state, d: path(state) })) }
  })
})
const counts = computed(() =>
  STATES.filter((state) => state !== 'same')
    .map((state) => `${own.value.filter((each) => each.state === state).length} ${state}`)
    .join(', '),
)
const LOOKS: Readonly<Record<CellState, string>> = {
  same: 'fill-line stroke-none',
  changed: 'fill-marker stroke-ink',
  gone: 'fill-none stroke-conflict',
  new: 'fill-ink stroke-none',
}
</script>

<template>
  <div class="flex min-w-0 flex-1 flex-col">
    <div class="flex items-center gap-3 pb-1">
      <TabStrip v-model="family" :tabs="tabs" label="Messages" attribute="data-numbers" is-small />
      <span class="text-soft text-2xs">{{ counts }}</span>
    </div>
    <div ref="frame" class="min-h-0 flex-1 overflow-y-auto">
      <ul v-if="family === 'other'" class="flex flex-wrap gap-x-4 text-xs" data-testid="history-others">
        <li v-for="each in others" :key="each.tag" class="flex h-6 items-center gap-1.5">
          <ChangeMark :kind="each.state === 'same' ? 'changed' : each.state" />
          <span class="tag">{{ each.tag }}</span>
        </li>
      </ul>
      <svg
        v-else-if="rows.length > 0 && width > 0"
        :width="width"
        :height="rows.length * ROW_PX"
        role="img"
        :aria-label="`Numbers given up and taken: ${counts}`"
        data-testid="history-lattice"
      >
        <g v-for="row in rows" :key="row.channel">
          <text x="0" :y="row.y + ROW_PX - 4" class="tag fill-soft" font-size="10">{{ row.channel }}</text>
          <line
            :x1="LABEL_PX"
            :x2="LABEL_PX + NUMBERS * step"
            :y1="row.y + ROW_PX - 0.5"
            :y2="row.y + ROW_PX - 0.5"
            class="stroke-hair"
          />
          <path v-for="each in row.paths" :key="each.state" :d="each.d" :class="LOOKS[each.state]" />
        </g>
      </svg>
    </div>
  </div>
</template>
