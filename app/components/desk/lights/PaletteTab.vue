<script setup lang="ts">
import { useFileDialog } from '@vueuse/core'
import { FileUp, Plus, X } from '@lucide/vue'
import { STARTER_PALETTES } from '#core/lights'
import type { Abilities, ControlKind, LightAbility } from '#core/rig'
import { CONTROL_KIND_NAME, paletteFrom, readTable } from '#core/rig'

/** What the lights of this kind of controller can show, and how they are set. */
const desk = useDeskStore()
const refusal = ref<string | null>(null)
const edit = useEdit({ refused: (why) => (refusal.value = why) })

type Levels = NonNullable<LightAbility['levels'][ControlKind]>
const LEVELS: ReadonlyArray<{ value: Levels; label: string }> = [
  { value: 'none', label: 'no light' },
  { value: 'on-off', label: 'on or off' },
  { value: 'dim-bright', label: 'dim or bright' },
  { value: 'two-colour', label: 'two colours' },
  { value: 'palette', label: 'the palette' },
  { value: 'rgb', label: 'any colour' },
]
const WAYS: ReadonlyArray<{ value: LightAbility['setBy']['kind']; label: string }> = [
  { value: 'note-velocity', label: 'the velocity of a note' },
  { value: 'cc-value', label: 'the value of a CC' },
  { value: 'channel-meaning', label: 'a note, the channel says how' },
  { value: 'fixed', label: 'nothing: they cannot be set' },
]
const lights = computed<LightAbility>(
  () => desk.model?.abilities.lights ?? { levels: {}, setBy: { kind: 'fixed' }, palette: [] },
)
const kinds = computed(() => [...new Set(desk.model?.surface.controls.map(({ kind }) => kind) ?? [])])

function set(change: Partial<LightAbility>): boolean {
  const { model } = desk
  refusal.value = null
  if (!model) return false
  const abilities: Abilities = { ...model.abilities, lights: { ...lights.value, ...change } }
  return edit('What the lights can do', [{ type: 'abilities-set', model: model.id, abilities }])
}
function setWay(kind: LightAbility['setBy']['kind']): void {
  const meanings = [{ channel: 1, meaning: 'steady' }]
  set({
    setBy:
      kind === 'cc-value'
        ? { kind, channel: null }
        : kind === 'channel-meaning'
          ? { kind, meanings }
          : { kind },
  })
}
type Meaning = Extract<LightAbility['setBy'], { kind: 'channel-meaning' }>['meanings'][number]
const meaningsNow = (): readonly Meaning[] =>
  lights.value.setBy.kind === 'channel-meaning' ? lights.value.setBy.meanings : []
const setMeanings = (meanings: readonly Meaning[]): boolean =>
  set({ setBy: { kind: 'channel-meaning', meanings: [...meanings] } })
const setMeaning = (at: number, change: Partial<Meaning>): boolean =>
  setMeanings(meaningsNow().map((each, index) => (index === at ? { ...each, ...change } : each)))
function addMeaning(): void {
  const taken = new Set(meaningsNow().map(({ channel }) => channel))
  let channel = 1
  while (taken.has(channel) && channel < 16) channel++
  setMeanings([
    ...meaningsNow(),
    { channel, meaning: ['steady', 'blink', 'pulse'][taken.size] ?? `way ${taken.size + 1}` },
  ])
}
const valueOf = (event: Event): string => (event.target as HTMLInputElement).value
const put = (at: number, change: Partial<LightAbility['palette'][number]>): boolean =>
  set({
    palette: lights.value.palette.map((entry, index) => (index === at ? { ...entry, ...change } : entry)),
  })
function add(): void {
  const taken = new Set(lights.value.palette.map(({ index }) => index))
  let index = 0
  while (taken.has(index)) index++
  set({ palette: [...lights.value.palette, { index, colour: '#ffffff', name: `Colour ${index}` }] })
}
/** A pasted list takes the palette's place, if every line of it can be read. */
const isPasting = ref(false)
function paste(text: string): void {
  if (text.trim() === '') return
  const table = readTable(text)
  const read = table.ok ? paletteFrom(table.rows) : null
  refusal.value = !table.ok
    ? table.message
    : read && read.bad.length > 0
      ? `Line ${read.bad[0]?.line}: ${read.bad[0]?.message} The palette stays as it was.`
      : null
  if (read && refusal.value === null && set({ palette: [...read.items] })) isPasting.value = false
}
const dialog = useFileDialog({ accept: '.csv,.tsv,.txt,text/csv,text/plain', multiple: false, reset: true })
dialog.onChange(async (files) => {
  const file = files?.[0]
  if (file) paste(await file.text())
})
function start(id: string): void {
  const found = STARTER_PALETTES.find((each) => each.id === id)
  if (found) set({ palette: found.entries.map((entry) => ({ ...entry })) })
}
const FIELD = 'bg-raised border-line h-7 rounded-md border px-1'
</script>

<template>
  <div class="flex min-h-0 flex-1 gap-4 overflow-auto px-4 py-1 text-xs">
    <div class="grid w-72 shrink-0 grid-cols-[max-content_1fr] content-start items-center gap-x-3 gap-y-1">
      <template v-for="kind in kinds" :key="kind">
        <label class="text-soft" :for="`light-${kind}`">{{ CONTROL_KIND_NAME[kind] }}</label>
        <select
          :id="`light-${kind}`"
          :class="FIELD"
          :value="lights.levels[kind] ?? 'none'"
          @change="set({ levels: { ...lights.levels, [kind]: valueOf($event) as Levels } })"
        >
          <option v-for="each in LEVELS" :key="each.value" :value="each.value">{{ each.label }}</option>
        </select>
      </template>
      <label class="text-soft" for="light-set-by">Set by</label>
      <select
        id="light-set-by"
        :class="FIELD"
        :value="lights.setBy.kind"
        @change="setWay(valueOf($event) as never)"
      >
        <option v-for="each in WAYS" :key="each.value" :value="each.value">{{ each.label }}</option>
      </select>
      <template v-if="lights.setBy.kind === 'cc-value'">
        <label class="text-soft" for="light-channel">on</label>
        <select
          id="light-channel"
          :class="FIELD"
          :value="lights.setBy.channel ?? ''"
          @change="
            set({
              setBy: { kind: 'cc-value', channel: valueOf($event) === '' ? null : Number(valueOf($event)) },
            })
          "
        >
          <option value="">the control’s own channel</option>
          <option v-for="channel in 16" :key="channel" :value="channel">channel {{ channel }}</option>
        </select>
      </template>
      <template v-if="lights.setBy.kind === 'channel-meaning'">
        <template v-for="(each, at) in lights.setBy.meanings" :key="at">
          <select
            :class="FIELD"
            :aria-label="`Channel that means ${each.meaning}`"
            :value="each.channel"
            @change="setMeaning(at, { channel: Number(valueOf($event)) })"
          >
            <option v-for="channel in 16" :key="channel" :value="channel">channel {{ channel }}</option>
          </select>
          <InlineName
            class="text-xs"
            :value="each.meaning"
            label="What the channel means; a state of this name is sent on it"
            @change="setMeaning(at, { meaning: $event })"
          />
        </template>
        <UiButton class="col-span-2 justify-self-start" @click="addMeaning"
          ><Plus :size="13" />Meaning</UiButton
        >
      </template>
    </div>
    <div class="min-w-0 flex-1">
      <div class="flex flex-wrap items-center gap-1.5">
        <span class="font-medium">{{ lights.palette.length }} colours</span>
        <select :class="FIELD" aria-label="Start from a palette" value="" @change="start(valueOf($event))">
          <option value="">start from …</option>
          <option v-for="each in STARTER_PALETTES" :key="each.id" :value="each.id">{{ each.name }}</option>
        </select>
        <UiButton @click="isPasting = !isPasting">Paste a list</UiButton>
        <UiButton @click="dialog.open()"><FileUp :size="13" />Read a table</UiButton>
        <UiButton @click="add"><Plus :size="13" />Colour</UiButton>
      </div>
      <textarea
        v-if="isPasting"
        class="bg-raised border-line tag mt-1 h-16 w-full rounded-md border p-2"
        placeholder="Number, Colour, Name: one a line"
        aria-label="The palette as text"
        data-testid="palette-text"
        @change="paste(valueOf($event))"
      />
      <p v-if="refusal" class="text-conflict mt-1" role="alert">{{ refusal }}</p>
      <ul
        class="mt-1.5 grid grid-cols-[repeat(auto-fill,minmax(210px,1fr))] gap-x-3 gap-y-1"
        data-testid="palette"
      >
        <li v-for="(entry, at) in lights.palette" :key="entry.index" class="flex items-center gap-1">
          <input
            :class="FIELD"
            class="tag w-11"
            aria-label="Number that is sent"
            :value="entry.index"
            @change="put(at, { index: Number(valueOf($event)) })"
          />
          <input
            type="color"
            class="border-line h-6 w-8 rounded border bg-transparent p-0"
            :aria-label="`Colour ${entry.index}`"
            :value="entry.colour"
            @change="put(at, { colour: valueOf($event) })"
          />
          <InlineName
            class="flex-1 text-xs"
            :value="entry.name"
            label="Name"
            @change="put(at, { name: $event })"
          />
          <button
            type="button"
            class="text-soft hover:text-ink"
            :aria-label="`Remove ${entry.name}`"
            @click="set({ palette: lights.palette.filter((each) => each !== entry) })"
          >
            <X :size="12" />
          </button>
        </li>
      </ul>
    </div>
  </div>
</template>
