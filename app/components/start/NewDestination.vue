<script setup lang="ts">
import { DESTINATION_STARTERS, startDestination, type DestinationStarter } from '#core/rig'
import { destinationStarted, groupsOf } from '~/lib/started'
import { toast } from '~/lib/toast'

/** A new destination from a generic one, joined where only one way makes sense. */
const rigs = useRigStore()
const adding = useAddingStore()
const picture = usePictureStore()
const edit = useEdit()

const starter = shallowRef<DestinationStarter>(DESTINATION_STARTERS[0]!)
const sizes = ref<Record<string, number>>({})
const name = ref('')
const groups = computed(() => groupsOf(starter.value, sizes.value))

async function make(isLast: boolean): Promise<void> {
  if (!rigs.rig) return
  const label = name.value.trim() || starter.value.name
  const started = startDestination(rigs.rig, starter.value, sizes.value, label)
  if (!edit(`Add ${started.name}`, started.edits)) return
  picture.select({ kind: 'destination', id: started.id })
  toast(destinationStarted(started))
  name.value = ''
  if (!isLast) return
  adding.close()
  // What has no lists yet is given some next: typed, pasted, or read from a file.
  if (starter.value.id !== 'blank') return
  await navigateTo('/rig')
  picture.open(started.id)
}
</script>

<template>
  <StarterDialog
    v-model:starter="starter"
    v-model:sizes="sizes"
    v-model:name="name"
    :starters="DESTINATION_STARTERS"
    title="New destination"
    data-testid="new-destination"
    @add="make"
    @close="adding.close()"
  >
    <dl class="border-line mt-3 max-h-64 overflow-auto rounded-md border px-3 py-1 text-xs" tabindex="0">
      <div
        v-for="group in groups"
        :key="group.name"
        class="border-hair grid grid-cols-[9rem_1fr] gap-2 border-b py-1 last:border-0"
      >
        <dt class="font-medium">{{ group.name }}</dt>
        <dd class="text-soft">{{ group.parameters }}</dd>
      </div>
      <p v-if="groups.length === 0" class="text-soft py-2">
        Its lists are empty. Next you can type them, paste cells, or read a file (CSV, MIDI Name Document).
      </p>
    </dl>
    <p class="text-soft mt-2 text-xs">Names, ranges and addresses can all be changed afterwards.</p>
  </StarterDialog>
</template>
