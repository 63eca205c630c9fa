<script setup lang="ts">
import { powerUpShowing, type Controller } from '#core/rig'

/** How the simulated hardware stands: to try a line check on hardware that is not as written. */
const { controller } = defineProps<{ controller: Controller }>()
const line = useLineCheckStore()
const bench = useBenchStore()
const ports = usePortsStore()
const isShown = ref(false)
const OWN = ''
const now = computed(() => line.disturbanceOf(controller.id))
const isOff = computed(() => now.value.port !== null || now.value.home !== null || now.value.octaves !== 0)
const portOptions = computed(() => [
  { value: OWN, label: 'its own' },
  ...bench.controllers
    .filter(({ id }) => id !== controller.id)
    .map(({ id, name }) => ({ value: id, label: name })),
])
const homes = computed(() => [
  { value: OWN, label: `${controller.homeChannel}, as written` },
  ...Array.from({ length: 16 }, (_, index) => String(index + 1))
    .filter((channel) => Number(channel) !== controller.homeChannel)
    .map((channel) => ({ value: channel, label: channel })),
])
const octaves = [-2, -1, 0, 1, 2].map((value) => ({
  value: String(value),
  label: value === 0 ? 'as written' : value > 0 ? `${value} up` : `${-value} down`,
}))
const templates = computed(() => controller.templates.map(({ id, name }) => ({ value: id, label: name })))
const shown = computed(() => bench.state?.controllers[controller.id]?.showing.template ?? '')
const load = (id: string): void => bench.show(powerUpShowing(controller, id))
</script>

<template>
  <div v-if="!ports.realControllers.has(controller.id)" class="pt-3 text-xs">
    <button
      type="button"
      class="text-soft hover:text-ink underline"
      :aria-expanded="isShown"
      data-testid="line-hardware"
      @click="isShown = !isShown"
    >
      {{ controller.name }} here is simulated<template v-if="isOff">, and not as written</template>
    </button>
    <div v-if="isShown" class="flex flex-wrap items-center gap-1.5 pt-1">
      <UiSelect
        label="The port that it is plugged into"
        caption="Port of"
        :model-value="now.port ?? OWN"
        :options="portOptions"
        data-testid="swap-port"
        @update:model-value="line.swapPorts(controller.id, $event === OWN ? null : $event)"
      />
      <UiSelect
        v-if="templates.length > 1"
        label="The template that is loaded"
        caption="Loaded"
        :model-value="shown"
        :options="templates"
        data-testid="load-template"
        @update:model-value="load"
      />
      <UiSelect
        label="Its home channel"
        caption="Home channel"
        :model-value="now.home === null ? OWN : String(now.home)"
        :options="homes"
        data-testid="set-home"
        @update:model-value="line.disturb(controller.id, { home: $event === OWN ? null : Number($event) })"
      />
      <UiSelect
        label="Octave of its keys"
        caption="Octave"
        :model-value="String(now.octaves)"
        :options="octaves"
        @update:model-value="line.disturb(controller.id, { octaves: Number($event) })"
      />
    </div>
  </div>
</template>
