<script setup lang="ts">
import { ArrowLeft, ArrowRight, Copy, Download, Trash2, X } from '@lucide/vue'
import type { Controller, RigEdit } from '#core/rig'
import { controllerNames, controllerProperties, freeId } from '#core/rig'

const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()
const takeAway = useRemoval()

const controller = computed(() => desk.controller)
type Settings = Extract<RigEdit, { type: 'controller-set' }>['set']
const set = (label: string, change: Settings): void => {
  if (controller.value)
    edit(label, [{ type: 'controller-set', controller: controller.value.id, set: change }])
}
const position = computed(() => desk.controllers.findIndex((each) => each === controller.value))
const move = (to: number): void => {
  if (controller.value)
    edit(`Move ${controller.value.name}`, [{ type: 'controller-move', controller: controller.value.id, to }])
}

function duplicate(): void {
  const { rig } = rigs
  if (!controller.value || !rig) return
  const owners = [...rig.controllers, ...rig.destinations, ...rig.boxes, ...rig.computers]
  const copy: Controller = {
    ...controller.value,
    id: freeId('controller', owners),
    name: `${controller.value.name} copy`,
    deviceNumber: Math.min(127, controller.value.deviceNumber + 1),
  }
  if (
    edit(`Duplicate ${controller.value.name}`, [{ type: 'controller-add', controller: copy, model: null }])
  ) {
    desk.chooseController(copy.id)
  }
}

const files = useListFiles()
function saveNames(): void {
  if (controller.value && desk.model)
    void files.saveNames(controller.value.name, controllerNames(controller.value, desk.model))
}
function saveProperties(): void {
  if (controller.value && desk.model)
    void files.saveProperties(controller.value.name, controllerProperties(controller.value, desk.model))
}

function remove(): void {
  const gone = controller.value
  if (!gone) return
  if (takeAway(`Remove ${gone.name}`, [{ type: 'controller-remove', controller: gone.id }]))
    desk.panel = 'selection'
}
</script>

<template>
  <div v-if="controller" :key="controller.id" class="px-5 py-4" data-testid="controller-panel">
    <header class="flex items-start justify-between">
      <h2 class="text-lg font-bold">{{ controller.name }}</h2>
      <UiButton look="plain" label="Close the controller" @click="desk.panel = 'selection'"
        ><X :size="15"
      /></UiButton>
    </header>
    <div class="mt-2 grid grid-cols-[max-content_1fr] items-center gap-x-3 gap-y-1.5">
      <span class="text-soft text-xs">Name</span>
      <InlineName
        class="border-line! bg-raised"
        :value="controller.name"
        label="Name of the controller"
        @change="set(`Name it ${$event}`, { name: $event })"
      />
      <span class="text-soft text-xs">Letter, hue</span>
      <span class="flex items-center gap-1.5">
        <InlineName
          class="border-line! bg-raised w-10"
          :value="controller.letter"
          label="Letter"
          @change="set('Letter', { letter: $event.toUpperCase() })"
        />
        <button
          v-for="hue in 8"
          :key="hue"
          type="button"
          class="size-5 rounded"
          :style="{ background: `var(--hue-${hue - 1})` }"
          :class="controller.hue === hue - 1 && 'ring-ink ring-2 ring-offset-1'"
          :aria-label="`Hue ${hue}`"
          :aria-pressed="controller.hue === hue - 1"
          @click="set('Hue', { hue: hue - 1 })"
        />
      </span>
      <label for="home-channel" class="text-soft text-xs">Home channel</label>
      <select
        id="home-channel"
        class="bg-raised border-line h-7 w-20 rounded-md border px-1.5"
        :value="controller.homeChannel"
        @change="set('Home channel', { homeChannel: Number(($event.target as HTMLSelectElement).value) })"
      >
        <option v-for="channel in 16" :key="channel" :value="channel">{{ channel }}</option>
      </select>
      <span class="text-soft text-xs">Now</span>
      <span class="flex gap-1.5">
        <ChipToggle :is-on="controller.inUse" @click="set('In use', { inUse: true })">in use</ChipToggle>
        <ChipToggle :is-on="!controller.inUse" @click="set('Put away', { inUse: false })"
          >put away</ChipToggle
        >
      </span>
    </div>
    <PortList
      class="border-line mt-3 border-t pt-3"
      :owner="controller.id"
      :directions="['in', 'out', 'thru']"
    />
    <ControllerAbilities class="mt-3" />
    <div class="border-line mt-3 flex flex-wrap gap-1.5 border-t pt-3">
      <UiButton label="Further left" class="px-1.5!" :disabled="position <= 0" @click="move(position - 1)"
        ><ArrowLeft :size="14"
      /></UiButton>
      <UiButton
        label="Further right"
        class="px-1.5!"
        :disabled="position >= desk.controllers.length - 1"
        @click="move(position + 1)"
        ><ArrowRight :size="14"
      /></UiButton>
      <UiButton @click="duplicate"><Copy :size="13" />Duplicate</UiButton>
      <UiButton
        title="What its controls and notes are called, as a MIDI Name Document"
        data-testid="save-controller-names"
        @click="saveNames"
        ><Download :size="13" />MIDI names</UiButton
      >
      <UiButton
        title="What it sends, as MIDI-CI property exchange has it (JSON)"
        data-testid="save-controller-properties"
        @click="saveProperties"
        ><Download :size="13" />MIDI-CI lists</UiButton
      >
      <UiButton class="ml-auto" @click="remove"><Trash2 :size="13" />Remove</UiButton>
    </div>
  </div>
</template>
