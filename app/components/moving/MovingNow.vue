<script setup lang="ts">
import { ChevronLeft, ChevronRight } from '@lucide/vue'
import { controlName } from '#core/rig'
import { nextWords } from '~/lib/moving/words'
import { SILENT_MS } from '~/stores/moving'

/** What the player is to move now, what is being heard, and what came that was not meant. */
const moving = useMovingStore()
const ports = usePortsStore()

const title = computed(() => {
  const { walk, next } = moving
  if (!walk) return ''
  const name = next ? controlName(next) : ''
  return next ? `${name}, ${walk.next + 1} of ${walk.steps.length}` : 'All of these are done'
})
const todo = computed(() => (moving.walk ? nextWords(moving.walk) : null))
const others = computed(() => moving.walk?.others ?? [])
const isReal = computed(() => moving.controller !== null && ports.realControllers.has(moving.controller.id))
const side = useBenchSide()
async function toPorts(): Promise<void> {
  side.value = 'ports'
  await navigateTo('/bench')
}
const seconds = SILENT_MS / 1000
</script>

<template>
  <div data-testid="moving-now">
    <div class="flex min-h-7 items-center gap-2" role="status">
      <span
        class="border-ink size-2.5 shrink-0 rounded-full border"
        :class="moving.isHearing ? 'bg-ink' : 'bg-marker'"
        aria-hidden="true"
      />
      <span class="min-w-0 flex-1 font-bold">{{
        moving.job === 'draw' ? 'Drawing what is moved' : 'Learning what is moved'
      }}</span>
      <UiButton data-testid="stop-moving" @click="moving.stop()">Stop</UiButton>
    </div>
    <p v-if="!isReal" class="text-soft text-xs">
      No real port stands for {{ moving.controller?.name }}.
      <button
        type="button"
        class="text-ink underline underline-offset-2"
        data-testid="to-ports"
        @click="toPorts"
      >
        Choose one under Ports.
      </button>
    </p>
    <div class="border-line mt-1.5 rounded-md border px-3 py-2">
      <div class="flex items-center gap-1">
        <p class="min-w-0 flex-1" data-testid="moving-next">
          <span v-if="moving.next" class="text-soft text-xs">Now move</span>
          <span class="block font-bold">{{ title }}</span>
        </p>
        <UiButton
          look="plain"
          class="px-1!"
          label="The one before"
          :disabled="!moving.walk || moving.walk.next === 0"
          @click="moving.goTo((moving.walk?.next ?? 0) - 1)"
          ><ChevronLeft :size="16"
        /></UiButton>
        <UiButton
          look="plain"
          class="px-1!"
          label="Leave it out"
          data-testid="leave-out"
          :disabled="!moving.next"
          @click="moving.goTo((moving.walk?.next ?? 0) + 1)"
          ><ChevronRight :size="16"
        /></UiButton>
      </div>
      <p v-if="todo" class="text-xs">{{ todo }}</p>
      <slot />
    </div>
    <p v-if="others.length > 0" class="text-soft pt-1.5 text-xs" data-testid="moving-others">
      <span class="tag">{{ others.slice(0, 4).join(', ') }}</span>
      came as well and {{ others.length === 1 ? 'was' : 'were' }} left out: not moved as this control is, or
      touched by accident.
    </p>
    <div
      v-if="moving.isSilent"
      class="text-conflict pt-1.5 text-xs"
      role="status"
      data-testid="moving-silent"
    >
      <p class="font-bold">Nothing has come for {{ seconds }} s.</p>
      <p class="text-ink">
        See whether the hardware transmits at all, whether the right port is heard, and whether the layer is
        one in which this control sends.
      </p>
      <slot name="silent" />
    </div>
    <p v-if="moving.refusal" class="text-conflict pt-1.5 text-xs" role="alert">{{ moving.refusal }}</p>
  </div>
</template>
