<script setup lang="ts">
import { ChevronRight, X } from '@lucide/vue'
import { parseTag } from '#core/midi'
import { mappingParameter, mappingState, outrankedBy } from '#core/mappings'
import {
  assignmentsAt,
  findGesture,
  freshMessage,
  parameterName,
  withAddress,
  TAKEOVER_WORDS,
  type Mapping,
} from '#core/rig'

const { mapping, sentNow } = defineProps<{
  mapping: Mapping
  /** What the control sends in the layer shown now, as a tag. */
  sentNow: string | null
}>()
const rigs = useRigStore()
const desk = useDeskStore()
const edit = useEdit()

const target = computed(() => (rigs.rig ? mappingParameter(rigs.rig, mapping) : null))
const state = computed(() => (rigs.rig ? mappingState(rigs.rig, mapping) : null))
const isFixed = computed(() => target.value?.parameter.fixed !== null)
const name = computed(() =>
  target.value ? `${target.value.destination.name} · ${parameterName(target.value.parameter)}` : '',
)
const isOpen = ref(false)
const scopeName = (id: string | null): string | null =>
  target.value?.destination.scopes.find((each) => each.id === id)?.name ?? null
const scope = computed(() => {
  const named = scopeName(mapping.scope)
  return named === null ? 'everywhere' : `only in ${named}`
})
/** Scopes in which another mapping of this control is in force instead. */
const outranked = computed(() =>
  rigs.rig
    ? [...new Set(outrankedBy(rigs.rig, mapping).flatMap(({ scope: id }) => scopeName(id) ?? []))]
    : [],
)
const hears = computed(() => state.value?.expected ?? null)
const stateText = computed(() => {
  switch (state.value?.agreement) {
    case 'agrees':
      return isFixed.value ? 'listens at' : 'taught'
    case 'differs':
      return isFixed.value ? 'listens elsewhere, at' : 'teach again: still at'
    default:
      return 'not yet taught'
  }
})

const teach = (): boolean =>
  edit(`${name.value} learned ${sentNow}`, [
    { type: 'mapping-set', mapping: mapping.id, set: { learnedAt: sentNow } },
  ])
const remove = (): boolean =>
  edit(`Part from ${name.value}`, [{ type: 'mapping-remove', mapping: mapping.id }])

function sendItsNumber(): void {
  const parsed = parseTag(hears.value ?? '')
  const place = desk.gesture ? desk.placeOf(desk.gesture) : null
  const found = rigs.rig && mapping.gesture ? findGesture(rigs.rig, mapping.gesture) : null
  if (!parsed.ok || !place || !found) return
  const now =
    assignmentsAt(found.controller, place)?.[place.gesture]?.messages[0] ??
    freshMessage('off', found.control.kind, found.gesture)
  const message = withAddress(now, parsed.address, found.control.kind, found.gesture)
  edit(`${found.control.label} sends ${hears.value}`, [{ type: 'message', at: place, index: 0, message }])
}
</script>

<template>
  <li
    class="bg-raised border-line flex flex-wrap items-start gap-2 rounded-md border px-2.5 py-1.5"
    data-testid="mapping"
  >
    <div class="min-w-0 flex-1">
      <div class="font-medium">{{ name }}</div>
      <div class="text-soft text-xs">
        {{ scope }}<template v-if="outranked.length > 0"> but in {{ outranked.join(', ') }}</template
        >{{ mapping.inverted ? ', inverted' : '' }}, taken over {{ TAKEOVER_WORDS[mapping.takeover] }};
        <span :class="state?.agreement === 'differs' && 'text-advice font-medium'"
          >{{ stateText }} <span v-if="hears" class="tag">{{ hears }}</span></span
        >
      </div>
      <div v-if="state?.agreement !== 'agrees' && sentNow" class="mt-1.5 mb-0.5">
        <UiButton v-if="isFixed" @click="sendItsNumber">Send {{ hears }} instead</UiButton>
        <UiButton v-else @click="teach">Taught it {{ sentNow }}</UiButton>
      </div>
    </div>
    <UiButton
      look="plain"
      :label="`Range, curve and manner of ${name}`"
      :aria-expanded="isOpen"
      class="-mr-2 px-1!"
      data-testid="mapping-open"
      @click="isOpen = !isOpen"
      ><ChevronRight :size="14" :class="isOpen && 'rotate-90'"
    /></UiButton>
    <UiButton look="plain" :label="`Part from ${name}`" class="-mr-1.5 px-1.5!" @click="remove"
      ><X :size="14"
    /></UiButton>
    <LazyMappingEditor
      v-if="isOpen && target"
      class="w-full"
      :mapping="mapping"
      :destination="target.destination"
      :parameter="target.parameter"
    />
  </li>
</template>
