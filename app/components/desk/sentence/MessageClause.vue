<script setup lang="ts">
import { ChevronRight, X } from '@lucide/vue'
import type { GestureKind, Message } from '#core/rig'
import { detailsOf, momentField } from '~/lib/details'
import { isClose, sentenceOf, type FieldWord } from '~/lib/sentence'

/** One message of a gesture as a sentence, with its address and its fields. */
const { message, index, count, gesture, isCurrent } = defineProps<{
  message: Message
  index: number
  /** How many messages the gesture sends. */
  count: number
  gesture: GestureKind
  isCurrent: boolean
}>()
const emit = defineEmits<{ change: [message: Message]; remove: [] }>()
const desk = useDeskStore()
const rigs = useRigStore()
const showFields = ref(false)

const words = computed(() => {
  const { control, controller, model } = desk
  const { rig } = rigs
  if (!control || !controller || !model || !rig) return []
  return sentenceOf({
    message,
    control,
    gesture,
    homeChannel: controller.homeChannel,
    abilities: model.abilities,
    rig,
  })
})
const moment = computed(() => momentField(message))
const showsMoment = computed(() => count > 1 || (message.kind !== 'off' && message.moment !== 'move'))
const list = computed(() =>
  'behaviour' in message && message.behaviour.kind === 'list'
    ? { message, values: message.behaviour.values }
    : null,
)
const fields = computed(() => [
  ...words.value.filter((word): word is FieldWord => word.type !== 'plain'),
  ...(moment.value ? [moment.value] : []),
  ...detailsOf(message),
])
</script>

<template>
  <div>
    <p
      :class="isCurrent ? 'text-lg leading-8.5' : 'leading-7'"
      :data-testid="index === 0 ? `sentence-${gesture}` : undefined"
    >
      <template
        v-for="(word, position) in words"
        :key="`${position}-${word.type === 'plain' ? word.text : word.id}`"
      >
        <span v-if="position > 0 && !isClose(word)">{{ ' ' }}</span>
        <span v-if="word.type === 'plain'" :class="position === 0 && 'font-medium'">{{ word.text }}</span>
        <WordChoice v-else-if="word.type === 'choice'" :word="word" @change="emit('change', $event)" />
        <WordNumber v-else :key="desk.control?.id" :word="word" @change="emit('change', $event)" />
      </template>
      <span v-if="showsMoment && moment?.type === 'choice'" class="text-base">
        {{ ' ' }}<WordChoice :word="moment" @change="emit('change', $event)" />
        <UiButton
          v-if="count > 1"
          look="plain"
          class="px-1! align-middle"
          label="Take this message away"
          @click="emit('remove')"
          ><X :size="13"
        /></UiButton>
      </span>
    </p>
    <div v-if="isCurrent" class="mt-1.5 flex items-start gap-2">
      <!-- What is typed and not yet taken must not pass to the next control: fields are its own, words are not. -->
      <SysexField
        v-if="message.kind === 'sysex'"
        :key="`sysex ${desk.control?.id}`"
        :message="message"
        @change="emit('change', $event)"
      />
      <TagField
        v-else
        :key="`tag ${desk.control?.id}`"
        :message="message"
        :gesture="gesture"
        @change="emit('change', $event)"
      />
      <UiButton look="plain" :aria-expanded="showFields" @click="showFields = !showFields">
        <ChevronRight :size="13" :class="showFields && 'rotate-90'" />As fields
      </UiButton>
    </div>
    <ListField
      v-if="isCurrent && list"
      :key="`list ${desk.control?.id}`"
      :values="list.values"
      @change="emit('change', { ...list.message, behaviour: { kind: 'list', values: $event } })"
    />
    <LabelledFields
      v-if="isCurrent && showFields"
      :key="`fields ${desk.control?.id}`"
      :fields="fields"
      class="mt-2"
      @change="emit('change', $event)"
    />
  </div>
</template>
