<script setup lang="ts">
import { parseTag, printTag } from '#core/midi'
import { addressOf, kindReason, withAddress, type GestureKind, type Message } from '#core/rig'

const { message, gesture } = defineProps<{ message: Message; gesture: GestureKind }>()
const emit = defineEmits<{ change: [message: Message] }>()
const desk = useDeskStore()

const written = computed(() => {
  const address = addressOf(message)
  return address ? printTag(address) : ''
})
const draft = ref(written.value)
const refusal = ref<string | null>(null)
watch(written, (text) => {
  draft.value = text
  refusal.value = null
})
usePendingReset(() => (draft.value = written.value))

function commit(): void {
  if (draft.value.trim() === written.value || !desk.control || !desk.model) return
  const parsed = parseTag(draft.value)
  if (!parsed.ok) {
    refusal.value = parsed.message
    return
  }
  const reason = kindReason(desk.model.abilities, desk.control, parsed.address.target.kind)
  if (reason !== null) {
    refusal.value = `Not possible: ${reason}.`
    return
  }
  refusal.value = null
  emit('change', withAddress(message, parsed.address, desk.control.kind, gesture))
}

function leave(event: KeyboardEvent): void {
  draft.value = written.value
  refusal.value = null
  const control = document.querySelector<SVGElement>(`[data-control="${desk.control?.id}"]`)
  if (control) control.focus()
  else (event.target as HTMLElement).blur()
}
</script>

<template>
  <div class="min-w-0">
    <label
      class="bg-raised border-line focus-within:border-ink flex h-7 w-52 items-center gap-2 rounded-md border px-2"
    >
      <span class="text-soft text-xs">Address</span>
      <input
        v-model="draft"
        class="tag w-full min-w-0 bg-transparent outline-none"
        placeholder="5:cc74"
        spellcheck="false"
        autocomplete="off"
        data-address-field
        :aria-invalid="refusal !== null"
        @keydown.enter.prevent="commit"
        @keydown.esc.prevent.stop="leave"
        @blur="commit"
        @focus="($event.target as HTMLInputElement).select()"
      />
    </label>
    <p v-if="refusal" role="alert" class="text-conflict mt-1 max-w-64 text-xs font-medium">{{ refusal }}</p>
  </div>
</template>
