<script setup lang="ts">
import { useFileDialog } from '@vueuse/core'
import { FileUp } from '@lucide/vue'
import type { Destination, Matching } from '#core/rig'
import { toast } from '~/lib/toast'
import { FIELDS, guessed, isHeaded, namesEdits, readable, type ListKind } from '~/lib/destinations/read-list'

/** Bring a list in: pasted, from a table file, or from a document of MIDI names or properties; seen before it is added. */
const { destination, kind } = defineProps<{ destination: Destination; kind: ListKind }>()
const emit = defineEmits<{ done: [] }>()
const edit = useEdit()

const NAMES: Readonly<Record<ListKind, string>> = {
  parameters: 'parameters',
  sounds: 'sounds',
  presets: 'presets',
}
const text = ref('')
const { given, incoming, read, readFile } = useGivenList(() => destination)
const matching = ref<Matching<string>>({})
watch(given, (now) => {
  if (now?.kind === 'table') matching.value = guessed(kind, now.rows)
})
const dialog = useFileDialog({
  accept: '.csv,.tsv,.txt,.midnam,.xml,.json,text/csv,text/plain,application/xml,application/json',
  multiple: false,
  reset: true,
})
dialog.onChange(async (files) => {
  const file = files?.[0]
  if (file) await readFile(file)
})

const rows = computed(() => (given.value?.kind === 'table' ? given.value.rows : []))
const found = computed(() => readable(kind, rows.value, matching.value, destination))
const SHOWN_BAD = 4

function add(): void {
  const now = given.value
  if (now?.kind === 'table') {
    const { count, bad, edits } = found.value
    if (!edit(`Add ${count} ${NAMES[kind]} to ${destination.name}`, edits)) return
    toast(`${count} ${NAMES[kind]} added.${bad.length > 0 ? ` ${bad.length} lines were left out.` : ''}`)
  } else if (now?.kind === 'names') {
    if (!edit(`Take names over into ${destination.name}`, namesEdits(destination, now.parts))) return
    const { parameters, noteNames, programs } = now.parts
    toast(`${parameters.length} parameters, ${noteNames.length} sounds and ${programs.length} presets added.`)
  }
  emit('done')
}
</script>

<template>
  <div
    class="min-h-0 flex-1 overflow-auto px-4 py-3 text-xs"
    data-testid="read-list"
    @keydown.esc.stop="emit('done')"
  >
    <h2 class="text-base font-bold">Read a list of {{ NAMES[kind] }}</h2>
    <p class="text-soft mt-1 max-w-prose">
      Paste cells from a spreadsheet, or choose a file: a table (CSV), a MIDI Name Document, or the lists that
      a device gives by MIDI-CI property exchange (JSON). Nothing is added before you have seen it.
    </p>
    <div class="mt-2 flex items-start gap-2">
      <textarea
        v-model="text"
        class="bg-raised border-line tag h-24 w-[32rem] rounded-md border p-2"
        :placeholder="kind === 'parameters' ? 'Group, Name, Number, From, To' : 'Number, Name'"
        aria-label="The list as text"
        spellcheck="false"
        data-testid="list-text"
        @input="read(text)"
      />
      <UiButton @click="dialog.open()"><FileUp :size="13" />Choose a file</UiButton>
      <UiButton look="plain" @click="emit('done')">Cancel</UiButton>
    </div>
    <ReadingLine
      v-if="incoming"
      class="mt-3"
      :name="incoming.name"
      :progress="incoming.progress"
      @stop="incoming.stop()"
    />
    <p
      v-if="given?.kind === 'refused'"
      class="bg-conflict-soft text-conflict border-conflict mt-3 max-w-prose rounded-md border px-3 py-2 font-medium"
      role="alert"
    >
      {{ given.message }} Nothing was added.
    </p>
    <template v-else-if="given?.kind === 'table'">
      <p class="mt-3 font-medium">
        {{ rows.length }} lines{{ isHeaded(kind, rows) ? ', the first names the columns' : '' }}. What is in
        which column?
      </p>
      <TableColumns
        v-model="matching"
        class="mt-1.5"
        :rows="rows"
        :fields="FIELDS[kind]"
        data-testid="list-preview"
      />
      <BadLines class="mt-2" :bad="found.bad" />
      <UiButton look="strong" class="mt-3" :disabled="found.count === 0" data-testid="list-add" @click="add"
        >Add {{ found.count }} {{ NAMES[kind] }}</UiButton
      >
    </template>
    <template v-else-if="given?.kind === 'names'">
      <p class="mt-3 font-medium">
        {{ given.what }}: {{ given.parts.parameters.length }} parameters,
        {{ given.parts.noteNames.length }} sounds, {{ given.parts.programs.length }} presets.
      </p>
      <ul v-if="given.left.length > 0" class="text-advice mt-1">
        <li v-for="line in given.left.slice(0, SHOWN_BAD)" :key="line">{{ line }}</li>
        <li v-if="given.left.length > SHOWN_BAD">and {{ given.left.length - SHOWN_BAD }} more</li>
      </ul>
      <UiButton look="strong" class="mt-3" data-testid="list-add" @click="add">Take them over</UiButton>
    </template>
  </div>
</template>
