<script setup lang="ts">
import { Hand, Plus } from '@lucide/vue'
import { printTag } from '#core/midi'
import {
  addressOf,
  freshMessage,
  gestureName,
  programmedAt,
  type Assignment,
  type GestureKind,
  type Message,
} from '#core/rig'

const { gesture, isCurrent } = defineProps<{ gesture: GestureKind; isCurrent: boolean }>()
const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()

const key = computed(() => `${desk.control?.id}.${gesture}`)
const place = computed(() => desk.placeOf(key.value))
const assignment = computed<Assignment | null>(() =>
  rigs.rig && place.value ? (programmedAt(rigs.rig, place.value)?.assignment ?? null) : null,
)
const canAdd = computed(
  () => (assignment.value?.messages.length ?? 0) < 8 && assignment.value?.messages[0]?.kind !== 'off',
)

function change(index: number, message: Message): void {
  if (!place.value || !desk.control) return
  const address = addressOf(message)
  const what = address ? printTag(address) : 'nothing'
  edit(`${gestureName(desk.control, gesture)} sends ${what}`, [
    { type: 'message', at: place.value, index, message },
  ])
}

function setAssignment(label: string, next: Assignment): void {
  if (place.value && desk.control) {
    edit(`${label} ${gestureName(desk.control, gesture)}`, [
      { type: 'assignment', at: place.value, assignment: next },
    ])
  }
}
function add(): void {
  if (!assignment.value || !desk.control) return
  const message: Message = { ...freshMessage('cc', desk.control.kind, gesture), moment: 'release' } as Message
  setAssignment('Another message of', {
    ...assignment.value,
    messages: [...assignment.value.messages, message],
  })
}
function remove(index: number): void {
  if (!assignment.value) return
  setAssignment('One message less of', {
    ...assignment.value,
    messages: assignment.value.messages.filter((_, position) => position !== index),
  })
}
</script>

<template>
  <div
    :class="
      isCurrent && desk.control && desk.control.gestures.length > 1 && 'border-ink -ml-3 border-l-2 pl-2.5'
    "
  >
    <template v-if="place && assignment">
      <MessageClause
        v-for="(message, index) in assignment.messages"
        :key="index"
        :message="message"
        :index="index"
        :count="assignment.messages.length"
        :gesture="gesture"
        :is-current="isCurrent"
        @focusin="desk.gesture === key || desk.select(key)"
        @change="change(index, $event)"
        @remove="remove(index)"
      />
      <div v-if="isCurrent" class="mt-1 flex flex-wrap items-center gap-1.5">
        <ChipToggle
          :is-on="assignment.pinned"
          @click="
            setAssignment(assignment.pinned ? 'Unpin' : 'Pin', { ...assignment, pinned: !assignment.pinned })
          "
          >pinned</ChipToggle
        >
        <input
          :key="key"
          class="bg-raised border-line h-6 min-w-0 flex-1 rounded-md border px-2 text-xs"
          placeholder="memo"
          aria-label="Memo"
          maxlength="4000"
          :value="assignment.memo"
          @change="
            setAssignment('Memo of', { ...assignment, memo: ($event.target as HTMLInputElement).value })
          "
        />
        <UiButton
          v-if="canAdd"
          look="plain"
          class="px-1.5!"
          label="Another message at another moment"
          @click="add"
          ><Plus :size="13" />moment</UiButton
        >
        <UiButton
          look="plain"
          class="px-1.5!"
          label="Learn what it sends by moving the hardware"
          @click="desk.panel = 'learn-by-moving'"
          ><Hand :size="13" />learn</UiButton
        >
      </div>
    </template>
    <p v-else class="text-soft py-1">
      <span class="font-medium">{{ desk.control && gestureName(desk.control, gesture) }}</span> is in a stack
      that shows no layer now. Choose a layer above to say what it sends.
    </p>
  </div>
</template>
