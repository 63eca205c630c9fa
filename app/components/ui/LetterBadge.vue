<script setup lang="ts">
/** A controller's hue and letter: the hue never stands alone. */
const { letter, hue } = defineProps<{ letter: string; hue: number }>()
</script>

<template>
  <span
    class="inline-grid size-4 shrink-0 place-items-center rounded-[3px] text-[11px] leading-none font-bold"
    :style="{ background: `var(--hue-${hue})`, color: 'var(--on-hue)' }"
    aria-hidden="true"
    >{{ letter }}</span
  >
</template>
