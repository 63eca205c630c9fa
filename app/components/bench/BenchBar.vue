<script setup lang="ts">
import { Power } from '@lucide/vue'
import { powerUpShowing } from '#core/rig'

/** Which controller is played, what it shows, and the part of the show. */
const bench = useBenchStore()
const rigs = useRigStore()
const ports = usePortsStore()
const simulated = computed(() =>
  ports.realCount === 0 ? 'all simulated' : `${ports.realCount} real, the rest simulated`,
)
const NONE = ''

const template = computed(() =>
  bench.controller?.templates.find(({ id }) => id === bench.own?.showing.template),
)
const templates = computed(
  () => bench.controller?.templates.map(({ id, name }) => ({ value: id, label: name })) ?? [],
)
const stacks = computed(() =>
  (template.value?.stacks ?? []).map(({ id, name, layers }) => ({
    id,
    name,
    options: [
      ...layers.map((layer) => ({ value: layer.id, label: layer.name })),
      { value: NONE, label: 'none shown' },
    ],
  })),
)
const passages = computed(() => [
  { value: NONE, label: 'none begun' },
  ...(rigs.rig?.passages ?? []).map(({ id, name }) => ({ value: id, label: name })),
])
function showTemplate(id: string): void {
  if (bench.controller) bench.show(powerUpShowing(bench.controller, id))
}
function showLayer(stack: string, layer: string): void {
  if (bench.own)
    bench.show({
      ...bench.own.showing,
      layers: { ...bench.own.showing.layers, [stack]: layer === NONE ? null : layer },
    })
}
</script>

<template>
  <div class="border-line flex min-h-12 shrink-0 flex-wrap items-center gap-x-2 gap-y-1 border-b px-4 py-1.5">
    <ControllerTabs
      :controllers="bench.controllers"
      :shown="bench.controller"
      @choose="bench.controllerId = $event"
    />
    <span class="bg-line mx-1 h-6 w-px" />
    <UiSelect
      v-if="templates.length > 1"
      :model-value="template?.id ?? NONE"
      label="Template"
      caption="Template"
      :options="templates"
      @update:model-value="showTemplate"
    />
    <UiSelect
      v-for="stack in stacks"
      :key="stack.id"
      :label="`Layer of ${stack.name}`"
      :caption="stack.name"
      :model-value="bench.own?.showing.layers[stack.id] ?? NONE"
      :options="stack.options"
      @update:model-value="showLayer(stack.id, $event)"
    />
    <UiSelect
      v-if="passages.length > 1"
      label="Passage"
      caption="Passage"
      data-testid="passage"
      :model-value="bench.passageId ?? NONE"
      :options="passages"
      @update:model-value="bench.begin($event)"
    />
    <div class="ml-auto flex items-center gap-1.5">
      <span class="text-soft text-xs">{{ simulated }}</span>
      <UiButton label="Switch everything off and on again" class="px-2!" @click="bench.restart()"
        ><Power :size="14"
      /></UiButton>
    </div>
  </div>
</template>
