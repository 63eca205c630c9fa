<script setup lang="ts">
import type { ReadProgress } from '~/workers/reader'

/** A file that is being read: how far it is, and a way to stop. Shown only once it takes time. */
const { name, progress } = defineProps<{ name: string; progress: ReadProgress }>()
const emit = defineEmits<{ stop: [] }>()
const SOON_MS = 250
const isShown = ref(false)
const timer = setTimeout(() => (isShown.value = true), SOON_MS)
onBeforeUnmount(() => clearTimeout(timer))
const percent = computed(() => Math.floor(progress.done * 100))
const WORDS: Readonly<Record<ReadProgress['stage'], string>> = {
  opening: 'Opening',
  checking: 'Checking',
}
</script>

<template>
  <div v-if="isShown" class="flex items-center gap-3" role="status" data-testid="reading">
    <span class="truncate"
      >{{ WORDS[progress.stage] }} “{{ name }}”… <span class="tag">{{ percent }} %</span></span
    >
    <progress class="h-1.5 w-40 shrink-0" :value="progress.done" max="1" :aria-label="`Reading ${name}`" />
    <UiButton class="shrink-0" @click="emit('stop')">Stop</UiButton>
  </div>
</template>
