<script setup lang="ts" generic="T extends string">
/** A few views of one thing, of which one shows. */
const {
  tabs,
  label,
  attribute = 'data-tab',
  isSmall = false,
} = defineProps<{
  tabs: ReadonlyArray<{ id: T; name: string; hint?: string | number }>
  /** What the strip chooses, for screen readers. */
  label: string
  /** The attribute that carries a tab's id. */
  attribute?: `data-${string}`
  isSmall?: boolean
}>()
const model = defineModel<T>({ required: true })
</script>

<template>
  <div class="flex flex-wrap" role="tablist" :aria-label="label">
    <button
      v-for="tab in tabs"
      :key="tab.id"
      type="button"
      role="tab"
      :aria-selected="model === tab.id"
      class="rounded-md font-medium whitespace-nowrap"
      :class="[
        isSmall ? 'h-6 px-2 text-xs' : 'h-7 px-2.5',
        model === tab.id ? 'bg-ink text-sheet' : 'text-soft hover:text-ink',
      ]"
      v-bind="{ [attribute]: tab.id }"
      @click="model = tab.id"
    >
      {{ tab.name }} <span v-if="tab.hint !== undefined" class="text-2xs">{{ tab.hint }}</span>
    </button>
  </div>
</template>
