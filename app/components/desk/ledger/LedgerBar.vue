<script setup lang="ts">
const { count, columns } = defineProps<{
  count: number
  columns: ReadonlyArray<{ id: string; name: string; isShown: boolean }>
}>()
const emit = defineEmits<{ toggleColumn: [id: string] }>()
const text = defineModel<string>('text', { required: true })
const controller = defineModel<string>('controller', { required: true })
const findings = defineModel<boolean>('findings', { required: true })
const sending = defineModel<boolean>('sending', { required: true })
const desk = useDeskStore()
</script>

<template>
  <div class="border-line flex h-10 shrink-0 items-center gap-2.5 border-b px-4 text-xs whitespace-nowrap">
    <input
      v-model="text"
      type="search"
      class="bg-raised border-line h-7 w-44 rounded-md border px-2 text-sm"
      placeholder="Search the lines"
      aria-label="Search the lines"
      data-testid="ledger-search"
    />
    <select
      v-model="controller"
      aria-label="Controller"
      class="bg-raised border-line h-7 rounded-md border px-1.5"
    >
      <option value="">all controllers</option>
      <option v-for="each in desk.controllers" :key="each.id" :value="each.id">{{ each.name }}</option>
    </select>
    <label class="flex items-center gap-1.5"
      ><input v-model="findings" type="checkbox" class="accent-ink" />with findings</label
    >
    <label class="flex items-center gap-1.5"
      ><input v-model="sending" type="checkbox" class="accent-ink" />that send</label
    >
    <details class="relative ml-auto">
      <summary class="text-soft list-none font-medium">Columns</summary>
      <div class="bg-raised border-line shadow-float absolute right-0 z-20 mt-1 rounded-md border p-2">
        <label v-for="column in columns" :key="column.id" class="flex items-center gap-2 py-0.5">
          <input
            type="checkbox"
            class="accent-ink"
            :checked="column.isShown"
            @change="emit('toggleColumn', column.id)"
          />{{ column.name }}
        </label>
      </div>
    </details>
    <span class="text-soft">{{ count }} lines</span>
  </div>
</template>
