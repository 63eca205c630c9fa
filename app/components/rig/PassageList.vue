<script setup lang="ts">
import { ChevronRight, Plus, Trash2 } from '@lucide/vue'
import { withShowingNow, type Passage } from '#core/rig'
import { freeId } from '#core/rig'

/** The passages of the show, in their order; one is open at a time. */
const rigs = useRigStore()
const desk = useDeskStore()
const edit = useEdit()
const passages = computed(() => rigs.rig?.passages ?? [])
const open = ref<string | null>(null)

/** A new passage starts with what the Desk shows. */
function add(): void {
  const { rig } = rigs
  if (!rig) return
  const id = freeId('passage', rig.passages)
  const empty: Passage = { id, name: `Passage ${rig.passages.length + 1}`, showing: [], scopes: [] }
  if (edit(`Add ${empty.name}`, [{ type: 'passage-add', passage: withShowingNow(rig, empty, desk.showing) }]))
    open.value = id
}
const move = (passage: Passage, to: number): boolean =>
  edit(`Move ${passage.name}`, [{ type: 'passage-move', passage: passage.id, to }])
</script>

<template>
  <section data-testid="passages">
    <h3 class="font-bold">Passages of the show</h3>
    <p class="text-soft text-xs">
      What every controller shows, part by part. What never shows in one passage cannot collide.
    </p>
    <ol class="mt-1">
      <li v-for="(passage, index) in passages" :key="passage.id" class="border-line border-b py-0.5">
        <div class="flex items-center gap-0.5">
          <UiButton
            look="plain"
            class="px-1!"
            :label="open === passage.id ? `Close ${passage.name}` : `Open ${passage.name}`"
            :aria-expanded="open === passage.id"
            :data-passage="passage.id"
            @click="open = open === passage.id ? null : passage.id"
            ><ChevronRight :size="14" :class="open === passage.id && 'rotate-90'"
          /></UiButton>
          <InlineName
            class="flex-1"
            :value="passage.name"
            label="Name of the passage"
            @change="
              edit(`Name it ${$event}`, [{ type: 'passage-set', passage: passage.id, set: { name: $event } }])
            "
          />
          <MoveButtons :index="index" :count="passages.length" @move="move(passage, $event)" />
          <UiButton
            look="plain"
            class="px-1!"
            :label="`Delete ${passage.name}`"
            @click="edit(`Delete ${passage.name}`, [{ type: 'passage-remove', passage: passage.id }])"
            ><Trash2 :size="13"
          /></UiButton>
        </div>
        <PassageEditor v-if="open === passage.id" :passage="passage" class="pt-1 pb-3 pl-6" />
      </li>
    </ol>
    <UiButton class="mt-2" data-testid="add-passage" @click="add"><Plus :size="13" />Passage</UiButton>
  </section>
</template>
