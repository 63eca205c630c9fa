<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { Pane, Splitpanes } from 'splitpanes'

const rigs = useRigStore()
const desk = useDeskStore()
const preferences = usePreferencesStore()
const plans = usePlanStore()
const shelf = useShelfStore()

/** Plans and findings stand beside surface and lattice, at full height; then nothing stands beside the surface alone. */
const isBeside = computed(() => plans.isOpen || desk.panel === 'findings')

interface Resized {
  panes: ReadonlyArray<{ size: number }>
}
/** What is selected needs so much room to be read; the surface gives way to it. */
const LEAST_SIDE_PX = 340
const regions = useTemplateRef('regions')
const { width } = useElementSize(regions)
/** Upright, what is selected stands below the surface: beside it neither has room. */
const NARROW_PX = 1000
const isNarrow = computed(() => width.value > 0 && width.value < NARROW_PX)
const NARROW_SURFACE = 56
const surfaceSize = computed(() =>
  width.value === 0
    ? preferences.surfaceSize
    : isNarrow.value
      ? NARROW_SURFACE
      : Math.max(35, Math.min(preferences.surfaceSize, 100 - (LEAST_SIDE_PX / width.value) * 100)),
)
const keepUpper = ({ panes }: Resized): void => {
  preferences.upperSize = panes[0]?.size ?? preferences.upperSize
}
const keepSurface = ({ panes }: Resized): void => {
  if (isBeside.value || isNarrow.value) return
  preferences.surfaceSize = panes[0]?.size ?? preferences.surfaceSize
}

useSplitterNames(regions, () => [
  { label: 'Size of the surface', size: surfaceSize.value },
  { label: 'Height of the surface', size: preferences.upperSize },
])
</script>

<template>
  <div class="h-full">
    <div v-if="rigs.rig && desk.controller" ref="regions" class="flex h-full flex-col">
      <DeskBar />
      <div class="flex min-h-0 flex-1">
        <Splitpanes horizontal class="min-w-0 flex-1" :dbl-click-splitter="false" @resized="keepUpper">
          <Pane :size="preferences.upperSize" :min-size="25">
            <Splitpanes
              :key="String(isNarrow)"
              :horizontal="isNarrow"
              :dbl-click-splitter="false"
              @resized="keepSurface"
            >
              <Pane :size="isBeside ? 100 : surfaceSize" :min-size="35"
                ><LazyLedgerView v-if="preferences.upperView === 'ledger'" /><SurfaceView v-else
              /></Pane>
              <Pane :size="isBeside ? 0 : 100 - surfaceSize" :min-size="isBeside ? 0 : 20"
                ><SidePanel v-if="!isBeside"
              /></Pane>
            </Splitpanes>
          </Pane>
          <Pane :size="100 - preferences.upperSize" :min-size="20"
            ><LazyDestinationBoard
              v-if="preferences.lens === 'destinations' && !plans.isOpen" /><LazyLightsBoard
              v-else-if="preferences.lens === 'lights' && !plans.isOpen" /><LatticeView v-else
          /></Pane>
        </Splitpanes>
        <LazyPlanPanel
          v-if="plans.isOpen"
          class="border-line w-[24rem] shrink-0 border-l max-[1000px]:w-[20rem]"
        />
        <aside
          v-else-if="isBeside"
          class="bg-sheet border-line w-[26rem] shrink-0 border-l max-[1000px]:w-[20rem]"
          aria-label="Findings"
          tabindex="-1"
          data-testid="side-panel"
        >
          <LazyFindingsList />
        </aside>
      </div>
    </div>
    <LazyDeskEmpty v-else-if="!shelf.isBooting" />
  </div>
</template>
