<script setup lang="ts">
import { ChevronRight, Plus } from '@lucide/vue'
import { isServedElsewhere } from '#core/mappings'
import { gestureRef, mappingsOf, type Mapping } from '#core/rig'

const desk = useDeskStore()
const rigs = useRigStore()
const isJoining = ref(false)
const isFollowing = ref(false)

const gestureOf = computed(() =>
  desk.controller && desk.gesture ? gestureRef(desk.controller.id, desk.gesture) : null,
)
const mappings = computed(() => (rigs.rig && gestureOf.value ? mappingsOf(rigs.rig, gestureOf.value) : []))

/** Is the mapping served by what another layer sends, and not by this one? */
function isElsewhere(mapping: Mapping): boolean {
  const place = desk.gesture ? desk.placeOf(desk.gesture) : null
  return rigs.rig !== null && place !== null && isServedElsewhere(rigs.rig, mapping, place)
}
const here = computed(() => mappings.value.filter((mapping) => !isElsewhere(mapping)))
const elsewhere = computed(() => mappings.value.filter(isElsewhere))
const showElsewhere = ref(false)
/** Of very many only the first are listed, until asked. */
const FEW = 12
const mostShown = ref(FEW)
watch(gestureOf, () => {
  mostShown.value = FEW
  isJoining.value = false
  showElsewhere.value = false
})
</script>

<template>
  <section aria-label="What it moves">
    <div class="border-line flex items-center justify-between border-t pt-3">
      <h3 class="font-bold">
        {{
          mappings.length === 0
            ? 'Moves nothing yet'
            : here.length === 0
              ? 'Moves nothing in this layer'
              : 'Moves'
        }}
      </h3>
      <UiButton v-if="!isJoining" data-testid="join" @click="isJoining = true"
        ><Plus :size="13" />Join to a parameter</UiButton
      >
    </div>
    <UiButton
      look="plain"
      class="mt-1 -ml-2.5"
      :aria-expanded="isFollowing"
      data-testid="follow-it"
      @click="isFollowing = !isFollowing"
      ><ChevronRight :size="13" :class="isFollowing && 'rotate-90'" />Follow what it sends</UiButton
    >
    <LazyFollowPanel v-if="isFollowing" />
    <LazyJoinPicker v-if="isJoining && gestureOf" class="mt-2" @done="isJoining = false" />
    <ul v-if="here.length > 0" class="mt-1.5 space-y-1.5">
      <MappingRow v-for="mapping in here.slice(0, mostShown)" :key="mapping.id" :mapping="mapping" />
    </ul>
    <UiButton v-if="here.length > mostShown" look="plain" class="-ml-2.5" @click="mostShown = Infinity"
      >{{ here.length - mostShown }} more</UiButton
    >
    <template v-if="elsewhere.length > 0">
      <UiButton
        look="plain"
        class="mt-1 -ml-2.5"
        :aria-expanded="showElsewhere"
        @click="showElsewhere = !showElsewhere"
      >
        <ChevronRight :size="13" :class="showElsewhere && 'rotate-90'" />{{ elsewhere.length }} more in other
        layers
      </UiButton>
      <ul v-if="showElsewhere" class="mt-1 space-y-1.5">
        <MappingRow v-for="mapping in elsewhere" :key="mapping.id" :mapping="mapping" />
      </ul>
    </template>
  </section>
</template>
