<script setup lang="ts">
import { Hand, Pin, PinOff, Power } from '@lucide/vue'
import { printTag } from '#core/midi'
import {
  changeProgrammed,
  KIND_FACTS,
  layersOver,
  placesOver,
  programmedOver,
  readingOrder,
  sentAddress,
  turnOff,
  type GestureKind,
  type Id,
  type Message,
  type Place,
  type Programmed,
} from '#core/rig'
import { afterPaint } from '~/lib/after-paint'
import { isSameContext, manyFields } from '~/lib/many'
import { gestureVerb, type SentenceContext } from '~/lib/sentence'

const MANY = 400
const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()

const controls = computed(() => readingOrder(desk.selected))
const title = computed(() => {
  const kinds = new Set(controls.value.map(({ kind }) => kind))
  const [only] = kinds
  const noun = kinds.size === 1 && only ? KIND_FACTS[only].plural.toLowerCase() : 'controls'
  return `${controls.value.length} ${noun}`
})

/** Gestures that any of the selected controls has; the first of each control is chosen at first. */
const gestureKinds = computed(() => [...new Set(controls.value.flatMap(({ gestures }) => gestures))])
const chosenKinds = ref<GestureKind[]>([])
watch(
  () => desk.selectedIds,
  () => {
    const mains = new Set(controls.value.flatMap(({ gestures }) => gestures.slice(0, 1)))
    const kept = chosenKinds.value.filter((kind) => gestureKinds.value.includes(kind))
    chosenKinds.value = kept.length > 0 ? kept : [...mains]
  },
  { immediate: true },
)
function toggleKind(kind: GestureKind): void {
  const next = chosenKinds.value.includes(kind)
    ? chosenKinds.value.filter((other) => other !== kind)
    : [...chosenKinds.value, kind]
  if (next.length > 0) chosenKinds.value = next
}

const gestures = computed(() =>
  controls.value.flatMap((control) =>
    control.gestures
      .filter((kind) => chosenKinds.value.includes(kind))
      .map((kind) => `${control.id}.${kind}`),
  ),
)
const layers = computed(() => (desk.template ? layersOver(desk.template, gestures.value) : []))
const shownLayers = computed(() => Object.values(desk.shown?.layers ?? {}).filter((id) => id !== null))
const reach = ref<'shown' | 'all' | 'chosen'>('shown')
const chosenLayers = ref<Id[]>([])

const places = computed<Place[]>(() => {
  if (!desk.controller || !desk.template) return []
  const over =
    reach.value === 'all' ? 'all-layers' : reach.value === 'chosen' ? chosenLayers.value : shownLayers.value
  return placesOver(desk.controller, desk.template, gestures.value, over)
})
const programmedNow = computed<Programmed[]>(() => {
  const { rig } = rigs
  return rig ? programmedOver(rig, places.value) : []
})
/** What is written here; for thousands of places at once it follows when the surface has been painted. */
const programmed = shallowRef<readonly Programmed[]>(programmedNow.value)
watch([() => rigs.rig, places], async () => {
  if (places.value.length > MANY) await afterPaint()
  programmed.value = programmedNow.value
})
/** As before where nothing changed that a sentence says: a pin, for one, is not in it. */
const contexts = computed<SentenceContext[]>((before) => {
  const { rig } = rigs
  const { controller, model } = desk
  if (!rig || !controller || !model) return []
  const now = programmed.value.flatMap(({ assignment, control, gesture }) => {
    const [message] = assignment.messages
    return message
      ? [{ message, control, gesture, homeChannel: controller.homeChannel, abilities: model.abilities, rig }]
      : []
  })
  const isAsBefore =
    before?.length === now.length &&
    now.every((context, index) => {
      const old = before[index]
      return old !== undefined && old.message === context.message && isSameContext(old, context)
    })
  return isAsBefore ? before : now
})
const fields = computed(() => manyFields(contexts.value))
const sentence = computed(() => fields.value.filter(({ id }) => id !== 'number'))
const sentTags = computed(() => {
  const tags = programmed.value.slice(0, 6).map(({ assignment }) => {
    const [message] = assignment.messages
    const address = message && desk.controller ? sentAddress(message, desk.controller.homeChannel) : null
    return address ? printTag(address) : 'nothing'
  })
  const more = programmed.value.length - tags.length
  return tags.join(', ') + (more > 0 ? ` and ${more} more` : '')
})
/** What stands between a word of the sentence and the one before it; else a blank. */
const LEADS: Readonly<Record<string, string>> = {
  channel: ' on ',
  low: ' from ',
  high: ' to ',
  behaviour: ', ',
}

function apply(messages: readonly Message[]): void {
  // What is written here may be a frame behind.
  if (programmed.value !== programmedNow.value) return
  const edits = changeProgrammed(programmed.value, ({ assignment }, index) => {
    const next = messages[index]
    const [first, ...rest] = assignment.messages
    return next === undefined || next === first ? assignment : { ...assignment, messages: [next, ...rest] }
  })
  edit(`Change ${title.value}`, edits)
}

const allPinned = computed(
  () => programmed.value.length > 0 && programmed.value.every(({ assignment }) => assignment.pinned),
)
function pin(): void {
  const pinned = !allPinned.value
  const edits = changeProgrammed(programmedNow.value, ({ assignment }) => ({ ...assignment, pinned }))
  edit(`${pinned ? 'Pin' : 'Unpin'} ${title.value}`, edits)
}
</script>

<template>
  <div class="px-5 py-4" data-testid="many">
    <p class="text-soft text-xs font-medium">{{ desk.controller?.name }}</p>
    <h2 class="text-lg font-bold" data-testid="many-title">{{ title }}</h2>
    <SelectMore class="mt-1.5" />
    <fieldset v-if="gestureKinds.length > 1" class="mt-3 flex flex-wrap items-center gap-1.5">
      <legend class="text-soft float-left mr-1 text-xs leading-6">What they sense</legend>
      <ChipToggle
        v-for="kind in gestureKinds"
        :key="kind"
        :is-on="chosenKinds.includes(kind)"
        :data-gesture-kind="kind"
        @click="toggleKind(kind)"
        >{{ gestureVerb(kind) }}</ChipToggle
      >
    </fieldset>
    <fieldset v-if="layers.length > 0" class="mt-2 flex flex-wrap items-center gap-1.5">
      <legend class="text-soft float-left mr-1 text-xs leading-6">Where</legend>
      <ChipToggle :is-on="reach === 'shown'" @click="reach = 'shown'">layer shown</ChipToggle>
      <ChipToggle :is-on="reach === 'all'" data-testid="all-layers" @click="reach = 'all'"
        >all layers</ChipToggle
      >
      <ChipToggle :is-on="reach === 'chosen'" @click="reach = 'chosen'">chosen layers</ChipToggle>
      <span v-if="reach === 'chosen'" class="flex w-full flex-wrap gap-x-3 gap-y-1">
        <label v-for="layer in layers" :key="layer.id" class="flex items-center gap-1.5 text-xs">
          <input v-model="chosenLayers" type="checkbox" :value="layer.id" class="accent-ink" />
          {{ layer.stack }}: {{ layer.name }}
        </label>
      </span>
    </fieldset>
    <p v-if="places.length === 0" class="text-soft mt-3">
      Nothing of this is in a layer that shows now; choose all layers, or a layer above.
    </p>
    <template v-else>
      <p class="mt-2 text-lg leading-8.5" data-testid="many-sentence">
        They send<template v-for="field in sentence" :key="field.id"
          >{{ LEADS[field.id] ?? ' '
          }}<WordChoice v-if="field.type === 'choice'" :word="field" @change="apply" />
          <WordNumber v-else :word="field" @change="apply"
        /></template>
      </p>
      <p class="tag text-soft mt-1">{{ sentTags }}</p>
      <NumberingForm class="mt-3" :programmed="programmed" @change="apply" />
      <div class="mt-3 flex flex-wrap gap-1.5">
        <UiButton @click="pin"
          ><PinOff v-if="allPinned" :size="13" /><Pin v-else :size="13" />{{
            allPinned ? 'Unpin' : 'Pin'
          }}</UiButton
        >
        <UiButton data-testid="learn-by-moving" @click="desk.panel = 'learn-by-moving'"
          ><Hand :size="13" />Learn by moving</UiButton
        >
        <UiButton data-testid="turn-off" @click="edit(`Turn off ${title}`, turnOff(programmedNow))"
          ><Power :size="13" />Send nothing</UiButton
        >
      </div>
    </template>
  </div>
</template>
