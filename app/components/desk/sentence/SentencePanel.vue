<script setup lang="ts">
import { CONTROL_KIND_NAME, controlName, placeKey, stackOfLayer } from '#core/rig'

const desk = useDeskStore()
const marks = useMarks()

const place = computed(() => (desk.gesture ? desk.placeOf(desk.gesture) : null))
const layerName = computed(() => {
  const layer = place.value?.layer
  if (layer === null || layer === undefined || !desk.template) return null
  return stackOfLayer(desk.template, layer)?.layers.find(({ id }) => id === layer)?.name ?? null
})
/** More findings than these at one control are listed when asked for. */
const FEW = 6
const mostShown = ref(FEW)
watch(
  () => desk.gesture,
  () => (mostShown.value = FEW),
)
const findings = computed(() => (place.value ? (marks.value.byPlace.get(placeKey(place.value)) ?? []) : []))
const heading = computed(() =>
  [desk.controller?.name, desk.control && CONTROL_KIND_NAME[desk.control.kind], layerName.value]
    .filter((part) => part !== null)
    .join(' · '),
)
</script>

<template>
  <div v-if="desk.control && desk.controller" class="px-5 py-4">
    <p class="text-soft text-xs font-medium">{{ heading }}</p>
    <h2 class="text-lg font-bold" data-testid="selection-name">
      {{ controlName(desk.control) }}
    </h2>
    <SelectMore class="mt-0.5" />
    <p v-if="desk.control.silent" class="text-soft mt-2">
      Purely analog: this control sends nothing and cannot be joined to anything.
    </p>
    <div class="mt-2 space-y-2">
      <GestureClause
        v-for="gesture in desk.control.gestures"
        :key="gesture"
        :gesture="gesture"
        :is-current="desk.gesture === `${desk.control.id}.${gesture}`"
      />
    </div>
    <div v-if="findings.length > 0" class="mt-3 space-y-2">
      <FindingCard v-for="finding in findings.slice(0, mostShown)" :key="finding.id" :finding="finding" />
      <UiButton v-if="findings.length > mostShown" look="plain" class="-ml-2.5" @click="mostShown = Infinity"
        >{{ findings.length - mostShown }} more findings here</UiButton
      >
    </div>
    <MappingList v-if="desk.gesture && !desk.control.silent" class="mt-4" />
  </div>
</template>
