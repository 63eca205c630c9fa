<script setup lang="ts">
import { HARDWARE_TROUBLES, TROUBLE_WORDS } from '#core/bench/slots'

/** The memory slots of the controller that is shown: what each is to hold, what it holds, and storing it. */
const slots = useSlotsStore()
const rigs = useRigStore()
const numbers = computed(() => Array.from({ length: slots.count }, (_, index) => index + 1))
/** Slots that were fetched and hold something else than they are to. */
const differing = computed(() =>
  numbers.value.flatMap((slot) => {
    const template = slots.controller && slots.wanted(slots.controller, slot)
    return template && (slots.differences(slot, template)?.length ?? 0) > 0 ? [{ slot, template }] : []
  }),
)
const isTrying = ref(false)
const checkedOf = (event: Event): boolean => (event.target as HTMLInputElement).checked
</script>

<template>
  <div data-testid="slots">
    <p v-if="!slots.controller || slots.count === 0" class="text-soft">
      {{ slots.controller?.name ?? 'This controller' }} has no memory slots. Say how many it has on the Desk,
      under Controller.
    </p>
    <template v-else>
      <div class="flex flex-wrap items-center gap-2">
        <UiButton
          look="strong"
          :disabled="slots.underWay !== null"
          data-testid="fetch-all"
          @click="slots.fetch(numbers)"
          >Fetch all {{ slots.count }}</UiButton
        >
        <UiButton
          v-if="differing.length > 0"
          :disabled="slots.underWay !== null || !rigs.canEdit"
          data-testid="store-all"
          @click="slots.store(differing)"
          >Store {{ differing.length }} that {{ differing.length === 1 ? 'differs' : 'differ' }}</UiButton
        >
        <UiButton v-if="slots.underWay" data-testid="stop-transfer" @click="slots.stop()">Stop</UiButton>
      </div>
      <p class="text-soft min-h-5 pt-1 text-xs" role="status" data-testid="transfer">
        <template v-if="slots.underWay">
          {{ slots.underWay.what === 'fetch' ? 'Fetching' : 'Storing' }} slot {{ slots.underWay.slot }}:
          {{ slots.underWay.through
          }}<template v-if="slots.underWay.count"> of {{ slots.underWay.count }}</template>
          pieces
        </template>
        <template v-else>Fetch what the hardware holds before something is stored over it.</template>
      </p>
      <p v-if="slots.failure" class="text-conflict pt-1" role="alert" data-testid="slot-failure">
        Slot {{ slots.failure.slot }}: {{ slots.failure.why }}
      </p>
      <ol class="pt-1">
        <SlotRow v-for="number in numbers" :key="number" :number="number" :owner="slots.controller" />
      </ol>
      <button
        type="button"
        class="text-soft hover:text-ink pt-3 text-xs underline"
        :aria-expanded="isTrying"
        @click="isTrying = !isTrying"
      >
        The hardware here is simulated
      </button>
      <div v-if="isTrying" class="pt-1 text-xs">
        <p class="text-soft">Ask it to do something wrong, to see what comes of it.</p>
        <label v-for="what in HARDWARE_TROUBLES" :key="what" class="flex min-h-7 items-center gap-2">
          <input
            type="checkbox"
            class="accent-ink size-4"
            :checked="slots.troubles.has(what)"
            :data-trouble="what"
            @change="slots.trouble(what, checkedOf($event))"
          />
          it {{ TROUBLE_WORDS[what] }}
        </label>
      </div>
    </template>
  </div>
</template>
