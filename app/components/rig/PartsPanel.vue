<script setup lang="ts">
import { useFileDialog } from '@vueuse/core'
import { Download, FileUp } from '@lucide/vue'
import { PART_WORDS, type PartRef } from '#core/rig/part'
import { toast } from '~/lib/toast'

/** Taking a controller, a destination, roles or rules in from a file or another rig, and keeping them as files. */
const { kept = null } = defineProps<{
  /** What is selected in the rig, to be kept as a file of its own. */
  kept?: PartRef | null
}>()
const parts = usePartsStore()
const rigs = useRigStore()
const shelf = useShelfStore()

const dialog = useFileDialog({ accept: '.json,application/json', multiple: false, reset: true })
dialog.onChange((files) => {
  const file = files?.[0]
  if (file) void parts.openFile(file)
})
const own = computed((): Array<{ ref: PartRef; words: string }> => {
  const { rig } = rigs
  if (!rig) return []
  return [
    ...(kept ? [{ ref: kept, words: `Keep this ${PART_WORDS[kept.kind]} as a file` }] : []),
    ...(rig.lightRoles.length > 0
      ? [{ ref: { kind: 'light-roles' } as const, words: 'Light roles as a file' }]
      : []),
    ...(rig.houseRules.some(({ controller }) => controller === null)
      ? [{ ref: { kind: 'house-rules' } as const, words: 'House rules as a file' }]
      : []),
  ]
})
function keep(ref: PartRef): void {
  const file = parts.fileOf(ref)
  if (file) saveText(fileName(file.name, 'part.json'), file.text, 'application/json')
}
const others = computed(() => [
  { value: '', label: 'another rig' },
  ...shelf.rigs.filter(({ id }) => id !== rigs.id).map(({ id, name: label }) => ({ value: id, label })),
])
const otherId = computed(() => parts.source?.id ?? '')
function open(id: string): void {
  const found = shelf.rigs.find((each) => each.id === id)
  if (found) void parts.openShelf(id, found.name)
}
function accept(): void {
  const { offered } = parts
  if (!offered || !parts.accept()) return
  const { name } = offered.part.rig
  toast(
    offered.place.kind === 'beside'
      ? `${name} is in the rig. It has no cables yet: join it where it belongs.`
      : `${name} has taken its place in the rig. Undo brings back what was there.`,
  )
}
</script>

<template>
  <section class="border-line mt-4 border-t pt-3" data-testid="parts">
    <h3 class="font-bold">Parts</h3>
    <p class="text-soft text-xs">
      A part is a controller, a destination, light roles or house rules as a file of its own, to hand on or
      carry into another rig.
    </p>
    <div class="flex flex-wrap gap-1.5 pt-2">
      <UiButton v-for="each in own" :key="each.words" @click="keep(each.ref)"
        ><Download :size="13" />{{ each.words }}</UiButton
      >
      <UiButton data-testid="part-file" @click="dialog.open()"
        ><FileUp :size="13" />Take in from a file</UiButton
      >
      <UiSelect
        v-if="others.length > 1"
        label="A rig to take a part from"
        caption="take from"
        data-testid="part-from"
        :model-value="otherId"
        :options="others"
        @update:model-value="open"
      />
    </div>
    <ul v-if="parts.source && !parts.offered" class="pt-2" :aria-label="`Parts of ${parts.source.name}`">
      <li v-for="piece in parts.pieces" :key="piece.name">
        <button
          type="button"
          class="hover:bg-hair w-full rounded px-2 py-1 text-left"
          @click="parts.choose(piece.ref)"
        >
          {{ piece.name }} <span class="text-soft text-xs">{{ PART_WORDS[piece.ref.kind] }}</span>
        </button>
      </li>
    </ul>
    <p v-if="parts.failure" class="text-conflict pt-2" role="alert" data-testid="part-failure">
      {{ parts.failure }}
    </p>
    <PartOffer v-if="parts.offered" :offered="parts.offered" @accept="accept" />
  </section>
</template>
