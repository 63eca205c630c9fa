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
  const name = parts.offered?.part.rig.name ?? ''
  if (parts.accept()) toast(`${name} is in the rig. It has no cables yet: join it where it belongs.`)
}
const MOST = 5
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
    <div v-if="parts.offered" class="border-line mt-2 rounded-md border p-3" data-testid="part-offer">
      <p class="font-bold">{{ parts.offered.part.rig.name }}</p>
      <p class="text-soft text-xs">
        It comes beside what is there, replaces nothing, and is joined to nothing.
      </p>
      <ul class="pt-1 text-xs">
        <li v-for="each in parts.offered.taken.renamed" :key="each.to">
          The {{ each.what }} “{{ each.from }}” will be called “{{ each.to }}”: that name is taken.
        </li>
        <li v-for="each in parts.offered.taken.shared" :key="each">
          The {{ each }} is here already and is used.
        </li>
      </ul>
      <p v-if="parts.offered.came === null" class="text-soft pt-1 text-xs" role="status">Checking …</p>
      <template v-else-if="parts.offered.came.length > 0">
        <p class="pt-1 text-xs font-bold">Then these would be found:</p>
        <ul class="text-xs">
          <li v-for="each in parts.offered.came.slice(0, MOST)" :key="each.id" class="flex gap-2 py-0.5">
            <SeverityMark :severity="each.severity" /> {{ each.message }}
          </li>
          <li v-if="parts.offered.came.length > MOST" class="text-soft">
            and {{ parts.offered.came.length - MOST }} more
          </li>
        </ul>
      </template>
      <p v-else class="pt-1 text-xs">Nothing would be found with it until it is cabled.</p>
      <div class="flex gap-1.5 pt-2">
        <UiButton look="strong" :disabled="!rigs.canEdit" data-testid="part-accept" @click="accept"
          >Take it in</UiButton
        >
        <UiButton @click="parts.offered = null">Leave it</UiButton>
      </div>
    </div>
  </section>
</template>
