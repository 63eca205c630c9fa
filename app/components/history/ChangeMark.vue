<script setup lang="ts">
import type { LineKind } from '#core/history'

/** How something stands, by shape as well as colour: a plus, a cross, an arrow, a ring. */
const { kind } = defineProps<{ kind: LineKind }>()
const WORDS: Readonly<Record<LineKind, string>> = {
  new: 'new',
  gone: 'gone',
  moved: 'moved',
  changed: 'changed',
}
const PATHS: Readonly<Record<LineKind, string>> = {
  new: 'M6 1.5v9M1.5 6h9',
  gone: 'M2 2l8 8M10 2l-8 8',
  moved: 'M1 6h9M6.5 2.5L10 6l-3.500 3.500',
  changed: 'M6 2.200a3.800 3.800 0 1 0 .01 0z',
}
</script>

<template>
  <svg viewBox="0 0 12 12" class="size-3 shrink-0" role="img" :aria-label="WORDS[kind]">
    <title>{{ WORDS[kind] }}</title>
    <path
      :d="PATHS[kind]"
      fill="none"
      stroke="currentColor"
      stroke-width="1.8"
      stroke-linecap="round"
      :class="kind === 'gone' ? 'text-conflict' : ''"
    />
  </svg>
</template>
