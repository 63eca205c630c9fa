<script setup lang="ts">
import { cellKey, type ParameterLine } from '#core/addresses'
import type { Finding } from '#core/conflicts'
import { listenersAt } from '#core/mappings'
import { printTag, registeredParameterName } from '#core/midi'
import { placeName } from '#core/rig'

/** NRPN and RPN that arrive: their numbers are too many for a lattice. */
const { lines, destinations, marks } = defineProps<{
  lines: readonly ParameterLine[]
  destinations: readonly string[]
  marks: ReadonlyMap<number, Finding>
}>()
const desk = useDeskStore()
const rigs = useRigStore()

const shown = computed(() =>
  lines.map((line) => {
    const { rig } = rigs
    const { kind, channel, number, owners } = line
    const names = owners.map(({ place }) => {
      const { controller, gesture, layer } = rig
        ? placeName(rig, place)
        : { controller: '', gesture: '', layer: null }
      return { place, text: `${controller} · ${gesture}${layer === null ? '' : ` in ${layer}`}` }
    })
    return {
      key: `${channel} ${kind} ${number}`,
      tag: printTag({ scope: 'channel', channel, target: { kind, number } }),
      bytes: `${number >> 7} / ${number & 127}`,
      meaning: kind === 'rpn' ? (registeredParameterName(number) ?? '') : '',
      moves: rig ? listenersAt(rig, destinations, { kind, channel, number }).join(', ') : '',
      names,
      isSelected: owners.some(({ gesture }) => desk.selectedRefs.has(gesture)),
      finding: marks.get(cellKey({ kind, channel, number })) ?? null,
    }
  }),
)
</script>

<template>
  <div class="px-4 pb-3">
    <p v-if="shown.length === 0" class="text-soft py-4 text-center">
      No NRPN or RPN arrives here. Choose NRPN or RPN as the message of a control, in its sentence.
    </p>
    <table v-else class="w-full table-fixed text-left" data-testid="parameters">
      <thead class="text-soft text-xs">
        <tr>
          <th class="w-28 py-1 pr-4 font-medium">Address</th>
          <th class="w-32 pr-4 font-medium whitespace-nowrap">High / low part</th>
          <th class="w-72 pr-4 font-medium">Sent by</th>
          <th class="w-60 pr-4 font-medium">Moves</th>
          <th class="font-medium">Trouble</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="line in shown"
          :key="line.key"
          class="border-hair border-t align-top"
          :class="line.isSelected && 'bg-marker text-on-marker'"
        >
          <td class="tag py-1.5 pr-4 font-bold">{{ line.tag }}</td>
          <td class="tag py-1.5 pr-4">{{ line.bytes }}</td>
          <td class="py-1.5 pr-4">
            <button
              v-for="{ place, text } in line.names"
              :key="text"
              type="button"
              class="block text-left hover:underline"
              @click="desk.goTo(place)"
            >
              {{ text }}
            </button>
          </td>
          <td class="py-1.5 pr-4">{{ line.moves || line.meaning || 'nothing that is known' }}</td>
          <td class="py-1.5">
            <span v-if="line.finding" class="flex gap-1.5"
              ><SeverityMark :severity="line.finding.severity" />{{ line.finding.message }}</span
            >
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
