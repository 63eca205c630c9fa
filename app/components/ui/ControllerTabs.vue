<script setup lang="ts">
import type { Controller } from '#core/rig'

/** The controllers of a view, of which one shows. */
const { controllers, shown } = defineProps<{
  controllers: readonly Controller[]
  shown: Controller | null
}>()
const emit = defineEmits<{ choose: [id: string] }>()
</script>

<template>
  <div class="flex max-w-full min-w-24 gap-1 overflow-x-auto" role="tablist" aria-label="Controllers">
    <button
      v-for="controller in controllers"
      :key="controller.id"
      type="button"
      role="tab"
      :data-controller="controller.id"
      :aria-selected="controller === shown"
      class="flex h-8 items-center gap-2 rounded-md border px-2.5 whitespace-nowrap"
      :class="[
        controller === shown
          ? 'bg-raised border-line font-bold'
          : 'text-soft hover:text-ink border-transparent font-medium',
        !controller.inUse && 'italic',
      ]"
      :style="controller === shown ? { boxShadow: `inset 0 -2px 0 var(--hue-${controller.hue})` } : {}"
      @click="emit('choose', controller.id)"
    >
      <LetterBadge :letter="controller.letter" :hue="controller.hue" />
      <span class="max-w-56 truncate" :title="controller.name">{{ controller.name }}</span>
      <span v-if="!controller.inUse" class="text-soft text-2xs">put away</span>
    </button>
  </div>
</template>
