<script setup lang="ts">
import { useFileDialog } from '@vueuse/core'
import type { Point } from '~/lib/history/points'
import { shortly } from '~/lib/history/times'
import { readAway } from '~/lib/reading'
import { readFailure } from '~/lib/read-failure'

/** What is compared with what, and what can be done with all of it. */
const history = useHistoryStore()
const rigs = useRigStore()
const shelf = useShelfStore()
const name = ref('')

const versionAt = computed(() => {
  const { point } = history
  return point?.kind === 'version' ? history.versions.find(({ id }) => id === point.id) : undefined
})
const title = computed(() => {
  const { point, pointName } = history
  if (point === null) return 'The rig as it is now'
  const isOther = point.kind === 'shelf' || point.kind === 'file'
  if (isOther) return `From ${pointName} to this rig`
  if (history.until !== null) return `From ${pointName} to ${history.untilName}`
  return point.kind === 'step' ? `From ${pointName} to now` : `Since ${pointName}`
})
const NOW = ''
interface End {
  value: string
  label: string
  hint?: string
  point: Point | null
}
const ends = computed((): End[] => {
  const { point, until } = history
  const afterEdit = (count: number, label: string): End => ({
    value: `step ${count}`,
    label,
    point: { kind: 'step', count },
  })
  const own = point?.kind === 'step' ? point.count + 1 : null
  return [
    { value: NOW, label: 'now', point: null },
    ...(own === null ? [] : [afterEdit(own, 'just after this edit')]),
    ...(until?.kind === 'step' && until.count !== own ? [afterEdit(until.count, history.untilName)] : []),
    ...history.versions
      .filter(({ id }) => point?.kind !== 'version' || id !== point.id)
      .map(({ id, name: label, at }) => ({
        value: id,
        label: label ?? 'kept by itself',
        hint: shortly(at),
        point: { kind: 'version' as const, id },
      })),
  ]
})
const endValue = computed(() => {
  const { until } = history
  if (until?.kind === 'version') return until.id
  return until?.kind === 'step' ? `step ${until.count}` : NOW
})
const compareUntil = (value: string): void =>
  void history.compareUntil(ends.value.find((end) => end.value === value)?.point ?? null)
const canName = computed(() => history.point === null || ['step', 'version'].includes(history.point.kind))
async function keep(): Promise<void> {
  const wanted = name.value.trim()
  if (wanted === '') return
  name.value = ''
  await history.keepAs(wanted, history.point)
}

const FILE = 'a file'
const others = computed(() => [
  { value: '', label: 'another rig' },
  ...shelf.rigs.filter(({ id }) => id !== rigs.id).map(({ id, name: label }) => ({ value: id, label })),
  { value: FILE, label: 'A file …' },
])
const otherId = computed(() => (history.point?.kind === 'shelf' ? history.point.id : ''))
const dialog = useFileDialog({ accept: '.json,application/json', multiple: false, reset: true })
dialog.onChange((files) => {
  const file = files?.[0]
  if (file) void compareFile(file)
})
async function compareFile(file: File): Promise<void> {
  try {
    const result = await readAway(
      async (reader, report) => reader.rig(file, report),
      () => undefined,
    ).result
    if (result?.ok) return void history.compareWith({ kind: 'file', name: result.rig.name, rig: result.rig })
    const [problem] = result?.problems ?? []
    if (problem) history.failure = `“${file.name}” cannot be compared: ${problem.path} ${problem.message}`
  } catch (error) {
    history.failure = `“${file.name}” cannot be compared. ${readFailure(error)}`
  }
}
function compareOther(id: string): void {
  if (id === FILE) return dialog.open()
  const found = shelf.rigs.find((each) => each.id === id)
  if (found) void history.compareWith({ kind: 'shelf', id, name: found.name })
}
</script>

<template>
  <div class="border-line flex min-h-11 shrink-0 flex-wrap items-center gap-2 border-b px-6 py-1.5">
    <h1 class="mr-auto min-w-0 truncate text-base font-bold" data-testid="history-title">{{ title }}</h1>
    <form v-if="canName" class="flex items-center gap-1" @submit.prevent="keep">
      <input
        v-model="name"
        class="bg-raised border-line h-7 w-36 rounded-md border px-2 text-xs"
        maxlength="120"
        :placeholder="versionAt?.name ?? 'Name this point'"
        aria-label="Name for this point"
        data-testid="version-name"
      />
      <UiButton type="submit" :disabled="name.trim() === ''">{{
        versionAt ? 'Name it' : 'Keep as a version'
      }}</UiButton>
    </form>
    <UiButton v-if="versionAt" data-testid="version-forget" @click="history.forget(versionAt)">{{
      versionAt.name === null ? 'Remove' : 'Remove name'
    }}</UiButton>
    <UiSelect
      v-if="history.point && ends.length > 1"
      label="Up to when it is compared"
      caption="up to"
      is-right
      data-testid="compare-until"
      :model-value="endValue"
      :options="ends"
      @update:model-value="compareUntil"
    />
    <UiSelect
      label="Another rig to compare with"
      caption="compare with"
      is-right
      data-testid="compare-other"
      :model-value="otherId"
      :options="others"
      @update:model-value="compareOther"
    />
    <UiButton v-if="history.point" look="plain" data-testid="compare-end" @click="history.compareWith(null)"
      >Back to now</UiButton
    >
  </div>
</template>
