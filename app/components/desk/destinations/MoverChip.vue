<script setup lang="ts">
import { mappingState, moverName, placeOfMapping } from '#core/mappings'
import { findGesture, type Mapping } from '#core/rig'

/** A control that moves something; pressing it goes there. */
const {
  mapping,
  scope = null,
  isInside = false,
} = defineProps<{
  mapping: Mapping
  scope?: string | null
  /** Does it stand in something that is itself pressed? Then it is no button of its own. */
  isInside?: boolean
}>()
const rigs = useRigStore()
const desk = useDeskStore()

const found = computed(() => (rigs.rig && mapping.gesture ? findGesture(rigs.rig, mapping.gesture) : null))
const name = computed(() => (rigs.rig && moverName(rigs.rig, mapping)) ?? 'a control that is gone')
const state = computed(() => (rigs.rig ? mappingState(rigs.rig, mapping).agreement : 'agrees'))
const TROUBLE = {
  agrees: '',
  differs: 'to teach again',
  lost: 'does not arrive',
  silent: 'sends nothing',
  'put-away': 'old mapping, put away',
  'not-taught': 'not yet taught',
  'no-control': 'old mapping',
} as const
const words = computed(() =>
  [name.value, scope && `only in ${scope}`, TROUBLE[state.value]].filter(Boolean).join(', '),
)

function go(): void {
  const place = rigs.rig ? placeOfMapping(rigs.rig, mapping) : null
  if (place) desk.goTo(place)
}
</script>

<template>
  <component
    :is="isInside ? 'span' : 'button'"
    :type="isInside ? undefined : 'button'"
    class="text-2xs inline-flex h-[18px] max-w-32 items-center gap-1 rounded border px-1"
    :class="
      state === 'agrees'
        ? 'border-line hover:border-ink'
        : 'border-advice bg-advice-soft text-advice border-dashed'
    "
    :title="words"
    :aria-label="isInside ? undefined : `Moved by ${words}`"
    @click.stop="go"
  >
    <LetterBadge
      v-if="found"
      class="scale-75"
      :letter="found.controller.letter"
      :hue="found.controller.hue"
    />
    <span class="truncate">{{ name }}</span>
  </component>
</template>
