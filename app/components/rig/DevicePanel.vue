<script setup lang="ts">
import { Trash2 } from '@lucide/vue'
import type { Box, Computer } from '#core/rig'

/** A box between cables, or a computer with its ports. */
const { box = null, computer = null } = defineProps<{ box?: Box | null; computer?: Computer | null }>()
const edit = useEdit()
const KINDS: ReadonlyArray<Box['kind']> = ['merge', 'split', 'thru', 'filter']
const name = computed(() => (box ?? computer)?.name ?? '')

function rename(next: string): void {
  if (box) edit(`Name it ${next}`, [{ type: 'box-set', box: box.id, set: { name: next } }])
  if (computer) edit(`Name it ${next}`, [{ type: 'computer-set', computer: computer.id, name: next }])
}
function remove(): void {
  if (box) edit(`Remove ${box.name}`, [{ type: 'box-remove', box: box.id }])
  if (computer) edit(`Remove ${computer.name}`, [{ type: 'computer-remove', computer: computer.id }])
}
</script>

<template>
  <div class="flex flex-col gap-3 px-5 py-4" data-testid="device-panel">
    <div>
      <p class="text-soft text-xs font-medium">{{ box ? 'Box' : 'Computer' }}</p>
      <InlineName class="-ml-1.5 w-full text-lg font-bold!" :value="name" label="Name" @change="rename" />
    </div>
    <div v-if="box" class="flex gap-1.5">
      <ChipToggle
        v-for="kind in KINDS"
        :key="kind"
        :is-on="box.kind === kind"
        @click="edit(`A ${kind} box`, [{ type: 'box-set', box: box.id, set: { kind } }])"
        >{{ kind }}</ChipToggle
      >
    </div>
    <section v-if="computer">
      <h3 class="font-bold">May several programs open a port?</h3>
      <p v-for="port in computer.ports" :key="port.id" class="mt-1 flex items-center gap-1.5 text-xs">
        <span class="text-soft w-28 truncate">{{ port.name }}</span>
        <ChipToggle
          v-for="sharing in ['shared', 'exclusive'] as const"
          :key="sharing"
          :is-on="port.sharing === sharing"
          @click="
            edit(`${port.name} is ${sharing}`, [
              { type: 'port-set', owner: computer.id, port: port.id, set: { sharing } },
            ])
          "
          >{{ sharing === 'shared' ? 'several' : 'one at a time' }}</ChipToggle
        >
      </p>
    </section>
    <PortList
      class="border-line border-t pt-3"
      :owner="(box ?? computer)?.id ?? ''"
      :directions="computer ? ['out'] : ['in', 'out', 'thru']"
    />
    <UiButton class="self-start" @click="remove"><Trash2 :size="13" />Remove {{ name }}</UiButton>
  </div>
</template>
