<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { gesturesFree } from '~/lib/stacks'
import { freeId } from '#core/rig'

const desk = useDeskStore()
const edit = useEdit()
const count = ref(2)

/** The movements of what is selected that no stack changes yet. */
const gestures = computed(() => (desk.template ? gesturesFree(desk.template, desk.selected) : []))
const canMake = computed(
  () => gestures.value.length > 0 && Number.isInteger(count.value) && count.value >= 1 && count.value <= 64,
)

function make(): void {
  const { template, controller } = desk
  if (!template || !controller || !canMake.value) return
  const id = freeId('stack', template.stacks)
  const layers = template.stacks.flatMap((stack) => stack.layers)
  const made: Array<{ id: string }> = []
  for (let index = 0; index < count.value; index++) made.push({ id: freeId('layer', [...layers, ...made]) })
  const name = `Stack ${template.stacks.length + 1}`
  edit(`Make ${name}`, [
    {
      type: 'stack-add',
      controller: controller.id,
      template: template.id,
      stack: {
        id,
        name,
        gestures: gestures.value,
        mode: 'replace',
        powerUp: made[0]?.id ?? null,
        layers: made.map((layer, index) => ({
          ...layer,
          name: `Layer ${index + 1}`,
          colour: null,
          assignments: {},
        })),
      },
    },
  ])
}
</script>

<template>
  <form class="border-line border-t pt-3" data-testid="new-stack" @submit.prevent="make">
    <h3 class="font-bold">New stack</h3>
    <p v-if="desk.selected.length === 0" class="text-soft text-xs">
      Select the controls that shall change together, on the surface.
    </p>
    <p v-else-if="gestures.length === 0" class="text-soft text-xs">
      What is selected is already changed by a stack.
    </p>
    <div v-else class="mt-1 flex items-center gap-2">
      <span
        >over
        {{
          desk.selected.length === 1
            ? 'the selected control'
            : `the ${desk.selected.length} selected controls`
        }}, with</span
      >
      <NumberInput v-model="count" aria-label="How many layers" />
      <span>layers</span>
      <UiButton type="submit" look="strong" :disabled="!canMake"><Plus :size="13" />Make</UiButton>
    </div>
  </form>
</template>
