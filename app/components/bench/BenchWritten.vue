<script setup lang="ts">
import {
  controlName,
  findGesture,
  gestureName,
  gestureRef,
  modelOf,
  splitGestureKey,
  type GestureKey,
} from '#core/rig'
import { messageText } from '~/lib/bench/find-out'

/** What was heard beside what the template says, to be written down where it differs. */
const listening = useListeningStore()
const bench = useBenchStore()
const rigs = useRigStore()
const picked = ref<GestureKey | null>(null)
const refusal = ref<string | null>(null)
const edit = useEdit({ refused: (why) => (refusal.value = why) })

/** What was moved where the template sends this; else what is picked. */
const gesture = computed<GestureKey | null>(() => picked.value ?? listening.owner)
watch(
  () => listening.sender,
  () => {
    picked.value = null
    refusal.value = null
  },
)
const options = computed(() =>
  listening.gestures.map((key) => {
    const found =
      rigs.rig && bench.controller ? findGesture(rigs.rig, gestureRef(bench.controller.id, key)) : null
    return { value: key, label: found ? gestureName(found.control, splitGestureKey(key).gesture) : key }
  }),
)
const control = computed(() =>
  rigs.rig && bench.controller && gesture.value
    ? (findGesture(rigs.rig, gestureRef(bench.controller.id, gesture.value))?.control ?? null)
    : null,
)
const at = computed(() => (gesture.value ? listening.writtenAt(gesture.value) : null))
const heard = computed(() => (at.value ? listening.messageOf(at.value.message) : null))
const text = (message: typeof heard.value): string =>
  rigs.rig && bench.controller && control.value && gesture.value && message
    ? messageText({
        rig: rigs.rig,
        message,
        control: control.value,
        gesture: splitGestureKey(gesture.value).gesture,
        homeChannel: bench.controller.homeChannel,
        abilities: modelOf(rigs.rig, bench.controller).abilities,
      })
    : ''
const isSame = computed(
  () => heard.value !== null && JSON.stringify(heard.value) === JSON.stringify(at.value?.message),
)
/** Clicks a turn that were counted, where something else is written. */
const clicks = computed(() => {
  const counted = listening.guess?.clicksATurn ?? null
  return counted !== null && control.value?.kind === 'encoder' && control.value.detentsPerTurn !== counted
    ? counted
    : null
})
function writeClicks(): void {
  if (!rigs.rig || !bench.controller || !control.value || clicks.value === null) return
  refusal.value = null
  edit(`${controlName(control.value)} has ${clicks.value} clicks a turn`, [
    {
      type: 'controls-set',
      model: modelOf(rigs.rig, bench.controller).id,
      controls: [{ id: control.value.id, set: { detentsPerTurn: clicks.value } }],
    },
  ])
}
function write(): void {
  if (!at.value || !heard.value || !control.value) return
  refusal.value = null
  edit(`Write down what ${controlName(control.value)} sends`, [
    { type: 'message', at: at.value.place, index: at.value.index, message: heard.value },
  ])
}
</script>

<template>
  <section class="border-line mt-2 border-t pt-2" aria-label="In the template" data-testid="written">
    <div class="flex items-center gap-2">
      <h3 class="font-bold">In the template</h3>
      <UiSelect
        class="ml-auto"
        label="The control that was moved"
        :model-value="gesture ?? ''"
        :caption="gesture ? '' : 'choose'"
        :options="options"
        is-right
        data-testid="heard-is"
        @update:model-value="picked = $event"
      />
    </div>
    <p v-if="!gesture" class="text-soft text-xs">
      The template sends this nowhere. Choose the control that you moved, to compare and to write it down.
    </p>
    <p v-else-if="!at" class="text-soft text-xs">
      No layer shows in which it sends anything: choose one above.
    </p>
    <template v-else>
      <p class="text-xs">
        <span class="text-soft">written:</span> {{ at.message ? text(at.message) : 'nothing yet' }}
      </p>
      <p v-if="isSame" class="text-xs font-bold" data-testid="as-written">It sends what is written.</p>
      <template v-else-if="heard">
        <p class="text-xs"><span class="text-soft">heard:</span> {{ text(heard) }}</p>
        <div class="flex items-center gap-2 pt-1">
          <UiButton look="strong" :disabled="!rigs.canEdit" data-testid="write-down" @click="write"
            >Write down what it sends</UiButton
          >
          <span class="text-soft text-xs">or change the hardware to what is written</span>
        </div>
      </template>
      <p v-else class="text-soft text-xs">When it is sure, what it sends can be written down here.</p>
      <div v-if="clicks !== null" class="flex items-center gap-2 pt-1">
        <UiButton :disabled="!rigs.canEdit" data-testid="write-clicks" @click="writeClicks"
          >Write down {{ clicks }} clicks a turn</UiButton
        >
      </div>
      <p v-if="refusal" class="text-conflict text-xs" role="alert">{{ refusal }}</p>
    </template>
  </section>
</template>
