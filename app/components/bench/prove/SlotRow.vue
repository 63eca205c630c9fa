<script setup lang="ts">
import { templateMark } from '#core/bench/slots'
import type { Controller, Template } from '#core/rig'
import { timeAgo } from '~/lib/time-ago'

/** One slot: what it is to hold, what it holds, and what would change. */
const { number, owner } = defineProps<{ number: number; owner: Controller }>()
const slots = useSlotsStore()
const rigs = useRigStore()
const edit = useEdit()
const OPEN = ''

const slot = computed(() => slots.slotOf(owner, number))
const template = computed(() => slots.wanted(owner, number))
const fetched = computed(() => slots.fetchedIn(number))
const differences = computed(() => slots.differences(number, template.value))
const isShown = ref(false)
const options = computed(() => [
  { value: OPEN, label: 'left open' },
  ...owner.templates.map(({ id, name }) => ({ value: id, label: name })),
])
function choose(id: string): void {
  edit(`Slot ${number} of ${owner.name}`, [
    { type: 'slot-set', controller: owner.id, number, set: { template: id === OPEN ? null : id } },
  ])
}
/** When it was stored, and whether that is still so. */
const storedWords = computed(() => {
  const { storedAt = null, mark = null } = slot.value ?? {}
  if (storedAt === null) return 'never stored from here'
  const isSame = template.value !== null && templateMark(template.value) === mark
  return `stored ${timeAgo(storedAt)}, ${isSame ? 'unchanged since' : 'changed here since'}`
})
const holdsWords = computed(() => {
  if (!fetched.value) return null
  const { template: held } = fetched.value
  const count = differences.value?.length ?? 0
  if (!held) return 'It is empty.'
  if (!template.value) return `It holds “${held.name}”.`
  return count === 0
    ? `It holds “${held.name}”, as written.`
    : `It holds “${held.name}”: ${count} ${count === 1 ? 'difference' : 'differences'}.`
})
/** Is what is there known: a template of the rig, or kept? */
const isKnown = (held: Template): boolean =>
  [...owner.templates, ...(slot.value?.kept ?? []).map((kept) => kept.template)].some(
    (each) => templateMark(each) === templateMark(held),
  )
const isAsked = ref(false)
function store(): void {
  if (!template.value) return
  const held = fetched.value?.template
  if (held && !isKnown(held) && !isAsked.value) {
    isAsked.value = true
    return
  }
  isAsked.value = false
  void slots.store([{ slot: number, template: template.value }])
}
const MOST = 40
</script>

<template>
  <li class="border-line border-t py-2" :data-slot="number">
    <div class="flex items-center gap-2">
      <span class="tag w-6 text-right font-bold">{{ number }}</span>
      <UiSelect
        :model-value="template?.id ?? OPEN"
        :label="`Slot ${number} is to hold`"
        :options="options"
        @update:model-value="choose"
      />
      <span class="ml-auto flex gap-1">
        <UiButton
          :disabled="slots.underWay !== null"
          :label="`Fetch slot ${number}`"
          data-testid="fetch"
          @click="slots.fetch([number])"
          >Fetch</UiButton
        >
        <UiButton
          v-if="template"
          :disabled="slots.underWay !== null || !rigs.canEdit"
          :label="`Store “${template.name}” in slot ${number}`"
          data-testid="store"
          @click="store"
          >Store</UiButton
        >
      </span>
    </div>
    <p v-if="template || slot?.storedAt" class="text-soft pl-8 text-xs">{{ storedWords }}</p>
    <p v-if="holdsWords" class="pl-8 text-xs" data-testid="holds">
      {{ holdsWords }}
      <button
        v-if="template && (differences?.length ?? 0) > 0"
        type="button"
        class="underline"
        :aria-expanded="isShown"
        data-testid="show-differences"
        @click="isShown = !isShown"
      >
        {{ isShown ? 'hide them' : 'show them' }}
      </button>
    </p>
    <div
      v-if="isAsked"
      class="border-advice ml-8 mt-1 border-l-2 pl-2 text-xs"
      role="alert"
      data-testid="ask-overwrite"
    >
      <p>
        Nobody here knows “{{ fetched?.template?.name }}”, which is in the slot now. It is kept with this slot
        before it is overwritten.
      </p>
      <div class="flex gap-1 pt-1">
        <UiButton look="strong" data-testid="overwrite" @click="store">Keep it and store</UiButton>
        <UiButton @click="isAsked = false">Leave it</UiButton>
      </div>
    </div>
    <table v-if="isShown && differences" class="ml-8 mt-1 text-xs" data-testid="differences">
      <thead>
        <tr class="text-soft text-left">
          <th class="pr-3 font-medium">Control</th>
          <th class="pr-3 font-medium">holds</th>
          <th class="font-medium">will hold</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(each, index) in differences.slice(0, MOST)"
          :key="index"
          class="border-hair border-t align-top"
        >
          <td class="pr-3">
            {{ each.control ?? 'Layers'
            }}<span v-if="each.layer" class="text-soft block">{{ each.layer }}</span>
          </td>
          <td class="tag pr-3">{{ each.was ?? '–' }}</td>
          <td class="tag">{{ each.will ?? '–' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="isShown && (differences?.length ?? 0) > MOST" class="text-soft pl-8 text-xs">
      and {{ (differences?.length ?? 0) - MOST }} more
    </p>
    <ul v-if="slot && slot.kept.length > 0" class="pl-8 pt-1 text-xs" data-testid="kept">
      <li v-for="kept in slot.kept" :key="kept.at" class="flex items-center gap-2">
        <span class="text-soft min-w-0 flex-1 truncate"
          >Kept: “{{ kept.template.name }}”, {{ timeAgo(kept.at) }}</span
        >
        <UiButton
          :disabled="slots.underWay !== null || !rigs.canEdit"
          data-testid="bring-back"
          @click="slots.store([{ slot: number, template: kept.template }])"
          >Bring back</UiButton
        >
      </li>
    </ul>
  </li>
</template>
