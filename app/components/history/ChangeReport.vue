<script setup lang="ts">
import type { ChangeReport } from '#core/history'
import { FORMATS } from '~/lib/sheet-formats'

/** In what the rig differs from the point that was chosen. */
const { report } = defineProps<{ report: ChangeReport }>()
const history = useHistoryStore()
const MOST = 8
const MOST_FINDINGS = 3
const sheets = useSheetsStore()
const { saveChanges } = useSheetFiles()
async function keepAs(format: string): Promise<void> {
  const both = await history.both()
  if (both) await saveChanges(both.before, both.after, history.pointName, format)
}
const backAll = (): void => void history.bringBack('Bring all of it back', [[]])
const came = computed(() => history.findings?.came ?? [])
const went = computed(() => history.findings?.went ?? [])
const lists = computed(() =>
  [
    { heading: 'Findings that came', list: came.value },
    { heading: 'Findings that went', list: went.value },
  ].filter(({ list }) => list.length > 0),
)
</script>

<template>
  <p v-if="report.count === 0" class="text-soft" data-testid="history-same">
    Nothing differs: the rig is as it was then.
  </p>
  <template v-else>
    <p v-if="sheets.failure" class="text-conflict pb-2" role="alert">{{ sheets.failure }}</p>
    <div class="flex items-center gap-3 pb-3">
      <p class="font-bold" role="status" data-testid="history-summary">
        {{ report.count }} {{ report.count === 1 ? 'thing differs' : 'things differ' }}
      </p>
      <UiButton :disabled="!history.canBringBack" data-testid="bring-back-all" @click="backAll"
        >Bring back all of it</UiButton
      >
      <span class="text-soft ml-auto text-xs">Keep this as a sheet</span>
      <UiButton v-if="sheets.writing !== null" look="strong" @click="sheets.stop()">Stop</UiButton>
      <div v-else class="flex gap-1">
        <UiButton
          v-for="format in FORMATS"
          :key="format.id"
          look="plain"
          :data-changes="format.id"
          @click="keepAs(format.id)"
          >{{ format.name }}</UiButton
        >
      </div>
    </div>
    <div v-if="report.teach.length > 0" class="pb-3 text-sm" data-testid="history-teach">
      <span class="font-bold">Teach again:</span> {{ report.teach.slice(0, MOST).join(', ') }}
      <template v-if="report.teach.length > MOST">and {{ report.teach.length - MOST }} more</template>
    </div>
    <div v-if="came.length + went.length > 0" class="flex gap-6 pb-4 text-sm" data-testid="history-findings">
      <div v-for="{ heading, list } in lists" :key="heading" class="min-w-0 flex-1">
        <h2 class="text-soft text-xs font-bold">{{ heading }}: {{ list.length }}</h2>
        <ul>
          <li v-for="each in list.slice(0, MOST_FINDINGS)" :key="each.id" class="flex gap-2 py-0.5">
            <SeverityMark :severity="each.severity" />
            <span class="line-clamp-2" :title="each.message">{{ each.message }}</span>
          </li>
        </ul>
        <p v-if="list.length > MOST_FINDINGS" class="text-soft text-xs">
          and {{ list.length - MOST_FINDINGS }} more
        </p>
      </div>
    </div>
    <ChangeGroup v-for="group in report.groups" :key="group.key" :group="group" />
  </template>
</template>
