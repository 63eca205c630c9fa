<script setup lang="ts" generic="S extends StarterShape">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { Plus } from '@lucide/vue'
import type { StarterShape } from '#core/rig'

/** Choose what to start from, its name and sizes; the slot shows what will come of it, and what else can be said. */
const { starters, title } = defineProps<{ starters: readonly S[]; title: string }>()
const emit = defineEmits<{ add: [isLast: boolean]; close: [] }>()
const starter = defineModel<S>('starter', { required: true })
const sizes = defineModel<Record<string, number>>('sizes', { required: true })
const name = defineModel<string>('name', { required: true })

watch(
  starter,
  (next) => {
    sizes.value = Object.fromEntries(next.fields.map(({ id, usual }) => [id, usual]))
  },
  { immediate: true },
)
const wrong = computed(() =>
  starter.value.fields.find(({ id, low, high }) => {
    const value = sizes.value[id]
    return value === undefined || !Number.isInteger(value) || value < low || value > high
  }),
)
function add(isLast: boolean): void {
  if (!wrong.value) emit('add', isLast)
}
</script>

<template>
  <Dialog open class="relative z-50" @close="emit('close')">
    <div class="bg-ink/40 fixed inset-0" aria-hidden="true" />
    <div class="fixed inset-0 grid place-items-center p-6">
      <DialogPanel
        class="bg-sheet border-line shadow-float grid max-h-full w-full max-w-3xl grid-cols-[13rem_1fr] overflow-auto rounded-lg border"
      >
        <ul class="border-line border-r p-3">
          <li v-for="each in starters" :key="each.id">
            <button
              type="button"
              class="w-full rounded-md border px-2.5 py-1.5 text-left"
              :class="
                each.id === starter.id
                  ? 'bg-raised border-line font-bold'
                  : 'text-soft hover:text-ink border-transparent font-medium'
              "
              :aria-pressed="each.id === starter.id"
              :data-starter="each.id"
              @click="starter = each"
            >
              {{ each.name }}
            </button>
          </li>
        </ul>
        <form class="flex min-h-[26rem] min-w-0 flex-col p-5" @submit.prevent="add(true)">
          <DialogTitle class="text-lg font-bold">{{ title }}</DialogTitle>
          <p class="text-soft">{{ starter.about }}</p>
          <div class="mt-3 flex flex-wrap items-end gap-3">
            <label class="text-soft text-xs"
              >Name<input
                v-model="name"
                class="bg-raised border-line text-ink mt-0.5 block h-7 w-44 rounded-md border px-2 text-sm"
                maxlength="120"
                :placeholder="starter.name"
            /></label>
            <label v-for="field in starter.fields" :key="field.id" class="text-soft text-xs">
              {{ field.label }}
              <input
                v-model.number="sizes[field.id]"
                type="number"
                :min="field.low"
                :max="field.high"
                :data-size="field.id"
                class="bg-raised border-line tag text-ink mt-0.5 block h-7 w-20 rounded-md border px-1.5"
              />
            </label>
          </div>
          <p v-if="wrong" class="text-conflict mt-1 text-xs font-medium" role="alert">
            {{ wrong.label }}: {{ wrong.low }} to {{ wrong.high }}.
          </p>
          <slot v-if="!wrong" />
          <div class="mt-auto flex justify-end gap-1.5 pt-4">
            <UiButton @click="emit('close')">Cancel</UiButton>
            <UiButton data-testid="add-another" :disabled="wrong !== undefined" @click="add(false)"
              >Add, then another</UiButton
            >
            <UiButton type="submit" look="strong" :disabled="wrong !== undefined"
              ><Plus :size="13" />Add it</UiButton
            >
          </div>
        </form>
      </DialogPanel>
    </div>
  </Dialog>
</template>
