<script setup lang="ts" generic="T extends string | null">
import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/vue'
import { Check, ChevronDown } from '@lucide/vue'

export interface SelectOption<V> {
  value: V
  label: string
  /** A few words beside the label. */
  hint?: string
}

const {
  options,
  label,
  caption = '',
  isRight = false,
} = defineProps<{
  options: ReadonlyArray<SelectOption<T>>
  /** The name of the field, for screen readers. */
  label: string
  /** Shown before the chosen option. */
  caption?: string
  /** Do its options end where it ends, for it stands at the right edge? */
  isRight?: boolean
}>()
const model = defineModel<T>({ required: true })
const opener = useTemplateRef<{ $el: HTMLElement }>('opener')
const list = useTemplateRef<{ $el: HTMLElement }>('list')
const laid = useOverlay(
  () => opener.value?.$el ?? null,
  () => (list.value?.$el instanceof HTMLElement ? list.value.$el : null),
  () => isRight,
)
const chosen = computed(() => options.find(({ value }) => value === model.value))
</script>

<template>
  <Listbox v-model="model" as="div" class="relative">
    <ListboxButton
      ref="opener"
      class="bg-raised border-line hover:border-ink flex h-7 max-w-64 items-center gap-1.5 rounded-md border px-2.5 text-xs"
      :aria-label="`${label}: ${chosen?.label ?? 'none'}`"
    >
      <span v-if="caption" class="text-soft max-w-28 shrink-0 truncate">{{ caption }}</span>
      <span class="truncate font-bold">{{ chosen?.label ?? 'none' }}</span>
      <ChevronDown :size="13" class="text-soft shrink-0" aria-hidden="true" />
    </ListboxButton>
    <ListboxOptions
      ref="list"
      class="bg-raised border-line shadow-float z-30 overflow-auto rounded-md border py-1 text-xs"
      :style="laid"
    >
      <ListboxOption
        v-for="option in options"
        :key="String(option.value)"
        v-slot="{ active, selected }"
        :value="option.value"
      >
        <div
          class="flex items-center gap-2 px-2.5 py-1.5 whitespace-nowrap"
          :class="active && 'bg-marker text-on-marker'"
        >
          <Check :size="13" :class="selected ? '' : 'invisible'" aria-hidden="true" />
          <span :class="selected && 'font-bold'">{{ option.label }}</span>
          <span v-if="option.hint" class="ml-auto pl-3 opacity-75">{{ option.hint }}</span>
        </div>
      </ListboxOption>
    </ListboxOptions>
  </Listbox>
</template>
