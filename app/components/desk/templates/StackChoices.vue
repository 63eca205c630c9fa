<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import {
  canChoose,
  CHOICE_HOW,
  choiceWords,
  gestureRef,
  goesThrough,
  type Choice,
  type Stack,
} from '#core/rig'
import { chooserOptions, optionAt, targetOptions } from '~/lib/choices'
import { freeId } from '#core/rig'
import type { Trigger } from './IncomingForm.vue'

/** Who chooses among the layers of a stack (or, without one, among the templates), and how. */
const { stack = null } = defineProps<{ stack?: Stack | null }>()
const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()

const INCOMING = 'incoming'
const hows = Object.keys(CHOICE_HOW) as Array<Choice['how']>

const prefix = computed(() =>
  [desk.controller?.id, stack && desk.template?.id, stack?.id]
    .filter((id) => typeof id === 'string')
    .join('/'),
)
const mine = computed(
  () =>
    rigs.rig?.choices.filter(({ targets }) =>
      targets.some(
        (target) =>
          target.controller === desk.controller?.id &&
          (stack === null
            ? target.kind === 'template'
            : target.kind === 'layers' && target.stack === stack.id && target.template === desk.template?.id),
      ),
    ) ?? [],
)

const isAdding = ref(false)
const how = ref<Choice['how']>('this-one')
const by = ref('')
const trigger = ref<Trigger>({ kind: 'program', channel: 16, number: 0 })
const choosers = computed(() => (rigs.rig ? chooserOptions(rigs.rig) : []))
/** The control that is selected offers itself. */
watch(
  () => {
    const [only] = desk.selected
    const gesture = only?.gestures.find(canChoose)
    return desk.selected.length === 1 && only && gesture && desk.controller
      ? gestureRef(desk.controller.id, `${only.id}.${gesture}`)
      : null
  },
  (ref) => {
    if (ref === null) return
    by.value = ref
    isAdding.value = true
  },
  { immediate: true },
)

const everything = computed(() => (rigs.rig ? targetOptions(rigs.rig, how.value) : []))
const own = computed(() =>
  everything.value
    .flatMap(({ options }) => options)
    .filter(({ key, value }) =>
      stack === null
        ? value.kind === 'template' && value.controller === desk.controller?.id
        : key === prefix.value || key.startsWith(`${prefix.value}/`),
    ),
)
const first = ref('')
const more = ref<string[]>([])
watch(
  own,
  (options) => {
    if (!options.some(({ key }) => key === first.value)) first.value = options[0]?.key ?? ''
  },
  { immediate: true },
)
watch(how, () => (more.value = []))

function add(): void {
  const { rig } = rigs
  const { controller } = desk
  const gesture = optionAt(choosers.value, by.value)
  if (!rig || !controller || (gesture === null && by.value !== INCOMING)) return
  const targets = [first.value, ...more.value].flatMap((key) => optionAt(everything.value, key) ?? [])
  const choice: Choice = {
    id: freeId('choice', rig.choices),
    by:
      gesture === null
        ? { kind: 'incoming', controller: controller.id, trigger: trigger.value }
        : { kind: 'gesture', gesture },
    how: how.value,
    targets,
  }
  if (edit(choiceWords(rig, choice), [{ type: 'choice-add', choice }])) more.value = []
}
</script>

<template>
  <div class="text-xs">
    <div class="flex items-center gap-1">
      <h4 class="text-soft font-medium">Chosen by</h4>
      <span v-if="mine.length === 0" class="text-soft">nothing yet</span>
      <UiButton look="plain" :aria-expanded="isAdding" @click="isAdding = !isAdding"
        ><Plus :size="12" />who</UiButton
      >
    </div>
    <ul>
      <li v-for="choice in mine" :key="choice.id" class="flex items-start justify-between gap-2 py-0.5">
        {{ rigs.rig ? choiceWords(rigs.rig, choice) : '' }}
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
      v-if="isAdding"
      class="mt-1 flex flex-wrap items-center gap-1.5"
      data-testid="add-choice"
      @submit.prevent="add"
    >
      <select
        v-model="by"
        aria-label="Who chooses"
        class="bg-raised border-line h-7 max-w-36 rounded-md border px-1"
      >
        <option value="">who …</option>
        <option :value="INCOMING">an incoming message</option>
        <optgroup v-for="group in choosers" :key="group.name" :label="group.name">
          <option v-for="option in group.options" :key="option.key" :value="option.key">
            {{ option.label }}
          </option>
        </optgroup>
      </select>
      <IncomingForm v-if="by === INCOMING" v-model="trigger" />
      <select
        v-model="how"
        aria-label="How it chooses"
        class="bg-raised border-line h-7 rounded-md border px-1"
      >
        <option v-for="each in hows" :key="each" :value="each">{{ CHOICE_HOW[each] }}</option>
      </select>
      <select
        v-if="stack === null || !goesThrough(how)"
        v-model="first"
        :aria-label="stack === null ? 'Template' : 'Layer'"
        class="bg-raised border-line h-7 max-w-32 rounded-md border px-1"
      >
        <option v-for="option in own" :key="option.key" :value="option.key">{{ option.label }}</option>
      </select>
      <GroupedSelect
        v-for="(_, index) in more"
        :key="index"
        v-model="more[index]!"
        :groups="everything"
        label="Also"
        empty="and also …"
      />
      <UiButton look="plain" @click="more.push('')"><Plus :size="12" />also</UiButton>
      <UiButton type="submit" :disabled="by === ''">Add</UiButton>
    </form>
  </div>
</template>
