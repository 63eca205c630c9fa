<script setup lang="ts">
import { modelOf, rigIndex, type Controller, type Id } from '#core/rig'
import { inkedPaths } from '#core/sheets/drawing'
import { controlsInBoth, marksOf } from '~/lib/history/marks'

/** The surfaces on which something changed: what is gone, new, moved or changed, each by its own mark. */
const history = useHistoryStore()
const frame = useTemplateRef('frame')

const marks = computed(() => (history.report ? marksOf(history.report) : new Map()))
const controllers = computed((): Controller[] => {
  const [before, after] = [history.other, history.later]
  const all = [...(after?.controllers ?? []), ...(before?.controllers ?? [])]
  const seen = new Set<Id>()
  return all.filter(({ id }) => marks.value.has(id) && !seen.has(id) && seen.add(id))
})
const shown = computed(
  () => controllers.value.find(({ id }) => id === history.controllerId) ?? controllers.value[0] ?? null,
)
const surface = computed(() => {
  const rig = history.later
  const id = shown.value?.id
  if (!rig || id === undefined) return null
  const owner = rigIndex(rig).controllers.get(id)
  if (owner) return modelOf(rig, owner).surface
  return shown.value && history.other ? modelOf(history.other, shown.value).surface : null
})
const { width, scale } = useFittedSurface(frame, () => surface.value)
const drawn = computed(() =>
  history.later && shown.value
    ? controlsInBoth(history.other, history.later, shown.value.id).map((control) => {
        const { x, y, w, h } = control.place
        return {
          control,
          paths: inkedPaths(control, scale.value),
          kind: marks.value.get(shown.value?.id ?? '')?.get(control.id) ?? null,
          x: (x + w / 2) * scale.value,
          y: (y + h / 2) * scale.value,
        }
      })
    : [],
)
const MARK_PX = 14
const hasCells = computed(() => history.cells.some(({ state }) => state !== 'same'))
</script>

<template>
  <div v-if="shown || hasCells" class="border-line flex h-64 shrink-0 flex-col border-b px-6 pt-2 pb-3">
    <ControllerTabs
      v-if="shown"
      class="shrink-0 pb-2"
      :controllers="controllers"
      :shown="shown"
      @choose="history.controllerId = $event"
    />
    <div class="flex min-h-0 flex-1 gap-6">
      <div v-if="shown" class="flex min-w-0 flex-1 flex-col">
        <div ref="frame" class="relative min-h-0 flex-1">
          <ul class="text-soft text-2xs absolute right-0 bottom-0 flex gap-3" aria-label="Marks">
            <li
              v-for="kind in ['new', 'gone', 'moved', 'changed'] as const"
              :key="kind"
              class="flex items-center gap-1"
            >
              <ChangeMark :kind="kind" />{{ kind }}
            </li>
          </ul>

          <svg
            v-if="surface && width > 0"
            class="absolute top-0 left-0"
            :width="surface.width * scale"
            :height="surface.height * scale"
            overflow="visible"
            role="img"
            :aria-label="`${shown.name}: what changed`"
            data-testid="history-surface"
          >
            <g
              v-for="each in drawn"
              :key="each.control.id"
              :class="each.kind === null ? 'opacity-45' : ''"
              :data-marked="each.kind"
            >
              <title>{{ each.control.label }}{{ each.kind === null ? '' : `: ${each.kind}` }}</title>
              <path
                v-for="(path, index) in each.paths"
                :key="index"
                :d="path.d"
                class="stroke-soft"
                :class="
                  each.kind === null ? 'fill-raised' : each.kind === 'gone' ? 'fill-none' : 'fill-marker'
                "
                :stroke-dasharray="each.kind === 'gone' ? '3 2.5' : undefined"
              />
              <svg
                v-if="each.kind !== null"
                :x="each.x - MARK_PX / 2"
                :y="each.y - MARK_PX / 2"
                :width="MARK_PX"
                :height="MARK_PX"
                class="text-on-marker overflow-visible"
                :class="each.kind === 'gone' && 'text-conflict'"
              >
                <ChangeMark :kind="each.kind" />
              </svg>
            </g>
          </svg>
        </div>
      </div>
      <HistoryLattice v-if="hasCells" :cells="history.cells" />
    </div>
  </div>
</template>
