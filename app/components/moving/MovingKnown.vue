<script setup lang="ts">
import type { KnownWords } from '~/lib/moving/words'

/** What is known of one gesture: where it lands, what it is, and what would settle it. */
const { known } = defineProps<{ known: KnownWords }>()
const SURE = {
  sure: { name: 'sure', class: 'bg-marker text-on-marker' },
  open: { name: 'not sure yet', class: 'border-line border border-dashed' },
  along: null,
} as const
const mark = computed(() => SURE[known.state])
</script>

<template>
  <div class="text-xs">
    <p class="flex items-baseline gap-2">
      <span class="text-soft w-14 shrink-0">{{ known.verb }}</span>
      <span class="tag shrink-0 font-bold">{{ known.tag }}</span>
      <span class="min-w-0 flex-1">{{ known.words }}</span>
      <span v-if="mark" class="shrink-0 rounded-sm px-1.5 font-bold" :class="mark.class">{{
        mark.name
      }}</span>
    </p>
    <p v-if="known.todo" class="text-soft pl-16">{{ known.todo }}</p>
    <slot />
  </div>
</template>
