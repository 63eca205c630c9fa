<script setup lang="ts">
import { startController, STARTERS, USUAL_SENDING, type FirstSending, type Starter } from '#core/rig'
import { inkedPaths } from '#core/sheets/drawing'
import { focusWhenThere } from '~/lib/focus'
import { controllerStarted } from '~/lib/started'
import { toast } from '~/lib/toast'

/** A new controller, drawn from a generic one, that sends at once. */
const desk = useDeskStore()
const rigs = useRigStore()
const adding = useAddingStore()
const edit = useEdit()

const starter = shallowRef<Starter>(STARTERS[0]!)
const sizes = ref<Record<string, number>>({})
const name = ref('')
const sending = ref<FirstSending>({ ...USUAL_SENDING })
const surface = computed(() => starter.value.make(sizes.value))

async function make(isLast: boolean): Promise<void> {
  if (!rigs.rig) return
  const started = startController(
    rigs.rig,
    name.value.trim() || starter.value.name,
    surface.value,
    sending.value,
  )
  if (!edit(`Add ${started.name}`, started.edits)) return
  desk.chooseController(started.id)
  toast(controllerStarted(started))
  name.value = ''
  if (!isLast) return
  adding.close()
  const isBlank = surface.value.controls.length === 0
  desk.panel = isBlank ? 'draw' : 'selection'
  await navigateTo('/desk')
  // The next thing to do on an empty surface is to draw.
  if (isBlank) focusWhenThere('#add-kind')
}
</script>

<template>
  <StarterDialog
    v-model:starter="starter"
    v-model:sizes="sizes"
    v-model:name="name"
    :starters="STARTERS"
    title="New controller"
    data-testid="new-controller"
    @add="make"
    @close="adding.close()"
  >
    <svg
      class="border-line mt-3 h-52 w-full rounded-md border"
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
      <g v-for="control in surface.controls" :key="control.id" class="stroke-ink fill-none">
        <path
          v-for="(path, index) in inkedPaths(control, 1)"
          :key="index"
          :d="path.d"
          vector-effect="non-scaling-stroke"
          :class="path.ink === 'dark' && 'fill-ink'"
        />
      </g>
    </svg>
    <SendingChoices v-model="sending" :controls="surface.controls" class="mt-3" />
  </StarterDialog>
</template>
