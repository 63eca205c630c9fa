<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { controlName, findGesture, gestureName, gestureRef, type Choice, type Stack } from '#core/rig'
import { freeId } from '~/lib/ids'

/** Who chooses among the layers of a stack: a control of any controller, and how. */
const { stack } = defineProps<{ stack: Stack }>()
const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()

const HOW: Readonly<Record<Choice['how'], string>> = {
  'this-one': 'shows',
  next: 'goes on to the next of',
  previous: 'goes back through',
  'while-held': 'shows while held',
  toggle: 'turns on and off',
}
const hows = Object.keys(HOW) as Array<Choice['how']>

const mine = computed(
  () =>
    rigs.rig?.choices.filter(({ targets }) =>
      targets.some(
        (target) =>
          target.kind === 'layers' &&
          target.stack === stack.id &&
          target.controller === desk.controller?.id &&
          target.template === desk.template?.id,
      ),
    ) ?? [],
)

function words(choice: Choice): string {
  const { rig } = rigs
  const found = rig && choice.by.kind === 'gesture' ? findGesture(rig, choice.by.gesture) : null
  const who = found
    ? `${found.controller.name} · ${gestureName(found.control, found.gesture)}`
    : 'An incoming message'
  const layers = choice.targets.flatMap((target) =>
    target.kind === 'layers' && target.stack === stack.id
      ? target.layers.map((id) => stack.layers.find((layer) => layer.id === id)?.name ?? '')
      : [],
  )
  const all = layers.length === stack.layers.length && layers.length > 1
  return `${who} ${HOW[choice.how]} ${all ? 'all layers' : layers.join(', ')}`
}

const how = ref<Choice['how']>('this-one')
const layer = ref('')
const chooser = computed(() => {
  const [only] = desk.selected
  const gesture = only?.gestures.find(
    (kind) => kind === 'press' || kind === 'push' || kind === 'strike' || kind === 'touch',
  )
  return desk.selected.length === 1 && only && gesture
    ? { control: only, key: `${only.id}.${gesture}` }
    : null
})
const goesThrough = computed(() => how.value === 'next' || how.value === 'previous')

function add(): void {
  const { rig } = rigs
  const { controller, template } = desk
  if (!rig || !controller || !template || !chooser.value) return
  const one = layer.value || (stack.layers[0]?.id ?? '')
  const choice: Choice = {
    id: freeId('choice', rig.choices),
    by: { kind: 'gesture', gesture: gestureRef(controller.id, chooser.value.key) },
    how: how.value,
    targets: [
      {
        kind: 'layers',
        controller: controller.id,
        template: template.id,
        stack: stack.id,
        layers: goesThrough.value ? stack.layers.map(({ id }) => id) : [one],
      },
    ],
  }
  edit(`${controlName(chooser.value.control)} chooses`, [{ type: 'choice-add', choice }])
}
</script>

<template>
  <div class="text-xs">
    <ul v-if="mine.length > 0">
      <li v-for="choice in mine" :key="choice.id" class="flex items-center justify-between gap-2">
        {{ words(choice) }}
        <UiButton
          look="plain"
          class="px-1!"
          label="Take this choice away"
          @click="edit('Take a choice away', [{ type: 'choice-remove', choice: choice.id }])"
          ><X :size="12"
        /></UiButton>
      </li>
    </ul>
    <form
      v-if="chooser"
      class="flex flex-wrap items-center gap-1.5"
      data-testid="add-choice"
      @submit.prevent="add"
    >
      <span class="font-medium">{{ controlName(chooser.control) }}</span>
      <select
        v-model="how"
        aria-label="How it chooses"
        class="bg-raised border-line h-7 rounded-md border px-1.5"
      >
        <option v-for="each in hows" :key="each" :value="each">{{ HOW[each] }}</option>
      </select>
      <select
        v-if="!goesThrough"
        v-model="layer"
        aria-label="Layer"
        class="bg-raised border-line h-7 rounded-md border px-1.5"
      >
        <option value="">{{ stack.layers[0]?.name }}</option>
        <option v-for="each in stack.layers.slice(1)" :key="each.id" :value="each.id">{{ each.name }}</option>
      </select>
      <UiButton type="submit"><Plus :size="12" />Choose by it</UiButton>
    </form>
    <p v-else class="text-soft">Select one button, pad or switch to let it choose the layer.</p>
  </div>
</template>
