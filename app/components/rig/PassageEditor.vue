<script setup lang="ts">
import {
  shownIn,
  withLayer,
  withScope,
  withShowingNow,
  withTemplate,
  type Controller,
  type Passage,
  type Stack,
} from '#core/rig'

/** What shows in a passage: for every controller its template and layers, for every destination its scope. */
const { passage } = defineProps<{ passage: Passage }>()
const rigs = useRigStore()
const desk = useDeskStore()
const edit = useEdit()

/** Values of a list that stand for “left open” and “none shows”. */
const OPEN = ''
const NONE = '-'

const controllers = computed(() =>
  (rigs.rig?.controllers ?? [])
    .filter(({ inUse }) => inUse)
    .map((controller) => {
      const shown = shownIn(passage, controller.id)
      const template = controller.templates.find(({ id }) => id === shown?.template)
      return { controller, template: shown?.template ?? OPEN, stacks: template?.stacks ?? [] }
    }),
)
const scoped = computed(() => (rigs.rig?.destinations ?? []).filter(({ scopes }) => scopes.length > 0))

const layerOf = (controller: Controller, stack: Stack): string => {
  const said = shownIn(passage, controller.id)?.layers.find((each) => each.stack === stack.id)
  return said === undefined ? OPEN : (said.layer ?? NONE)
}
const scopeOf = (destination: string): string => {
  const said = passage.scopes.find((each) => each.destination === destination)
  return said === undefined ? OPEN : (said.scope ?? NONE)
}
const meant = (value: string): string | null | undefined =>
  value === OPEN ? undefined : value === NONE ? null : value
const valueOf = (event: Event): string => (event.target as HTMLSelectElement).value

function set({ showing, scopes }: Passage): void {
  edit(`Change ${passage.name}`, [{ type: 'passage-set', passage: passage.id, set: { showing, scopes } }])
}
async function show(): Promise<void> {
  desk.showPassage(passage)
  await navigateTo('/desk')
}
</script>

<template>
  <div class="text-xs" data-testid="passage-editor">
    <div class="grid grid-cols-[max-content_1fr] items-center gap-x-3 gap-y-1">
      <template v-for="{ controller, template, stacks } in controllers" :key="controller.id">
        <label :for="`shows-${controller.id}`" class="flex items-center gap-1.5 font-medium">
          <LetterBadge :letter="controller.letter" :hue="controller.hue" />{{ controller.name }}
        </label>
        <select
          :id="`shows-${controller.id}`"
          :value="template"
          class="bg-raised border-line h-7 max-w-44 rounded-md border px-1"
          @change="set(withTemplate(passage, controller.id, meant(valueOf($event)) ?? null))"
        >
          <option :value="OPEN">shows anything</option>
          <option v-for="each in controller.templates" :key="each.id" :value="each.id">
            {{ each.name }}
          </option>
        </select>
        <template v-for="stack in stacks" :key="stack.id">
          <label :for="`shows-${controller.id}-${stack.id}`" class="text-soft pl-6">{{ stack.name }}</label>
          <select
            :id="`shows-${controller.id}-${stack.id}`"
            :value="layerOf(controller, stack)"
            class="bg-raised border-line h-7 max-w-44 rounded-md border px-1"
            @change="set(withLayer(passage, controller.id, stack.id, meant(valueOf($event))))"
          >
            <option :value="OPEN">any layer</option>
            <option v-for="layer in stack.layers" :key="layer.id" :value="layer.id">{{ layer.name }}</option>
            <option :value="NONE">none shows</option>
          </select>
        </template>
      </template>
      <template v-for="destination in scoped" :key="destination.id">
        <label :for="`scope-${destination.id}`" class="font-medium">{{ destination.name }} is in</label>
        <select
          :id="`scope-${destination.id}`"
          :value="scopeOf(destination.id)"
          class="bg-raised border-line h-7 max-w-44 rounded-md border px-1"
          @change="set(withScope(passage, destination.id, meant(valueOf($event))))"
        >
          <option :value="OPEN">any project or page</option>
          <option v-for="scope in destination.scopes" :key="scope.id" :value="scope.id">
            {{ scope.name }}
          </option>
          <option :value="NONE">none of its own</option>
        </select>
      </template>
    </div>
    <div class="mt-2 flex flex-wrap gap-1.5">
      <UiButton @click="show">Show it on the Desk</UiButton>
      <UiButton
        data-testid="take-showing"
        @click="rigs.rig && set(withShowingNow(rigs.rig, passage, desk.showing))"
        >Take what the Desk shows</UiButton
      >
    </div>
  </div>
</template>
