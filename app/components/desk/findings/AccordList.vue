<script setup lang="ts">
import { Handshake, X } from '@lucide/vue'
import { findGesture, gestureName, gestureRef, type Accord, type GestureRef } from '#core/rig'
import { freeId } from '#core/rig'

/** What is shared on purpose: named, with its reason, to be changed, withdrawn, or declared anew. */
const rigs = useRigStore()
const desk = useDeskStore()
const analysis = useAnalysisStore()
const edit = useEdit()
const accords = computed(() => rigs.rig?.accords ?? [])
/** Accords that a finding says excuse nothing any more. */
const idle = computed(() => {
  const found = new Set(analysis.findings.map(({ id }) => id))
  return new Set(accords.value.filter(({ id }) => found.has(`idle-accord:${id}`)))
})

function wordsOf(ref: GestureRef): string {
  const found = rigs.rig ? findGesture(rigs.rig, ref) : null
  return found ? `${gestureName(found.control, found.gesture)} (${found.controller.letter})` : ''
}
const set = (accord: Accord, change: Partial<Accord>): boolean =>
  edit(`Change “${accord.name}”`, [{ type: 'accord-set', accord: accord.id, set: change }])

/** The first movement of each selected control. */
const selected = computed<GestureRef[]>(() =>
  desk.selected.flatMap(({ id, gestures: [first] }) =>
    first && desk.controller ? gestureRef(desk.controller.id, `${id}.${first}`) : [],
  ),
)
function declare(): void {
  const { rig } = rigs
  if (!rig || selected.value.length < 2) return
  const name = `Sharing ${rig.accords.length + 1}`
  const id = freeId('accord', rig.accords)
  edit(`Declare “${name}”`, [
    { type: 'accord-add', accord: { id, name, reason: '', gestures: selected.value } },
  ])
}
</script>

<template>
  <div class="px-5 py-3" data-testid="accords">
    <p v-if="accords.length === 0" class="text-soft">
      Where two controls are meant to send the same, say so: select them on the surface, or press “Share on
      purpose” at what was found.
    </p>
    <ul>
      <li
        v-for="accord in accords"
        :key="accord.id"
        class="border-line border-b pt-1 pb-3"
        :data-accord="accord.id"
      >
        <div class="flex items-center gap-1">
          <Handshake :size="14" class="text-accord shrink-0" />
          <InlineName
            class="flex-1"
            :value="accord.name"
            label="Name of the sharing"
            @change="set(accord, { name: $event })"
          />
          <span v-if="idle.has(accord)" class="text-advice text-xs">no longer meets</span>
          <UiButton
            look="plain"
            class="px-1!"
            :label="`Withdraw “${accord.name}”`"
            :disabled="!rigs.canEdit"
            @click="edit(`Withdraw “${accord.name}”`, [{ type: 'accord-remove', accord: accord.id }])"
            ><X :size="13"
          /></UiButton>
        </div>
        <p class="text-soft pl-5.5">{{ accord.gestures.map(wordsOf).join(', ') }}</p>
        <input
          :value="accord.reason"
          class="bg-raised border-line mt-1 ml-5 h-7 w-[calc(100%-1.25rem)] rounded-md border px-2"
          placeholder="Why they share"
          :aria-label="`Why: ${accord.name}`"
          maxlength="400"
          @change="set(accord, { reason: ($event.target as HTMLInputElement).value })"
        />
      </li>
    </ul>
    <UiButton
      v-if="selected.length > 1"
      class="mt-2"
      data-testid="declare-accord"
      :disabled="!rigs.canEdit"
      @click="declare"
      ><Handshake :size="13" />The {{ selected.length }} selected share on purpose</UiButton
    >
  </div>
</template>
