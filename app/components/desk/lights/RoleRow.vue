<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { entriesFor, patternOf, shownAs } from '#core/lights'
import type { LightRole } from '#core/rig'

/** A role: its letter, its name, the colours of its states, and what the Desk's controller makes of them. */
const { role } = defineProps<{ role: LightRole }>()
const emit = defineEmits<{ give: [] }>()
const lights = useLightsStore()
const desk = useDeskStore()
const rigs = useRigStore()
const takeAway = useRemoval()

/** The kind of the selected controls, else one that has the most colours. */
const entries = computed(() => {
  const kinds = desk.selected.length > 0 ? desk.selected : (desk.model?.surface.controls ?? [])
  const all = kinds.map(({ kind }) => entriesFor(lights.abilities, kind))
  return all.sort((a, b) => b.length - a.length)[0] ?? []
})
const states = computed(() =>
  role.states.map((state, index) => ({ ...state, shown: shownAs(state.colour, index, entries.value) })),
)
const patternName = computed(() => `Pattern: ${patternOf(lights.roles.indexOf(role))}`)
const valueOf = (event: Event): string => (event.target as HTMLInputElement).value
const put = (index: number, change: Partial<LightRole['states'][number]>): boolean =>
  lights.setRole(role, 'Change', {
    states: role.states.map((state, at) => (at === index ? { ...state, ...change } : state)),
  })
/** The value from which a destination means a state: empty shares the values out evenly. */
function setFrom(index: number, event: Event): void {
  const input = event.target as HTMLInputElement
  const typed = input.value.trim()
  const from = typed === '' ? null : Number(typed)
  if (!put(index, { from })) input.value = String(role.states[index]?.from ?? '')
}
const addState = (): boolean =>
  lights.setRole(role, 'Another state of', {
    states: [...role.states, { name: `state ${role.states.length + 1}`, colour: '#ffd84a', from: null }],
  })
const dropState = (index: number): boolean =>
  lights.setRole(role, 'One state less of', { states: role.states.filter((_, at) => at !== index) })
function setLetter(event: Event): void {
  const input = event.target as HTMLInputElement
  if (!lights.setRole(role, 'Letter of', { letter: input.value.trim().toUpperCase() }))
    input.value = role.letter
}
const uses = computed(() => lights.uses.get(role.id) ?? 0)
</script>

<template>
  <li class="border-hair flex items-center gap-2 border-t py-1" :data-role="role.id">
    <input
      class="border-line bg-raised size-6 rounded-md border text-center font-bold"
      aria-label="Letter"
      maxlength="1"
      :value="role.letter"
      @change="setLetter"
    />
    <svg class="size-4 shrink-0" viewBox="-1 -1 11 11" role="img" :aria-label="patternName">
      <path class="fill-raised stroke-ink" :d="lights.patternPathOf(role)">
        <title>{{ patternName }}</title>
      </path>
    </svg>
    <InlineName
      class="w-28"
      :value="role.name"
      label="Name of the role"
      @change="lights.setRole(role, 'Name', { name: $event })"
    />
    <span class="flex flex-1 flex-wrap items-center gap-x-2.5 gap-y-1 text-xs">
      <span v-for="(state, index) in states" :key="index" class="flex items-center gap-1">
        <InlineName
          class="w-14 text-xs"
          :value="state.name"
          label="Name of the state"
          @change="put(index, { name: $event })"
        />
        <input
          type="color"
          class="border-line h-5 w-7 rounded border bg-transparent p-0"
          :aria-label="`Colour of ${role.name} ${state.name}`"
          :value="state.colour"
          @change="put(index, { colour: valueOf($event) })"
        />
        <span
          v-if="state.shown"
          class="tag text-2xs! flex w-10 items-center gap-1"
          :title="`Shown as ${state.shown.entry.name}, ${state.shown.off.toFixed(2)} off`"
        >
          <span
            class="border-line size-3 rounded-full border"
            :style="{ background: state.shown.entry.colour }"
          />{{ state.shown.entry.index }}
        </span>
        <input
          class="border-line tag text-2xs! h-5 w-11 rounded border bg-transparent px-1"
          :aria-label="`Value from which ${role.name} is ${state.name}`"
          title="From this value on, when the destination sets it; empty shares the values out evenly"
          placeholder="from"
          :value="state.from ?? ''"
          @change="setFrom(index, $event)"
        />
        <button
          v-if="role.states.length > 1 && index > 1"
          type="button"
          class="text-soft hover:text-ink"
          :aria-label="`Remove the state ${state.name}`"
          @click="dropState(index)"
        >
          <X :size="11" />
        </button>
      </span>
      <button
        type="button"
        class="text-soft hover:text-ink flex items-center gap-0.5"
        :aria-label="`Another state of ${role.name}`"
        @click="addState"
      >
        <Plus :size="11" />state
      </button>
    </span>
    <span class="text-soft text-xs whitespace-nowrap">{{ uses === 0 ? 'unused' : `on ${uses}` }}</span>
    <UiButton
      :disabled="lights.places.length === 0 || !rigs.canEdit"
      data-testid="give-role"
      @click="emit('give')"
      >Give</UiButton
    >
    <UiButton
      look="plain"
      class="px-1!"
      :label="`Remove ${role.name}`"
      @click="takeAway(`Remove ${role.name}`, [{ type: 'light-role-remove', role: role.id }])"
      ><X :size="13"
    /></UiButton>
  </li>
</template>
