<script setup lang="ts">
import { Plus, Sparkles } from '@lucide/vue'
import { alikes, entriesFor, resolve, type Alike } from '#core/lights'
import type { LightRole } from '#core/rig'
import type { SetBy } from '~/stores/lights'

/** The roles of the rig: what a light says, given to the controls that are selected. */
const lights = useLightsStore()
const desk = useDeskStore()
const rigs = useRigStore()

type Way = SetBy['kind']
const way = ref<Way>('press')
const group = ref('Presets')
const state = ref('on')
const WAYS: ReadonlyArray<{ value: Way; label: string }> = [
  { value: 'press', label: 'set by the press' },
  { value: 'feedback', label: 'set by the destination' },
  { value: 'one-of-many', label: 'one of many' },
  { value: 'steady', label: 'always' },
]
function setBy(role: LightRole): SetBy {
  switch (way.value) {
    case 'one-of-many':
      return { kind: 'one-of-many', group: group.value.trim() || 'Presets' }
    case 'steady':
      return {
        kind: 'steady',
        state: role.states.find(({ name }) => name === state.value)?.name ?? role.states.at(-1)?.name ?? 'on',
      }
    default:
      return { kind: way.value }
  }
}
const stateNames = computed(() => [
  ...new Set(lights.roles.flatMap(({ states }) => states.map(({ name }) => name))),
])

/** Pairs that come out alike on the lights of this controller, worst first, with a cure that can be pressed. */
const near = computed(() => {
  const { model } = desk
  if (!model) return []
  const kinds = [...new Set(model.surface.controls.map(({ kind }) => kind))]
  const all = kinds.flatMap((kind) => {
    const entries = entriesFor(lights.abilities, kind)
    return alikes(resolve(lights.roles, entries))
  })
  const key = ({ a, b }: Alike): string => `${a.role.id} ${a.state} ${b.role.id} ${b.state}`
  return [...new Map(all.map((each) => [key(each), each])).values()].sort((a, b) => a.apart - b.apart)
})
const WORDS = {
  common: '',
  protanope: ' for those who see no red',
  deuteranope: ' for those who see no green',
  tritanope: ' for those who see no blue',
} as const
const words = ({ a, b, vision }: Alike): string =>
  a.role.id === b.role.id
    ? `${a.role.name}: ${a.state} and ${b.state} look alike${WORDS[vision]}.`
    : `${a.role.name} and ${b.role.name} look alike when ${a.state}${WORDS[vision]}.`
const SHOWN = 4
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col">
    <div class="flex shrink-0 flex-wrap items-center gap-2 px-4 py-1 text-xs">
      <span class="font-medium">{{
        desk.selected.length === 0
          ? 'Select controls, then give them a role.'
          : desk.selected.length === 1
            ? 'To the selected control:'
            : `To ${desk.selected.length} controls:`
      }}</span>
      <select
        v-model="way"
        class="bg-raised border-line h-7 rounded-md border px-1"
        aria-label="Who sets the light"
        data-testid="light-way"
      >
        <option v-for="each in WAYS" :key="each.value" :value="each.value">{{ each.label }}</option>
      </select>
      <input
        v-if="way === 'one-of-many'"
        v-model="group"
        class="bg-raised border-line h-7 w-28 rounded-md border px-2"
        aria-label="Name of the group of which one is active"
        maxlength="120"
      />
      <select
        v-if="way === 'steady'"
        v-model="state"
        class="bg-raised border-line h-7 rounded-md border px-1"
        aria-label="State"
      >
        <option v-for="each in stateNames" :key="each" :value="each">{{ each }}</option>
      </select>
      <label class="text-soft flex items-center gap-1.5"
        ><input
          v-model="lights.isEveryLayer"
          type="checkbox"
          class="accent-ink"
          data-testid="every-layer"
        />in every layer</label
      >
      <UiButton
        :disabled="lights.places.length === 0 || !rigs.canEdit"
        @click="lights.give(null, { kind: 'press' })"
        >Leave dark</UiButton
      >
      <UiButton
        class="ml-auto"
        data-testid="choose-colours"
        :disabled="lights.roles.length === 0 || lights.isChoosing || !rigs.canEdit"
        @click="lights.choose()"
        ><Sparkles :size="13" />{{ lights.isChoosing ? 'Choosing…' : 'Choose colours for me' }}</UiButton
      >
      <UiButton data-testid="add-role" :disabled="!rigs.canEdit" @click="lights.addRole()"
        ><Plus :size="13" />Role</UiButton
      >
    </div>
    <div class="min-h-0 flex-1 overflow-auto px-4 pb-2">
      <ul v-if="near.length > 0" class="text-advice mb-1 text-xs" data-testid="alike">
        <li v-for="each in near.slice(0, SHOWN)" :key="words(each)" class="flex items-center gap-1.5">
          <SeverityMark severity="warning" />{{ words(each) }}
          <span class="tag text-2xs!">{{ each.apart.toFixed(2) }} apart</span>
        </li>
        <li v-if="near.length > SHOWN">and {{ near.length - SHOWN }} more; let the colours be chosen.</li>
      </ul>
      <ul v-if="lights.roles.length > 0">
        <RoleRow
          v-for="role in lights.roles"
          :key="role.id"
          :role="role"
          @give="lights.give(role, setBy(role))"
        />
      </ul>
      <p v-else class="text-soft py-2">
        A role is what a light says: voice, effect, launch. It has a colour for each of its states, and a
        letter for where there is no colour.
      </p>
    </div>
  </div>
</template>
