<script setup lang="ts">
import type { ChangeLine } from '#core/history'
import { someOf } from '~/lib/some-of'
import { isSamePlace, type Offered } from '~/stores/parts'

/** A part that may be taken in: where it should come, what that changes, and what would be found. */
const { offered } = defineProps<{ offered: Offered }>()
const emit = defineEmits<{ accept: [] }>()
const parts = usePartsStore()
const rigs = useRigStore()
const MOST = 5

const places = computed(() =>
  parts.places.map(({ place, name }, index) => ({
    place,
    value: String(index),
    label: place.kind === 'beside' ? 'beside what is there' : `in place of ${name}`,
  })),
)
const placeValue = computed(
  () => places.value.find(({ place }) => isSamePlace(place, offered.place))?.value ?? '0',
)
function choose(value: string): void {
  const found = places.value.find((each) => each.value === value)
  if (found) parts.offerAt(found.place)
}

/** It comes below what was pressed: nobody should have to look for it. */
const frame = useTemplateRef('frame')
const comeIntoView = (): void => frame.value?.scrollIntoView({ block: 'nearest' })
onMounted(comeIntoView)
watch(() => offered.then, comeIntoView, { flush: 'post' })

const isInstead = computed(() => offered.place.kind === 'instead')
const WORDS: Readonly<Record<Offered['part']['kind'], string>> = {
  controller:
    'It takes over the letter, and the cables and mappings of every port and control that both have. A control that is of another kind now does not count.',
  destination: 'It takes over the cables and mappings of every port, scope and parameter of the same name.',
  'light-roles': 'Roles of the same name are replaced; the others stay.',
  'house-rules': 'The rules for the whole rig are replaced; rules of single controllers stay.',
}
const words = computed(() =>
  isInstead.value ? WORDS[offered.part.kind] : 'It replaces nothing, and is joined to nothing.',
)
const lines = computed((): ChangeLine[] =>
  (offered.then?.report.groups ?? []).flatMap(({ sections }) => sections.flatMap((each) => each.lines)),
)
/** What the choice costs, in a few lines. */
const costs = computed(() => {
  if (!isInstead.value || !offered.then) return []
  const gone = lines.value.filter(({ kind }) => kind === 'gone').map(({ name }) => name)
  const { teach, count } = offered.then.report
  return [
    { heading: 'Goes', text: someOf(gone, MOST) },
    { heading: 'Teach again', text: someOf(teach, MOST) },
    {
      heading: 'In all',
      text:
        count === 0
          ? 'nothing differs from what is there'
          : `${count} ${count === 1 ? 'thing differs' : 'things differ'}`,
    },
  ].filter(({ text }) => text !== '')
})
</script>

<template>
  <div ref="frame" class="border-line mt-2 rounded-md border p-3" data-testid="part-offer">
    <div class="flex flex-wrap items-center justify-between gap-2">
      <p class="min-w-0 truncate font-bold">{{ offered.part.rig.name }}</p>
      <UiSelect
        v-if="places.length > 1"
        label="Where it comes"
        data-testid="part-place"
        :model-value="placeValue"
        :options="places"
        @update:model-value="choose"
      />
    </div>
    <p class="text-soft pt-1 text-xs">{{ words }}</p>
    <ul class="pt-1 text-xs">
      <li v-for="each in offered.taken.renamed" :key="each.to">
        The {{ each.what }} “{{ each.from }}” will be called “{{ each.to }}”: that name is taken.
      </li>
      <li v-for="each in offered.taken.shared" :key="each">The {{ each }} is here already and is used.</li>
    </ul>
    <p v-if="offered.then === null" class="text-soft pt-1 text-xs" role="status">Checking …</p>
    <template v-else>
      <dl v-if="costs.length > 0" class="pt-1 text-xs" data-testid="part-costs">
        <div v-for="each in costs" :key="each.heading" class="flex gap-2 py-0.5">
          <dt class="w-20 shrink-0 font-bold">{{ each.heading }}</dt>
          <dd>{{ each.text }}</dd>
        </div>
      </dl>
      <template v-if="offered.then.came.length > 0">
        <p class="pt-1 text-xs font-bold">Then these would be found:</p>
        <ul class="text-xs">
          <li v-for="each in offered.then.came.slice(0, MOST)" :key="each.id" class="flex gap-2 py-0.5">
            <SeverityMark :severity="each.severity" /> {{ each.message }}
          </li>
          <li v-if="offered.then.came.length > MOST" class="text-soft">
            and {{ offered.then.came.length - MOST }} more
          </li>
        </ul>
      </template>
      <p v-else class="pt-1 text-xs">
        {{
          isInstead ? 'Nothing more would be found.' : 'Nothing would be found with it until it is cabled.'
        }}
      </p>
    </template>
    <div class="flex gap-1.5 pt-2">
      <UiButton look="strong" :disabled="!rigs.canEdit" data-testid="part-accept" @click="emit('accept')">{{
        isInstead ? 'Replace it' : 'Take it in'
      }}</UiButton>
      <UiButton @click="parts.offered = null">Leave it</UiButton>
    </div>
  </div>
</template>
