<script setup lang="ts">
import { useFullscreen } from '@vueuse/core'
import { Maximize, X } from '@lucide/vue'
import { passageShown } from '#core/bench/passage-shown'

/** The card of a controller on a screen beside the hardware: it follows what comes in, layer and passage too. */
const bench = useBenchStore()
const rigs = useRigStore()
const ports = usePortsStore()
const page = useTemplateRef('page')
const { isFullscreen, isSupported, toggle } = useFullscreen(page)

onMounted(() => bench.start())
watch(
  () => rigs.id,
  () => bench.start(),
)
// What real hardware moves is what is looked at.
watch(
  () => bench.heard,
  (heard) => {
    const moved = heard.at(-1)?.split('/')[0]
    if (moved !== undefined && bench.controllers.some(({ id }) => id === moved)) bench.controllerId = moved
  },
)
const passages = computed(() => rigs.rig?.passages ?? [])
/** The passage that the hardware is in, by the layers that it shows. */
const shownPassage = computed(
  () => passageShown(passages.value, (id) => bench.state?.controllers[id]?.showing)?.id ?? null,
)
watch(
  shownPassage,
  (id) => {
    if (id !== null && id !== bench.passageId) bench.begin(id)
  },
  { immediate: true },
)
const layers = computed(() => {
  const showing = bench.own?.showing
  const template = bench.controller?.templates.find(({ id }) => id === showing?.template)
  return (template?.stacks ?? []).flatMap(
    ({ id, layers: all }) => all.find((layer) => layer.id === showing?.layers[id])?.name ?? [],
  )
})
const heardWords = computed(() =>
  ports.realCount === 0
    ? 'No real port is heard: choose one under Ports on the Bench.'
    : `${ports.realCount} real ports are heard.`,
)
</script>

<template>
  <div ref="page" class="bg-ground text-ink fixed inset-0 z-30 flex flex-col gap-2 p-3" data-testid="living">
    <header class="flex flex-wrap items-center gap-2">
      <button
        v-for="controller in bench.controllers"
        :key="controller.id"
        type="button"
        class="flex h-11 items-center gap-2 rounded-md border px-4 text-base"
        :class="controller === bench.controller ? 'bg-raised border-ink font-bold' : 'border-line text-soft'"
        :aria-pressed="controller === bench.controller"
        :data-living-controller="controller.id"
        @click="bench.controllerId = controller.id"
      >
        <LetterBadge :letter="controller.letter" :hue="controller.hue" />{{ controller.name }}
      </button>
      <p class="text-lg font-bold" aria-live="polite" data-testid="living-layers">{{ layers.join(', ') }}</p>
      <span class="ml-auto" />
      <button
        v-if="isSupported"
        type="button"
        class="border-line grid size-11 place-items-center rounded-md border"
        :aria-pressed="isFullscreen"
        aria-label="Fill the screen"
        title="Fill the screen"
        @click="toggle()"
      >
        <Maximize :size="20" />
      </button>
      <button
        type="button"
        class="border-line grid size-11 place-items-center rounded-md border"
        aria-label="Back to the sheets"
        title="Back to the sheets"
        @click="navigateTo('/sheets')"
      >
        <X :size="20" />
      </button>
    </header>
    <nav v-if="passages.length > 0" class="flex flex-wrap gap-2" aria-label="Passages">
      <button
        v-for="passage in passages"
        :key="passage.id"
        type="button"
        class="h-11 rounded-md border px-4 text-base"
        :class="passage.id === bench.passageId ? 'bg-raised border-ink font-bold' : 'border-line text-soft'"
        :aria-pressed="passage.id === bench.passageId"
        :data-living-passage="passage.id"
        @click="bench.begin(passage.id)"
      >
        {{ passage.name }}
      </button>
    </nav>
    <p
      v-if="bench.failure !== null"
      class="bg-conflict-soft text-conflict flex items-center gap-3 rounded-md px-4 py-2"
      role="alert"
    >
      The card no longer follows what comes in. {{ bench.failure }}
      <UiButton class="ml-auto" @click="bench.restart()">Follow again</UiButton>
    </p>
    <LivingSurface v-if="bench.controller" />
    <EmptyState v-else title="No controller to show">
      A card shows a controller that is in use. Open a rig that has one.
      <template #actions
        ><UiButton look="strong" @click="navigateTo('/desk')">Go to the Desk</UiButton></template
      >
    </EmptyState>
    <footer class="text-soft text-xs">{{ heardWords }}</footer>
  </div>
</template>
