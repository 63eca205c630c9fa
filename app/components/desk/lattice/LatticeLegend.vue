<script setup lang="ts">
import type { Family } from '#core/addresses'

const { family } = defineProps<{ family: Family }>()
</script>

<template>
  <ul class="text-soft flex flex-wrap items-center gap-x-4 text-xs whitespace-nowrap" aria-label="Legend">
    <li class="flex items-center gap-1.5">
      <svg width="12" height="12" aria-hidden="true">
        <rect x="0.5" y="0.5" width="11" height="11" rx="1.5" class="fill-conflict-soft stroke-conflict" />
        <path d="M0 8l4 4M0 2l10 10M5 0l7 7" class="stroke-conflict" />
      </svg>
      conflict
    </li>
    <li class="flex items-center gap-1.5">
      <svg width="12" height="12" aria-hidden="true">
        <rect width="12" height="12" class="fill-hair" />
        <path d="M-2 10L10 -2M2 14L14 2" class="stroke-faint" />
      </svg>
      kept
    </li>
    <li v-if="family !== 'program'" class="flex items-center gap-1.5">
      <svg width="12" height="12" aria-hidden="true"><rect width="12" height="12" class="fill-known" /></svg>
      {{ family === 'cc' ? 'well known' : 'black keys' }}
    </li>
    <li class="flex items-center gap-1.5">
      <svg width="12" height="12" aria-hidden="true">
        <path d="M0 7.5h12M0 10h12" class="stroke-accord" />
      </svg>
      shared on purpose
    </li>
  </ul>
</template>
