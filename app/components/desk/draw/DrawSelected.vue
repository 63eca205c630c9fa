<script setup lang="ts">
import { Copy, Trash2 } from '@lucide/vue'
import { gestureVerb } from '~/lib/sentence'
import { controlName, KIND_FACTS, namesByPattern, readingOrder, type GestureKind } from '#core/rig'

const desk = useDeskStore()
const rigs = useRigStore()
const { set, duplicate, remove } = useDrawing()

const ordered = computed(() => readingOrder(desk.selected))
const title = computed(() => {
  const [only] = ordered.value
  return ordered.value.length === 1 && only ? controlName(only) : `${ordered.value.length} controls`
})

const pattern = ref('')
watch(
  () => desk.selectedIds,
  () => {
    pattern.value = ordered.value.length === 1 ? (ordered.value[0]?.label ?? '') : ''
  },
  { immediate: true },
)
function rename(): void {
  const names = namesByPattern(pattern.value, ordered.value.length)
  const byId = new Map(ordered.value.map(({ id }, index) => [id, names[index] ?? null]))
  set('Name controls', ({ id, label }) => ({ label: byId.get(id) ?? label }))
}

/** Movements that all selected controls can be given, and how many of them have each. */
const gestures = computed(() => {
  const sets = desk.selected.map(({ kind }) => [...KIND_FACTS[kind].gestures, ...KIND_FACTS[kind].more])
  const [first = [], ...rest] = sets
  return first
    .filter((gesture) => rest.every((set_) => set_.includes(gesture)))
    .map((gesture) => ({
      gesture,
      isOn: desk.selected.every((control) => control.gestures.includes(gesture)),
    }))
})
function toggleGesture(gesture: GestureKind, isOn: boolean): void {
  set(`${isOn ? 'Without' : 'With'} ${gestureVerb(gesture).toLowerCase()}`, ({ kind, gestures: has }) => {
    const all = [...KIND_FACTS[kind].gestures, ...KIND_FACTS[kind].more]
    return { gestures: all.filter((each) => (each === gesture ? !isOn : has.includes(each))) }
  })
}

const isSilent = computed(() => desk.selected.every(({ silent }) => silent))
const MOVED: ReadonlySet<string> = new Set(['turn', 'slide', 'tilt', 'x', 'y'])
/** Only what is moved has a centre. */
const canRest = computed(() =>
  desk.selected.some(({ gestures: all }) => all.some((gesture) => MOVED.has(gesture))),
)
const restsInCentre = computed(() => desk.selected.every((control) => control.restsInCentre))
const times = ref(1)

/** Mappings that deleting the selection would turn into old ones. */
const mapped = computed(() => {
  const prefixes = desk.selectedIds.map((id) => `${desk.controller?.id}/${id}.`)
  return (
    rigs.rig?.mappings.filter(
      ({ gesture }) => gesture !== null && prefixes.some((prefix) => gesture.startsWith(prefix)),
    ).length ?? 0
  )
})
</script>

<template>
  <section class="border-line border-t pt-3" data-testid="draw-selected">
    <h3 class="font-bold">{{ title }}</h3>
    <SelectMore />
    <form class="mt-1 flex items-end gap-1.5" @submit.prevent="rename">
      <label class="min-w-0 flex-1">
        <span class="text-soft text-xs">{{
          ordered.length === 1 ? 'Name' : 'Names: “Fader {1}”, or a pasted list'
        }}</span>
        <textarea
          v-model="pattern"
          rows="1"
          class="bg-raised border-line mt-0.5 block h-7 w-full resize-none rounded-md border px-2 py-1 leading-5"
          data-testid="name-pattern"
          @keydown.enter.prevent="rename"
        />
      </label>
      <UiButton type="submit">Name</UiButton>
    </form>
    <div class="mt-2 flex flex-wrap items-center gap-1.5">
      <span class="text-soft text-xs">Senses</span>
      <ChipToggle
        v-for="{ gesture, isOn } in gestures"
        :key="gesture"
        :is-on="isOn"
        @click="toggleGesture(gesture, isOn)"
        >{{ gestureVerb(gesture) }}</ChipToggle
      >
      <label class="ml-1 flex items-center gap-1.5 text-xs">
        <input
          type="checkbox"
          class="accent-ink"
          :checked="isSilent"
          @change="set('Sends nothing', () => ({ silent: !isSilent }))"
        />
        sends nothing
      </label>
      <label v-if="canRest" class="ml-1 flex items-center gap-1.5 text-xs">
        <input
          type="checkbox"
          class="accent-ink"
          data-testid="rests-in-centre"
          :checked="restsInCentre"
          @change="set('Rests in its centre', () => ({ restsInCentre: !restsInCentre }))"
        />
        rests in its centre
      </label>
    </div>
    <DrawArrange class="mt-2" />
    <div class="mt-2 flex flex-wrap items-center gap-1.5">
      <NumberInput v-model="times" aria-label="How many copies" />
      <UiButton @click="duplicate(Math.max(1, Math.min(64, Math.round(times) || 1)), 'right')"
        ><Copy :size="13" />copies right</UiButton
      >
      <UiButton @click="duplicate(Math.max(1, Math.min(64, Math.round(times) || 1)), 'below')"
        ><Copy :size="13" />below</UiButton
      >
      <UiButton class="ml-auto" data-testid="delete-controls" @click="remove"
        ><Trash2 :size="13" />Delete</UiButton
      >
    </div>
    <p v-if="mapped > 0" class="text-soft mt-1 text-xs">
      Deleting keeps what was learned from {{ mapped === 1 ? 'its mapping' : `its ${mapped} mappings` }} as
      old mappings; undo brings all back.
    </p>
  </section>
</template>
