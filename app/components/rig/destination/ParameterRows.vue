<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { Plus, Trash2 } from '@lucide/vue'
import { mappingsByParameter } from '#core/mappings'
import { newParameter, parameterName, takeId, type Destination, type Id, type Parameter } from '#core/rig'

/** The parameters of a destination as a table to edit, with what moves each. */
const { destination } = defineProps<{ destination: Destination }>()
const rigs = useRigStore()
const edit = useEdit()
const takeAway = useRemoval()
const scroller = useTemplateRef('scroller')
const query = ref('')
const show = ref<'all' | 'moved' | 'unmoved'>('all')
const picked = ref<ReadonlySet<Id>>(new Set())

const isMoved = ({ id }: Parameter): boolean =>
  rigs.rig !== null && mappingsByParameter(rigs.rig, destination.id, id).length > 0
const rows = computed(() => {
  const words = query.value.toLowerCase().split(/\s+/).filter(Boolean)
  return destination.parameters.filter((parameter) => {
    const name = parameterName(parameter).toLowerCase()
    if (!words.every((word) => name.includes(word))) return false
    return show.value === 'all' || isMoved(parameter) === (show.value === 'moved')
  })
})
const movedCount = computed(() => destination.parameters.filter(isMoved).length)
const linePx = useLinePx(32)
const virtualizer = useVirtualizer(
  computed(() => ({
    count: rows.value.length,
    getScrollElement: () => scroller.value,
    estimateSize: () => linePx.value,
    getItemKey: (index: number) => rows.value[index]?.id ?? index,
    overscan: 8,
  })),
)

function toggle(id: Id): void {
  const next = new Set(picked.value)
  if (!next.delete(id)) next.add(id)
  picked.value = next
}
const chosen = computed(() => rows.value.filter(({ id }) => picked.value.has(id)))
function remove(): void {
  const { length } = chosen.value
  const label = length === 1 ? 'Remove a parameter' : `Remove ${length} parameters`
  takeAway(label, [
    { type: 'parameters-remove', destination: destination.id, parameters: chosen.value.map(({ id }) => id) },
  ])
  picked.value = new Set()
}
/** Names typed one a line, or with commas between. */
const typed = ref('')
function add(): void {
  const names = typed.value
    .split(/[\n,;]+/)
    .map((name) => name.trim())
    .filter(Boolean)
  if (names.length === 0) return
  const taken = new Set(destination.parameters.map(({ id }) => id))
  const parameters = names.map((name) => newParameter(takeId(name, taken), name))
  const label = names.length === 1 ? `Add ${names[0]}` : `Add ${names.length} parameters`
  if (!edit(label, [{ type: 'parameters-add', destination: destination.id, parameters }])) return
  typed.value = ''
  query.value = ''
  show.value = 'all'
  void nextTick(() => virtualizer.value.scrollToIndex(destination.parameters.length - 1))
}
const HEADS = ['', 'Group', 'Name', 'Kind', 'From', 'To', 'Unit', 'Values', 'Listens at', 'More', 'Moved by']
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col">
    <div class="flex h-10 shrink-0 items-center gap-2 px-4 text-xs">
      <input
        v-model="query"
        type="search"
        class="bg-raised border-line h-7 w-44 rounded-md border px-2"
        placeholder="Search"
        aria-label="Search the parameters"
      />
      <select
        v-model="show"
        class="bg-raised border-line h-7 rounded-md border px-1"
        aria-label="Which are shown"
      >
        <option value="all">all</option>
        <option value="moved">what something moves</option>
        <option value="unmoved">what nothing moves</option>
      </select>
      <span class="text-soft" data-testid="moved-count"
        >{{ rows.length }} shown; {{ movedCount }} of {{ destination.parameters.length }} are moved</span
      >
      <form class="ml-auto flex gap-1.5" @submit.prevent="add">
        <input
          v-model="typed"
          class="bg-raised border-line h-7 w-56 rounded-md border px-2"
          placeholder="Names, with commas between"
          aria-label="Names of new parameters"
          data-testid="new-parameters"
        />
        <UiButton type="submit" :disabled="typed.trim() === ''"><Plus :size="13" />Add</UiButton>
      </form>
      <UiButton v-if="chosen.length > 0" @click="remove"
        ><Trash2 :size="13" />Remove {{ chosen.length }}</UiButton
      >
    </div>
    <div
      ref="scroller"
      class="min-h-0 flex-1 overflow-auto"
      role="region"
      tabindex="0"
      :aria-label="`Parameters of ${destination.name}`"
      data-testid="parameter-rows"
    >
      <div
        class="parameter-row border-line bg-sheet text-soft sticky top-0 z-10 items-center border-b text-xs font-medium"
        aria-hidden="true"
      >
        <span v-for="head in HEADS" :key="head" class="truncate px-1.5 py-1.5">{{ head }}</span>
      </div>
      <p v-if="rows.length === 0" class="text-soft px-4 py-4">
        <template v-if="destination.parameters.length === 0"
          >No parameters yet. Type their names above, or read a list: a table from a spreadsheet, or a MIDI
          Name Document.</template
        >
        <template v-else>None fits. Search for less, or show all.</template>
      </p>
      <div class="relative" :style="{ height: `${virtualizer.getTotalSize()}px` }" role="list">
        <template v-for="line in virtualizer.getVirtualItems()" :key="String(line.key)">
          <ParameterRow
            v-if="rows[line.index]"
            class="absolute! inset-x-0 top-0"
            :style="{ height: `${linePx}px`, transform: `translateY(${line.start}px)` }"
            :destination="destination"
            :parameter="rows[line.index] as Parameter"
            :is-picked="picked.has(rows[line.index]?.id ?? '')"
            @pick="toggle(rows[line.index]?.id ?? '')"
          />
        </template>
      </div>
    </div>
  </div>
</template>

<style>
.parameter-row {
  display: grid;
  grid-template-columns:
    34px minmax(90px, 1fr) minmax(120px, 1.3fr) 110px 64px 64px 52px 58px 96px minmax(90px, 0.9fr)
    minmax(150px, 1.6fr);
  gap: 0 2px;
  padding: 0 12px 0 4px;
}
</style>
