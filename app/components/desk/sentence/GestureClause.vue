<script setup lang="ts">
import { ChevronRight } from '@lucide/vue'
import {
  addressOf,
  assignmentsAt,
  freshMessage,
  gestureName,
  type GestureKind,
  type Message,
} from '#core/rig'
import { printTag } from '#core/midi'
import { isClose, sentenceOf, type FieldWord } from '~/lib/sentence'

const { gesture, isCurrent } = defineProps<{ gesture: GestureKind; isCurrent: boolean }>()
const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()
const showFields = ref(false)

const key = computed(() => `${desk.control?.id}.${gesture}`)
const place = computed(() => desk.placeOf(key.value))
const assignment = computed(() =>
  desk.controller && place.value ? (assignmentsAt(desk.controller, place.value)?.[key.value] ?? null) : null,
)
const message = computed<Message | null>(() =>
  desk.control ? (assignment.value?.messages[0] ?? freshMessage('off', desk.control.kind, gesture)) : null,
)
const words = computed(() =>
  message.value && desk.control && desk.controller && desk.model && rigs.rig
    ? sentenceOf({
        message: message.value,
        control: desk.control,
        gesture,
        homeChannel: desk.controller.homeChannel,
        abilities: desk.model.abilities,
        rig: rigs.rig,
      })
    : [],
)
const fields = computed(() => words.value.filter((word): word is FieldWord => word.type !== 'plain'))
const more = computed(() => (assignment.value?.messages.length ?? 0) - 1)

function change(next: Message): void {
  if (!place.value || !desk.control) return
  desk.select(key.value)
  const address = addressOf(next)
  const what = address ? printTag(address) : 'nothing'
  edit(`${gestureName(desk.control, gesture)} sends ${what}`, [
    { type: 'message', at: place.value, index: 0, message: next },
  ])
}
</script>

<template>
  <div
    :class="
      isCurrent && desk.control && desk.control.gestures.length > 1 && 'border-ink -ml-3 border-l-2 pl-2.5'
    "
  >
    <template v-if="place">
      <p
        :class="isCurrent ? 'text-lg leading-8.5' : 'leading-7'"
        :data-testid="`sentence-${gesture}`"
        @focusin="desk.select(key)"
      >
        <template
          v-for="(word, index) in words"
          :key="`${index}-${word.type === 'plain' ? word.text : word.id}`"
        >
          <span v-if="index > 0 && !isClose(word)">{{ ' ' }}</span>
          <span v-if="word.type === 'plain'" :class="index === 0 && 'font-medium'">{{ word.text }}</span>
          <WordChoice v-else-if="word.type === 'choice'" :word="word" @change="change" />
          <WordNumber v-else :word="word" @change="change" />
        </template>
      </p>
      <p v-if="more > 0" class="text-soft text-xs">and {{ more }} more at other moments</p>
      <div v-if="isCurrent && message" class="mt-1.5 flex items-start gap-2">
        <TagField :message="message" :gesture="gesture" @change="change" />
        <UiButton look="plain" :aria-expanded="showFields" @click="showFields = !showFields">
          <ChevronRight :size="13" :class="showFields && 'rotate-90'" />As fields
        </UiButton>
      </div>
      <LabelledFields v-if="isCurrent && showFields" :fields="fields" class="mt-2" @change="change" />
    </template>
    <p v-else class="text-soft py-1">
      <span class="font-medium">{{ gestureName(desk.control!, gesture) }}</span> is in a stack that shows no
      layer now. Choose a layer above to say what it sends.
    </p>
  </div>
</template>
