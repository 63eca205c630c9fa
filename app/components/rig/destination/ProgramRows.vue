<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { occupancyOf } from '#core/addresses'
import { sendersTo } from '#core/mappings'
import { placeName, type Destination } from '#core/rig'
import { programShown, shownProgram } from '#core/values'

/** The presets of a destination in its own counting, with what is sent for each and who sends it. */
const { destination } = defineProps<{ destination: Destination }>()
const rigs = useRigStore()
const edit = useEdit()

type Program = Destination['programs'][number]
const set = (label: string, programs: Program[]): boolean =>
  edit(label, [{ type: 'destination-set', destination: destination.id, set: { programs } }])
const occupancy = computed(() => (rigs.rig ? occupancyOf(rigs.rig) : null))
const lines = computed(() =>
  destination.programs.map((program) => {
    const { rig } = rigs
    const senders = (
      rig && occupancy.value ? sendersTo(occupancy.value, destination, 'program', program.number) : []
    ).filter(({ message }) => {
      const bank = message.kind === 'program' ? message.bank : null
      return bank === null || (bank.msb === program.bank?.msb && bank.lsb === program.bank.lsb)
    })
    return {
      program,
      key: `${program.bank?.msb}.${program.bank?.lsb}.${program.number}`,
      shown: shownProgram(program.number, destination.countsFrom),
      sent: rig
        ? senders.slice(0, 3).map(({ place }) => {
            const { gesture, layer, controller } = placeName(rig, place)
            return `${gesture}${layer === null ? '' : ` in ${layer}`} (${controller})`
          })
        : [],
    }
  }),
)
const textOf = (event: Event): string => (event.target as HTMLInputElement).value.trim()
const put = (program: Program, change: Partial<Program>): boolean =>
  set(
    'Change a preset',
    destination.programs.map((each) => (each === program ? { ...each, ...change } : each)),
  )
function renumber(program: Program, event: Event): void {
  const number = programShown(Number(textOf(event)), destination.countsFrom)
  if (number === null || !put(program, { number }))
    (event.target as HTMLInputElement).value = String(shownProgram(program.number, destination.countsFrom))
}
function rebank(program: Program, event: Event): void {
  const [, msb, lsb] = /^(\d{1,3})\.(\d{1,3})$/.exec(textOf(event)) ?? []
  const bank = msb === undefined ? null : { msb: Number(msb), lsb: Number(lsb) }
  if ((bank === null && textOf(event) !== '') || !put(program, { bank }))
    (event.target as HTMLInputElement).value = program.bank ? `${program.bank.msb}.${program.bank.lsb}` : ''
}
function add(): void {
  const last = destination.programs.at(-1)
  const bank = last?.bank ?? null
  const isTaken = (number: number): boolean =>
    destination.programs.some(
      (each) => each.number === number && each.bank?.msb === bank?.msb && each.bank?.lsb === bank?.lsb,
    )
  let number = Math.min(127, (last?.number ?? -1) + 1)
  for (let tried = 0; isTaken(number) && tried < 128; tried++) number = (number + 1) % 128
  set('Add a preset', [
    ...destination.programs,
    { number, bank, name: `Preset ${destination.programs.length + 1}` },
  ])
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
              :value="program.bank ? `${program.bank.msb}.${program.bank.lsb}` : ''"
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
    <UiButton class="mt-2" @click="add"><Plus :size="13" />Add a preset</UiButton>
  </div>
</template>
