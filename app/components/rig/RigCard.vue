<script setup lang="ts">
import { Handle, Position } from '@vue-flow/core'
import { portRows, type Card } from '~/lib/rig-picture'

/** One device in the picture: its name, what it hears and keeps, and its ports to cable. */
const { card, isSelected } = defineProps<{ card: Card; isSelected: boolean; isUnfolded: boolean }>()
const emit = defineEmits<{ pick: []; fold: [] }>()

const rows = computed(() => portRows(card))
</script>

<template>
  <div
    class="bg-raised rounded-lg border pb-2 text-left"
    :class="[isSelected ? 'border-ink ring-marker ring-3' : 'border-line', card.isQuiet && 'opacity-60']"
    :data-card="card.id"
  >
    <button
      type="button"
      class="flex h-8 w-full items-center gap-2 px-2.5 text-left"
      :aria-pressed="isSelected"
      @click="emit('pick')"
    >
      <LetterBadge v-if="card.hue !== null" :letter="card.letter" :hue="card.hue" />
      <span class="truncate text-sm font-bold">{{ card.name }}</span>
      <span v-if="card.kind !== 'controller'" class="text-soft text-2xs ml-auto">{{ card.kind }}</span>
    </button>
    <p
      v-for="line in card.lines"
      :key="line"
      class="text-soft text-2xs h-[17px] truncate px-2.5 leading-[17px]"
      :title="line"
    >
      {{ line }}
    </p>
    <div
      v-for="row in rows"
      :key="row.port"
      class="relative flex h-[22px] items-center px-3.5 text-xs"
      :class="row.isOut && !row.isIn && 'justify-end'"
    >
      <Handle
        v-if="row.isIn"
        :id="`in:${row.port}`"
        type="target"
        :position="Position.Left"
        aria-hidden="true"
      />
      <span class="truncate">{{ row.name }}</span>
      <Handle
        v-if="row.isOut"
        :id="`out:${row.port}`"
        type="source"
        :position="Position.Right"
        aria-hidden="true"
      />
    </div>
    <button
      v-if="card.folded > 0 || isUnfolded"
      type="button"
      class="text-soft hover:text-ink nodrag flex h-[22px] w-full items-center px-3.5 text-left text-xs underline"
      :aria-expanded="isUnfolded"
      @click="emit('fold')"
    >
      {{ isUnfolded ? 'Fold the ports' : `${card.folded} more ports` }}
    </button>
  </div>
</template>
