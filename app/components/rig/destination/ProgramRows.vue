<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { occupancyOf } from '#core/addresses'
import { heardPrograms } from '#core/mappings'
import { parseBank, printBank, programKey } from '#core/midi'
import { newPreset, placeName, type Destination, type Place, type Rig } from '#core/rig'
import { programShown, shownProgram } from '#core/values'
import { toast } from '~/lib/toast'

/** The presets of a destination in its own counting, with what is sent for each and who sends it. */
const { destination } = defineProps<{ destination: Destination }>()
const rigs = useRigStore()
const edit = useEdit()

/** Of many who send a program, so many are named. */
const MOST_NAMED = 3

type Program = Destination['programs'][number]
const set = (label: string, programs: Program[]): boolean =>
  edit(label, [{ type: 'destination-set', destination: destination.id, set: { programs } }])
const where = (rig: Rig, place: Place): string => {
  const { gesture, layer, controller } = placeName(rig, place)
  return `${gesture}${layer === null ? '' : ` in ${layer}`} (${controller})`
}
const lines = computed(() => {
  const { rig } = rigs
  if (!rig) return []
  return heardPrograms(occupancyOf(rig), destination).map(({ program, by }) => ({
    program,
    key: programKey(program),
    shown: shownProgram(program.number, destination.countsFrom),
    sent: by.slice(0, MOST_NAMED).map(({ place }) => where(rig, place)),
  }))
})
const added = computed(() => newPreset(destination))
const textOf = (event: Event): string => (event.target as HTMLInputElement).value.trim()
const put = (program: Program, change: Partial<Program>): boolean =>
  set(
    'Change a preset',
    destination.programs.map((each) => (each === program ? { ...each, ...change } : each)),
  )
function renumber(program: Program, event: Event): void {
  const { countsFrom } = destination
  const text = textOf(event)
  const number = /^\d+$/.test(text) ? programShown(Number(text), countsFrom) : null
  if (number === null)
    toast.error(`There is no preset “${text}”: they run from ${countsFrom} to ${127 + countsFrom}.`)
  if (number === null || !put(program, { number }))
    (event.target as HTMLInputElement).value = String(shownProgram(program.number, countsFrom))
}
function rebank(program: Program, event: Event): void {
  const bank = parseBank(textOf(event))
  if (typeof bank === 'string') toast.error(bank)
  if (typeof bank === 'string' || !put(program, { bank }))
    (event.target as HTMLInputElement).value = printBank(program.bank)
}
function add(): void {
  if (added.value) set('Add a preset', [...destination.programs, added.value])
}
const FIELD = 'border-line bg-raised h-7 rounded-md border px-1.5'
</script>

<template>
  <div class="min-h-0 flex-1 overflow-auto px-4 py-2 text-xs">
    <p v-if="lines.length === 0" class="text-soft py-2">
      No preset is written down yet. Add them, or read a list.
    </p>
    <table v-else class="text-left">
      <thead class="text-soft">
        <tr>
          <th class="py-1 pr-3 font-medium">Preset</th>
          <th class="pr-3 font-medium">Bank</th>
          <th class="pr-3 font-medium">Name</th>
          <th class="pr-3 font-medium">Sends program</th>
          <th class="pr-3 font-medium">Chosen by</th>
          <th class="sr-only">Remove</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ program, key, shown, sent } in lines" :key="key" class="border-hair border-t">
          <td class="py-0.5 pr-3">
            <input
              :class="FIELD"
              class="tag w-14"
              aria-label="Preset number as the destination shows it"
              :value="shown"
              @change="renumber(program, $event)"
            />
          </td>
          <td class="pr-3">
            <input
              :class="FIELD"
              class="tag w-16"
              aria-label="Bank, two numbers with a point"
              placeholder="none"
              :value="printBank(program.bank)"
              @change="rebank(program, $event)"
            />
          </td>
          <td class="pr-3">
            <input
              :class="FIELD"
              class="w-52"
              aria-label="Name"
              maxlength="120"
              :value="program.name"
              @change="put(program, { name: textOf($event) })"
            />
          </td>
          <td class="tag text-soft pr-3">{{ program.number }}</td>
          <td class="pr-3">
            {{ sent.join(', ') }}<span v-if="sent.length === 0" class="text-soft">nothing</span>
          </td>
          <td>
            <UiButton
              look="plain"
              class="px-1!"
              :label="`Remove ${program.name}`"
              @click="
                set(
                  `Remove ${program.name}`,
                  destination.programs.filter((each) => each !== program),
                )
              "
              ><X :size="13"
            /></UiButton>
          </td>
        </tr>
      </tbody>
    </table>
    <UiButton class="mt-2" :disabled="!added" @click="add"><Plus :size="13" />Add a preset</UiButton>
  </div>
</template>
