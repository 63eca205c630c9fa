<script setup lang="ts">
import { useFileDialog } from '@vueuse/core'
import { FileUp } from '@lucide/vue'
import { printTag } from '#core/midi'
import { readNames } from '#core/midi/names'
import { readProperties } from '#core/midi/properties'
import {
  addressOf,
  ASSIGNMENT_FIELDS,
  assignmentEdits,
  assignmentsFrom,
  guessedColumns,
  hasHeadings,
  KIND_FACTS,
  modelOf,
  namesRows,
  propertyRows,
  readTable,
  type AssignmentField,
  type ControlKind,
  type Matching,
  type Message,
  type TableRow,
} from '#core/rig'
import { isJson, isXml } from '~/lib/destinations/read-list'
import { toast } from '~/lib/toast'

/** A table of what a controller sends, seen before it is written. */
const emit = defineEmits<{ done: [] }>()
const SHOWN = 8
/** A controller has no more to say than that, in letters. */
const MOST = 1_000_000
const DRAWABLE: readonly ControlKind[] = ['knob', 'encoder', 'fader', 'button', 'pad', 'footswitch', 'pedal']

const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()
const text = ref('')
const matching = ref<Matching<AssignmentField>>({})
const draw = ref<ControlKind | ''>('')

const tooLarge = `This table is larger than ${MOST / 1_000_000} MB: take out what is not needed.`
/** Why a file was refused. */
const refused = ref<string | null>(null)
type Lines = { ok: true; rows: readonly TableRow[]; left: readonly string[] } | { ok: false; message: string }
const table = computed((): Lines | null => {
  if (refused.value !== null) return { ok: false, message: refused.value }
  if (text.value.length > MOST) return { ok: false, message: tooLarge }
  if (text.value.trim() === '') return null
  if (isXml(text.value)) return readNameDocument(text.value)
  if (isJson(text.value)) return readOwnList(text.value)
  const read = readTable(text.value)
  return read.ok ? { ...read, left: [] } : read
})
/** What a device says of itself, as a table; what cannot stand there is named. */
function readOwnList(source: string): Lines {
  const read = readProperties(source)
  if (!read.ok) return read
  const { rows, left } = propertyRows(read.properties)
  return { ok: true, rows, left: [...read.left, ...left] }
}
function readNameDocument(source: string): Lines {
  const read = readNames(source)
  return read.ok ? { ok: true, rows: namesRows(read.names), left: read.left } : read
}
const SHOWN_LEFT = 4
const left = computed(() => (table.value?.ok ? table.value.left : []))
watch(text, () => (refused.value = null))
const rows = computed(() => (table.value?.ok ? table.value.rows : []))
watch(rows, (now) => (matching.value = guessedColumns(ASSIGNMENT_FIELDS, now)))
const dialog = useFileDialog({
  accept: '.csv,.tsv,.txt,.json,.midnam,.xml,text/csv,text/plain,application/json',
  multiple: false,
  reset: true,
})
dialog.onChange(async (files) => {
  const file = files?.[0]
  if (!file) return
  try {
    refused.value = file.size > MOST ? tooLarge : null
    if (refused.value === null) text.value = await file.text()
  } catch {
    refused.value = 'The browser could not read the file. Choose it again.'
  }
})

const model = computed(() => (rigs.rig && desk.controller ? modelOf(rigs.rig, desk.controller) : null))
const found = computed(() => {
  const { controller, template } = desk
  if (!rigs.rig || !controller || !template || !model.value) return null
  return assignmentsFrom(rows.value, matching.value, {
    controller,
    template,
    model: model.value,
    middleC: rigs.rig.middleC,
    draw: draw.value === '' ? null : draw.value,
  })
})
const printed = (message: Message | undefined): string => {
  const address = message ? addressOf(message) : null
  return address ? printTag(address) : ''
}
const lines = computed(() =>
  (found.value?.items ?? []).slice(0, SHOWN).map(({ label, before, assignment }) => ({
    label,
    before: printed(before?.messages[0]) || 'nothing',
    after: printed(assignment.messages[0]),
  })),
)

function write(): void {
  if (!found.value || !model.value || !desk.controller) return
  const { items, bad } = found.value
  if (!edit(`Read a table for ${desk.controller.name}`, assignmentEdits(model.value, found.value))) return
  toast(`${items.length} lines written.${bad.length > 0 ? ` ${bad.length} lines were left out.` : ''}`)
  emit('done')
}
</script>

<template>
  <div
    class="bg-sheet min-h-0 flex-1 overflow-auto px-4 py-3 text-xs"
    data-testid="read-assignments"
    @keydown.esc.stop="emit('done')"
  >
    <h2 class="text-base font-bold">
      Read a table of what {{ desk.controller?.name }} sends<template
        v-if="(desk.controller?.templates.length ?? 0) > 1"
        >, into {{ desk.template?.name }}</template
      >
    </h2>
    <p class="text-soft mt-1 max-w-prose">
      Paste cells from a spreadsheet, or choose a file (CSV), or the list that the hardware gives by MIDI-CI
      property exchange (JSON). A line names a control and what it sends: an address such as 1:cc20, or
      channel and number. Nothing is written before you have seen it.
    </p>
    <div class="mt-2 flex items-start gap-2">
      <textarea
        v-model="text"
        class="bg-raised border-line tag h-24 w-[32rem] rounded-md border p-2"
        placeholder="Control, Channel, Number, From, To"
        aria-label="The table as text"
        spellcheck="false"
        data-testid="table-text"
      />
      <UiButton @click="dialog.open()"><FileUp :size="13" />Choose a file</UiButton>
      <UiButton look="plain" @click="emit('done')">Cancel</UiButton>
    </div>
    <p
      v-if="table && !table.ok"
      class="bg-conflict-soft text-conflict border-conflict mt-3 max-w-prose rounded-md border px-3 py-2 font-medium"
      role="alert"
    >
      {{ table.message }} Nothing was written.
    </p>
    <template v-else-if="found && rows.length > 0">
      <p class="mt-3 font-medium">
        {{ rows.length }} lines{{
          hasHeadings(ASSIGNMENT_FIELDS, rows) ? ', the first names the columns' : ''
        }}. What is in which column?
      </p>
      <TableColumns
        v-model="matching"
        class="mt-1.5"
        :rows="rows"
        :fields="ASSIGNMENT_FIELDS"
        data-testid="table-preview"
      />
      <p v-if="found.missing.length > 0 || found.drawn.length > 0" class="mt-3 flex items-center gap-2">
        {{ found.missing.length || found.drawn.length }} controls are not on the surface:
        <select
          v-model="draw"
          class="bg-raised border-line h-7 rounded-md border px-1"
          aria-label="Controls that are not on the surface"
          data-testid="draw-missing"
        >
          <option value="">leave them out</option>
          <option v-for="kind in DRAWABLE" :key="kind" :value="kind">
            draw them as {{ KIND_FACTS[kind].plural.toLowerCase() }}
          </option>
        </select>
      </p>
      <ul v-if="lines.length > 0" class="mt-3" data-testid="read-lines">
        <li v-for="(line, index) in lines" :key="index">
          {{ line.label }}: <span class="tag text-soft">{{ line.before }}</span> becomes
          <span class="tag">{{ line.after }}</span>
        </li>
        <li v-if="found.items.length > lines.length" class="text-soft">
          and {{ found.items.length - lines.length }} more
        </li>
      </ul>
      <ul v-if="left.length > 0" class="text-advice mt-2" data-testid="read-left">
        <li v-for="line in left.slice(0, SHOWN_LEFT)" :key="line">{{ line }}</li>
        <li v-if="left.length > SHOWN_LEFT">and {{ left.length - SHOWN_LEFT }} more</li>
      </ul>
      <BadLines class="mt-2" :bad="found.bad" />
      <UiButton
        look="strong"
        class="mt-3"
        :disabled="found.items.length === 0"
        data-testid="write-lines"
        @click="write"
        >Write {{ found.items.length }} lines</UiButton
      >
    </template>
  </div>
</template>
