<script setup lang="ts">
import { ENCODING_WORDS, type Abilities, type RelativeEncoding } from '#core/rig'

const desk = useDeskStore()
const edit = useEdit()
const abilities = computed(() => desk.model?.abilities ?? null)

const ENCODINGS = Object.entries(ENCODING_WORDS) as ReadonlyArray<[RelativeEncoding, string]>
const NUMBERS = [
  { key: 'slots', name: 'Memory slots' },
  { key: 'stacks', name: 'Stacks' },
  { key: 'layersAStack', name: 'Layers a stack' },
] as const

function set(change: Partial<Abilities>): void {
  const { model } = desk
  if (model)
    edit('What the hardware can do', [
      { type: 'abilities-set', model: model.id, abilities: { ...model.abilities, ...change } },
    ])
}
function toggleEncoding(id: RelativeEncoding): void {
  const has = abilities.value?.relativeEncodings ?? []
  set({ relativeEncodings: has.includes(id) ? has.filter((other) => other !== id) : [...has, id] })
}
const sharing = computed(() => desk.controllers.filter(({ model }) => model === desk.model?.id).length)
</script>

<template>
  <section v-if="abilities" class="border-line border-t pt-3">
    <h3 class="font-bold">What the hardware can do</h3>
    <p v-if="sharing > 1" class="text-soft text-xs">
      Shared by {{ sharing }} controllers of this kind, with the surface.
    </p>
    <div class="mt-1.5 grid grid-cols-[max-content_1fr] items-center gap-x-3 gap-y-1.5">
      <span class="text-soft text-xs">Connection</span>
      <span class="flex gap-1.5">
        <ChipToggle :is-on="abilities.connection === 'usb'" @click="set({ connection: 'usb' })"
          >USB</ChipToggle
        >
        <ChipToggle :is-on="abilities.connection === 'din'" @click="set({ connection: 'din' })"
          >DIN</ChipToggle
        >
      </span>
      <span class="text-soft text-xs">Resolution</span>
      <span
        ><ChipToggle :is-on="abilities.fourteenBit" @click="set({ fourteenBit: !abilities.fourteenBit })"
          >14-bit controllers</ChipToggle
        ></span
      >
      <span class="text-soft text-xs">Endless steps</span>
      <span class="flex flex-wrap gap-1.5">
        <ChipToggle
          v-for="[id, name] in ENCODINGS"
          :key="id"
          :is-on="abilities.relativeEncodings.includes(id)"
          @click="toggleEncoding(id)"
          >{{ name }}</ChipToggle
        >
      </span>
      <template v-for="each in NUMBERS" :key="each.key">
        <label :for="`ability-${each.key}`" class="text-soft text-xs">{{ each.name }}</label>
        <input
          :id="`ability-${each.key}`"
          type="number"
          min="0"
          class="bg-raised border-line tag h-7 w-16 rounded-md border px-1.5"
          :value="abilities[each.key]"
          @change="set({ [each.key]: Number(($event.target as HTMLInputElement).value) })"
        />
      </template>
    </div>
  </section>
</template>
