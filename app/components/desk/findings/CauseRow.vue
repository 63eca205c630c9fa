<script setup lang="ts">
import { ChevronRight } from '@lucide/vue'
import type { Cause } from '#core/conflicts/causes'

/** Findings with one cause as one line: how many, and how many controls it touches. */
const { cause, isOpen } = defineProps<{ cause: Cause; isOpen: boolean }>()
const emit = defineEmits<{ toggle: [] }>()
const desk = useDeskStore()
const isVisited = computed(() => !isOpen && cause.findings.some(({ id }) => id === desk.findingId))
const controls = computed(() =>
  cause.controls === 0 ? '' : cause.controls === 1 ? '1 control' : `${cause.controls} controls`,
)
</script>

<template>
  <button
    type="button"
    class="border-line bg-raised hover:border-ink flex min-h-9 w-full items-center gap-2 rounded-md border px-2.5 py-1.5 text-left"
    :class="isVisited && 'ring-ink ring-2'"
    :aria-expanded="isOpen"
    :data-cause="cause.id"
    @click="emit('toggle')"
  >
    <SeverityMark :severity="cause.severity" class="mt-0!" />
    <span class="min-w-0 flex-1 font-bold">{{ cause.title }}</span>
    <span class="text-soft text-xs whitespace-nowrap">{{ controls }}</span>
    <span class="tag text-soft text-xs whitespace-nowrap" :aria-label="`${cause.findings.length} findings`">{{
      cause.findings.length
    }}</span>
    <ChevronRight :size="14" class="shrink-0" :class="isOpen && 'rotate-90'" aria-hidden="true" />
  </button>
</template>
