<script setup lang="ts">
import { parseSysex, printSysex, type Message, type MessageOf } from '#core/rig'

const { message } = defineProps<{ message: MessageOf<'sysex'> }>()
const emit = defineEmits<{ change: [message: Message] }>()
const written = computed(() => printSysex(message.bytes))
const draft = ref(written.value)
const refusal = ref<string | null>(null)
watch(written, (text) => {
  draft.value = text
})
usePendingReset(() => (draft.value = written.value))

function commit(): void {
  const parsed = parseSysex(draft.value)
  refusal.value = parsed.ok ? null : parsed.message
  if (parsed.ok && printSysex(parsed.bytes) !== written.value)
    emit('change', { ...message, bytes: parsed.bytes })
}
</script>

<template>
  <div class="min-w-0 flex-1">
    <label class="bg-raised border-line flex h-7 items-center gap-2 rounded-md border px-2">
      <span class="text-soft tag">F0</span>
      <input
        v-model="draft"
        class="tag w-full min-w-0 bg-transparent outline-none"
        aria-label="SysEx bytes in hexadecimal"
        spellcheck="false"
        @keydown.enter.prevent="commit"
        @blur="commit"
      />
      <span class="text-soft tag">F7</span>
    </label>
    <p v-if="refusal" role="alert" class="text-conflict mt-1 text-xs font-medium">{{ refusal }}</p>
    <p v-else class="text-soft mt-1 text-xs">Write value, value-high, value-low or device where they go.</p>
  </div>
</template>
