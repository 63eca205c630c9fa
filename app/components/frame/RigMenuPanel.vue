<script setup lang="ts">
import { Copy, Download, FilePlus, FileUp, Trash2 } from '@lucide/vue'
import { toast } from '~/lib/toast'

/** The open rig by name, and all others: what can be done with them. */
const emit = defineEmits<{ done: []; import: [] }>()
const shelf = useShelfStore()
const rigs = useRigStore()
const backups = useBackupStore()
const file = useBackupFileStore()
const edit = useEdit()
const { exportRig } = useRigFiles()

const name = ref('')
watch(
  () => rigs.rig?.name,
  (value) => {
    name.value = value ?? ''
  },
  { immediate: true },
)

function rename(): void {
  if (!rigs.rig || name.value.trim() === rigs.rig.name) return
  if (!edit('Rename the rig', [{ type: 'rig-set', set: { name: name.value } }])) name.value = rigs.rig.name
}

async function remove(id: string, label: string): Promise<void> {
  await shelf.remove(id)
  toast(`“${label}” was deleted.`, {
    action: { label: 'Undo', onClick: () => void shelf.bringBack(id) },
    duration: 10_000,
  })
}

const opened = (time: number): string =>
  new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(time)
</script>

<template>
  <div>
    <form v-if="rigs.rig" class="mb-3" @submit.prevent="rename">
      <label class="text-soft text-xs" for="rig-name">Name of this rig</label>
      <input
        id="rig-name"
        v-model="name"
        class="bg-sheet border-line mt-1 h-8 w-full rounded-md border px-2 font-medium"
        maxlength="120"
        :disabled="!rigs.canEdit"
        @blur="rename"
      />
      <div class="mt-2 flex gap-1.5">
        <UiButton @click="(exportRig(), emit('done'))"><Download :size="14" />Export</UiButton>
        <UiButton @click="(rigs.id && shelf.duplicate(rigs.id), emit('done'))"
          ><Copy :size="14" />Duplicate</UiButton
        >
        <UiButton class="ml-auto" @click="(rigs.id && remove(rigs.id, rigs.rig.name), emit('done'))"
          ><Trash2 :size="14" />Delete</UiButton
        >
      </div>
    </form>
    <h3 class="text-soft border-line border-t pt-2 text-xs">Rigs in this browser</h3>
    <p v-if="shelf.rigs.length === 0" class="py-2">None yet. Start from the demo, or import a file.</p>
    <ul class="-mx-1 my-1 max-h-64 overflow-auto px-1 py-1">
      <li v-for="entry in shelf.rigs" :key="entry.id" class="group flex items-center">
        <button
          type="button"
          class="hover:bg-hair flex min-w-0 flex-1 items-baseline justify-between gap-3 rounded-md px-2 py-1.5 text-left"
          :aria-current="entry.id === rigs.id"
          @click="(shelf.openRig(entry.id), emit('done'))"
        >
          <span class="truncate" :class="entry.id === rigs.id && 'font-bold'">{{ entry.name }}</span>
          <span class="text-soft shrink-0 text-xs">{{
            entry.id === rigs.id ? 'open' : opened(entry.openedAt)
          }}</span>
        </button>
        <UiButton look="plain" :label="`Delete ${entry.name}`" @click="remove(entry.id, entry.name)">
          <Trash2 :size="14" />
        </UiButton>
      </li>
    </ul>
    <RigBin v-if="shelf.bin.length > 0" @done="emit('done')" />
    <div class="border-line flex flex-wrap gap-1.5 border-t pt-3">
      <UiButton @click="(navigateTo('/history#backup'), emit('done'))"
        >Backup<span v-if="file.state === 'asks' || file.state === 'failed'" class="text-advice"
          >: the file is not written</span
        ><span v-else-if="backups.isOld" class="text-advice">: {{ backups.since }}</span></UiButton
      >
      <UiButton data-testid="new-rig" @click="(shelf.openEmpty(), emit('done'))"
        ><FilePlus :size="14" />New rig</UiButton
      >
      <UiButton @click="(emit('import'), emit('done'))"><FileUp :size="14" />Import a file</UiButton>
      <UiButton @click="(shelf.openDemo('as-found'), emit('done'))">Demo as found</UiButton>
      <UiButton @click="(shelf.openDemo('as-performed'), emit('done'))">Demo as performed</UiButton>
    </div>
  </div>
</template>
