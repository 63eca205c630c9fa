<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { Plus } from '@lucide/vue'
import { newController, STARTERS, type Starter } from '#core/rig'
import { focusWhenThere } from '~/lib/focus'
import { inkedPaths } from '#core/sheets/drawing'

const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()
const emit = defineEmits<{ done: [] }>()

const starter = shallowRef<Starter>(STARTERS[0]!)
const sizes = ref<Record<string, number>>({})
const name = ref('')
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
const surface = computed(() => (wrong.value ? null : starter.value.make(sizes.value)))

function make(): void {
  if (!rigs.rig || !surface.value) return
  const label = name.value.trim() || starter.value.name
  const { controller, model } = newController(rigs.rig, label, surface.value)
  if (!edit(`Add ${label}`, [{ type: 'controller-add', controller, model }])) return
  desk.chooseController(controller.id)
  desk.panel = 'draw'
  emit('done')
  // The next thing to do is to draw on.
  focusWhenThere('#add-kind')
}
</script>

<template>
  <Dialog open class="relative z-50" @close="emit('done')">
    <div class="bg-ink/40 fixed inset-0" aria-hidden="true" />
    <div class="fixed inset-0 grid place-items-center p-6">
      <DialogPanel
        class="bg-sheet border-line shadow-float grid max-h-full w-full max-w-3xl grid-cols-[13rem_1fr] overflow-auto rounded-lg border"
        data-testid="new-controller"
      >
        <ul class="border-line border-r p-3">
          <li v-for="each in STARTERS" :key="each.id">
            <button
              type="button"
              class="w-full rounded-md border px-2.5 py-1.5 text-left"
              :class="
                each === starter
                  ? 'bg-raised border-line font-bold'
                  : 'text-soft hover:text-ink border-transparent font-medium'
              "
              :aria-pressed="each === starter"
              @click="starter = each"
            >
              {{ each.name }}
            </button>
          </li>
        </ul>
        <form class="flex flex-col p-5" @submit.prevent="make">
          <DialogTitle class="text-lg font-bold">New controller</DialogTitle>
          <p class="text-soft">{{ starter.about }} Draw on from there.</p>
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
                class="bg-raised border-line tag text-ink mt-0.5 block h-7 w-20 rounded-md border px-1.5"
              />
            </label>
          </div>
          <p v-if="wrong" class="text-conflict mt-1 text-xs font-medium" role="alert">
            {{ wrong.label }}: {{ wrong.low }} to {{ wrong.high }}.
          </p>
          <svg
            v-if="surface"
            class="border-line mt-3 h-56 w-full rounded-md border"
            :viewBox="`-6 -6 ${surface.width + 12} ${surface.height + 12}`"
            aria-hidden="true"
          >
            <rect
              :width="surface.width"
              :height="surface.height"
              rx="6"
              class="fill-raised stroke-line"
              vector-effect="non-scaling-stroke"
            />
            <g v-for="control in surface.controls" :key="control.id" class="fill-none stroke-ink">
              <path
                v-for="(path, index) in inkedPaths(control, 1)"
                :key="index"
                :d="path.d"
                vector-effect="non-scaling-stroke"
                :class="path.ink === 'dark' && 'fill-ink'"
              />
            </g>
          </svg>
          <div class="mt-4 flex justify-end gap-1.5">
            <UiButton @click="emit('done')">Cancel</UiButton>
            <UiButton type="submit" look="strong" :disabled="surface === null"
              ><Plus :size="13" />Add it</UiButton
            >
          </div>
        </form>
      </DialogPanel>
    </div>
  </Dialog>
</template>
