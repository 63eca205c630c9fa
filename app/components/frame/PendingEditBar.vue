<script setup lang="ts">
import { mappingName, mappingParameter } from '#core/mappings'
import { afterPaint } from '~/lib/after-paint'
import { someOf } from '~/lib/some-of'

/** What a change would make unheard, shown before it is made. */
const pending = usePendingEditStore()
const plans = usePlanStore()
const preferences = usePreferencesStore()
const first = useTemplateRef('first')

const NAMED = 3
const names = computed(() => {
  const { current } = pending
  return current ? current.unheard.map((mapping) => mappingName(current.prepared.before, mapping)) : []
})
/** Can teaching again help? What listens by its destination's own chart takes only its own number, and a control that is gone sends none. */
const mustTeach = computed(() => {
  const { current } = pending
  if (!current) return false
  const { before, rig } = current.prepared
  const now = new Map(rig.mappings.map((mapping) => [mapping.id, mapping]))
  return current.unheard.every(
    (mapping) =>
      mappingParameter(before, mapping)?.parameter.fixed === null &&
      (now.get(mapping.id)?.gesture ?? null) !== null,
  )
})
const words = computed(() => someOf(names.value, NAMED))
const sentence = computed(() => {
  const isOne = names.value.length === 1
  const until = mustTeach.value ? `, until ${isOne ? 'it is' : 'they are'} taught again` : ''
  return `${isOne ? 'One thing' : `${names.value.length} things`} would no longer be moved${until}: ${words.value}.`
})
async function findAnother(): Promise<void> {
  pending.drop()
  await navigateTo('/desk')
  plans.open('repair')
}
function makeAlways(): void {
  preferences.askBefore = false
  pending.make()
}
/** Where the player was, to go back to. */
let before: Element | null = null
onMounted(async () => {
  // Lists and fields take the focus back to themselves first.
  await afterPaint()
  before = document.activeElement
  const element: unknown = first.value?.$el
  if (element instanceof HTMLElement) element.focus()
})
onBeforeUnmount(() => {
  if (before instanceof HTMLElement && before.isConnected) before.focus()
})
</script>

<template>
  <section
    class="bg-advice-soft border-advice shadow-float fixed inset-x-0 bottom-0 z-40 flex flex-wrap items-center gap-x-3 gap-y-1.5 border-t px-4 py-2"
    aria-label="Before this change is made"
    aria-live="polite"
    data-testid="pending"
    @keydown.esc.stop="pending.drop()"
  >
    <p class="min-w-0 flex-1">
      <span class="font-bold">{{ pending.current?.label }}?</span> {{ sentence }}
    </p>
    <UiButton ref="first" look="strong" data-testid="pending-make" @click="pending.make()"
      >Make the change</UiButton
    >
    <UiButton @click="findAnother">Find another way</UiButton>
    <UiButton data-testid="pending-drop" @click="pending.drop()">Leave it as it is</UiButton>
    <UiButton look="plain" class="-mr-2" @click="makeAlways">Make it, and ask no more</UiButton>
  </section>
</template>
