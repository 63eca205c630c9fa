<script setup lang="ts">
import { useFileDialog } from '@vueuse/core'
import { Download, FileUp } from '@lucide/vue'
import { timeAgo } from '~/lib/time-ago'
import type { Standing } from '~/storage/backup'
import { toast } from '~/lib/toast'

/** Everything in one file, and back from it. */
const backups = useBackupStore()
const dialog = useFileDialog({ accept: '.gz,application/gzip', multiple: false, reset: true })
dialog.onChange((files) => {
  const file = files?.[0]
  if (file) void backups.open(file)
})
onMounted(() => void backups.lookAtPromise())

async function make(): Promise<void> {
  const file = await backups.make()
  if (file) saveBlob(`deft-lattice-backup-${new Date().toISOString().slice(0, 10)}.json.gz`, file)
}
const last = computed(() =>
  backups.lastAt === 0
    ? 'No backup was made in this browser yet.'
    : `The last backup was made ${timeAgo(new Date(backups.lastAt).toISOString())}.`,
)
const STANDING: Readonly<Record<Standing, string>> = {
  new: 'not here: it would be added',
  same: 'here, just so: nothing to do',
  differs: 'here, and different now: it would come as a copy',
  binned: 'in the bin here: it would come as a copy',
}
const newCount = computed(
  () => backups.lines.filter(({ standing, isDone }) => standing === 'new' && !isDone).length,
)
function takeSettings(): void {
  const unknown = backups.takeSettings()
  const left =
    unknown === 0 ? '' : ` ${unknown} of them ${unknown === 1 ? 'is' : 'are'} not known here and stayed out.`
  toast(`The settings of the backup count from the next time this page is loaded.${left}`)
}
</script>

<template>
  <section class="border-line border-t pt-4" data-testid="backup">
    <h2 class="text-ink font-bold">Backup</h2>
    <p>
      One file of all rigs in this browser, with their versions and your settings.
      <span :class="backups.isOld && 'text-advice font-bold'" data-testid="backup-last">{{ last }}</span>
    </p>
    <div class="flex flex-wrap gap-1.5 pt-2">
      <UiButton look="strong" :disabled="backups.isBusy" data-testid="backup-make" @click="make"
        ><Download :size="13" />Back up everything</UiButton
      >
      <UiButton :disabled="backups.isBusy" data-testid="backup-open" @click="dialog.open()"
        ><FileUp :size="13" />Restore from a backup</UiButton
      >
      <UiButton v-if="backups.isPromised === false" data-testid="backup-promise" @click="backups.askPromise()"
        >Ask the browser to keep it for good</UiButton
      >
    </div>
    <p v-if="backups.isPromised === false" class="pt-1 text-xs">
      A browser may clear what a page keeps when its disk runs full. This one can be asked not to.
    </p>
    <p v-if="backups.isPromised" class="pt-1 text-xs">
      This browser has promised not to clear what is kept here.
    </p>
    <BackupFile />
    <p v-if="backups.isBusy" class="pt-2" role="status">Working …</p>
    <p v-if="backups.failure" class="text-conflict pt-2" role="alert" data-testid="backup-failure">
      {{ backups.failure }}
    </p>
    <div v-if="backups.opened" class="border-line mt-3 rounded-md border p-3" data-testid="restore">
      <p class="text-ink font-bold">{{ backups.opened.name }}</p>
      <p>
        Made {{ timeAgo(new Date(backups.opened.backup.madeAt).toISOString()) }}. Restoring replaces nothing:
        what is here stays.
      </p>
      <ul class="py-2">
        <li v-for="line in backups.lines" :key="line.backed.id" class="flex min-h-8 items-center gap-3">
          <span class="text-ink min-w-0 flex-1 truncate">{{ line.backed.rig.name }}</span>
          <span class="text-xs">{{ line.isDone ? 'restored' : STANDING[line.standing] }}</span>
          <UiButton
            v-if="!line.isDone && line.standing !== 'same'"
            data-testid="restore-one"
            @click="backups.restore(line)"
            >{{ line.standing === 'new' ? 'Restore' : 'Restore a copy' }}</UiButton
          >
        </li>
        <li v-if="backups.lines.length === 0">There is no rig in it.</li>
      </ul>
      <div class="flex gap-1.5">
        <UiButton v-if="newCount > 1" look="strong" data-testid="restore-new" @click="backups.restoreNew()"
          >Restore all {{ newCount }} that are not here</UiButton
        >
        <UiButton @click="takeSettings">Take over its settings</UiButton>
        <UiButton @click="backups.close()">Done</UiButton>
      </div>
    </div>
  </section>
</template>
