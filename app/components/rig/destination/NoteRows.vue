<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { occupancyOf } from '#core/addresses'
import { heardNotes } from '#core/mappings'
import { noteName, parseNote } from '#core/midi'
import { newSound, placeName, type Destination, type Place } from '#core/rig'
import { toast } from '~/lib/toast'

/** The sounds or articulations of a destination by note, with the gaps between, and who plays them. */
const { destination } = defineProps<{ destination: Destination }>()
const rigs = useRigStore()
const desk = useDeskStore()
const edit = useEdit()

/** Of many who play a note, so many are named. */
const MOST_NAMED = 3

type Named = Destination['noteNames'][number]
const set = (label: string, noteNames: Named[]): boolean =>
  edit(label, [{ type: 'destination-set', destination: destination.id, set: { noteNames } }])
const lines = computed(() => {
  const { rig } = rigs
  if (!rig) return []
  return heardNotes(occupancyOf(rig), destination).map(({ named, gap, by }) => ({
    named,
    gap,
    written: noteName(named.number, destination.middleC),
    played: by.slice(0, MOST_NAMED).map(({ key, place }) => ({ key, place, name: placeName(rig, place) })),
  }))
})
const added = computed(() => newSound(destination))
const textOf = (event: Event): string => (event.target as HTMLInputElement).value.trim()
const put = (named: Named, change: Partial<Named>): boolean =>
  set(
    'Name a note',
    destination.noteNames.map((each) => (each === named ? { ...each, ...change } : each)),
  )
function renumber(named: Named, event: Event): void {
  const text = textOf(event)
  const number = parseNote(text, destination.middleC)
  if (number === null) toast.error(`“${text}” is no note: write 0 to 127, or a name such as C3.`)
  if (number === null || !put(named, { number }))
    (event.target as HTMLInputElement).value = String(named.number)
}
function add(): void {
  if (added.value) set('Add a sound', [...destination.noteNames, added.value])
}
const go = async (place: Place): Promise<void> => {
  desk.goTo(place)
  await navigateTo('/desk')
}
const FIELD = 'border-line bg-raised h-7 rounded-md border px-1.5'
</script>

<template>
  <div class="min-h-0 flex-1 overflow-auto px-4 py-2 text-xs">
    <p v-if="lines.length === 0" class="text-soft py-2">
      No note has a name yet. Add drum sounds or articulations, or read a list.
    </p>
    <table v-else class="text-left">
      <thead class="text-soft">
        <tr>
          <th class="py-1 pr-3 font-medium">Note</th>
          <th class="pr-3 font-medium">Number</th>
          <th class="pr-3 font-medium">Sound</th>
          <th class="pr-3 font-medium">Played by</th>
          <th class="sr-only">Remove</th>
        </tr>
      </thead>
      <tbody>
        <template v-for="{ named, written, gap, played } in lines" :key="named.number">
          <tr v-if="gap > 0" class="text-soft">
            <td colspan="5" class="border-hair border-t border-dashed py-0.5">
              {{ gap === 1 ? 'one note' : `${gap} notes` }} without a sound
            </td>
          </tr>
          <tr class="border-hair border-t">
            <td class="tag py-0.5 pr-3 font-bold">{{ written }}</td>
            <td class="pr-3">
              <input
                :class="FIELD"
                class="tag w-16"
                aria-label="Note number or name"
                :value="named.number"
                @change="renumber(named, $event)"
              />
            </td>
            <td class="pr-3">
              <input
                :class="FIELD"
                class="w-52"
                aria-label="Sound"
                maxlength="120"
                :value="named.name"
                @change="put(named, { name: textOf($event) })"
              />
            </td>
            <td class="pr-3">
              <button
                v-for="{ key, place, name } in played"
                :key="key"
                type="button"
                class="mr-2 hover:underline"
                @click="go(place)"
              >
                {{ name.gesture }}{{ name.layer === null ? '' : ` in ${name.layer}` }} ({{ name.controller }})
              </button>
              <span v-if="played.length === 0" class="text-soft">nothing</span>
            </td>
            <td>
              <UiButton
                look="plain"
                class="px-1!"
                :label="`Remove ${named.name}`"
                @click="
                  set(
                    `Remove ${named.name}`,
                    destination.noteNames.filter((each) => each !== named),
                  )
                "
                ><X :size="13"
              /></UiButton>
            </td>
          </tr>
        </template>
      </tbody>
    </table>
    <UiButton class="mt-2" :disabled="!added" @click="add"><Plus :size="13" />Add a sound</UiButton>
  </div>
</template>
