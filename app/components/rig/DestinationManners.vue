<script setup lang="ts">
import { MESSAGE_KIND_NAME, type Destination, type RigEdit } from '#core/rig'

/** How a destination learns, steps, counts and answers. */
const { destination } = defineProps<{ destination: Destination }>()
const edit = useEdit()

type Settings = Extract<RigEdit, { type: 'destination-set' }>['set']
const set = (label: string, change: Settings): boolean =>
  edit(label, [{ type: 'destination-set', destination: destination.id, set: change }])

const LEARNABLE: ReadonlyArray<Destination['learns'][number]> = [
  'cc',
  'cc14',
  'note',
  'nrpn',
  'rpn',
  'program',
  'pitchBend',
  'channelPressure',
]
const toggle = (kind: Destination['learns'][number]): boolean =>
  set('What it learns', {
    learns: destination.learns.includes(kind)
      ? destination.learns.filter((each) => each !== kind)
      : LEARNABLE.filter((each) => each === kind || destination.learns.includes(each)),
  })
/** A click is so many parts of the range; the usual parts, and the one it has. */
const fractions = computed(() => {
  const { stepRule } = destination
  const own = stepRule.kind === 'fraction' ? [Math.round(1 / stepRule.of)] : []
  return [...new Set([64, 100, 127, 128, 256, 1000, ...own])].sort((a, b) => a - b)
})
const rule = computed(() => {
  const { stepRule } = destination
  return stepRule.kind === 'fraction' ? String(Math.round(1 / stepRule.of)) : stepRule.kind
})
const setRule = (value: string): boolean =>
  set('What a click moves', {
    stepRule:
      value === 'native' || value === 'per-parameter'
        ? { kind: value }
        : { kind: 'fraction', of: 1 / Number(value) },
  })
const textOf = (event: Event): string => (event.target as HTMLSelectElement).value
const FIELD = 'bg-raised border-line h-7 max-w-52 rounded-md border px-1.5'
</script>

<template>
  <section class="grid grid-cols-[max-content_1fr] items-center gap-x-3 gap-y-1.5 text-xs">
    <span class="text-soft">Learns</span>
    <span class="flex flex-wrap gap-1">
      <ChipToggle
        v-for="kind in LEARNABLE"
        :key="kind"
        :is-on="destination.learns.includes(kind)"
        @click="toggle(kind)"
        >{{ MESSAGE_KIND_NAME[kind] }}</ChipToggle
      >
    </span>
    <label class="text-soft" for="step-rule">A click moves</label>
    <select id="step-rule" :class="FIELD" :value="rule" @change="setRule(textOf($event))">
      <option v-for="parts in fractions" :key="parts" :value="String(parts)">
        1/{{ parts }} of the range
      </option>
      <option value="native">one step of the parameter</option>
      <option value="per-parameter">what each parameter says</option>
    </select>
    <span class="text-soft">Feedback</span>
    <span
      ><ChipToggle
        :is-on="destination.feedback"
        @click="set('Feedback', { feedback: !destination.feedback })"
        >{{ destination.feedback ? 'says what it is set to' : 'none' }}</ChipToggle
      ></span
    >
    <label class="text-soft" for="counts-from">Presets</label>
    <select
      id="counts-from"
      :class="FIELD"
      :value="destination.countsFrom"
      @change="set('How it counts', { countsFrom: textOf($event) === '1' ? 1 : 0 })"
    >
      <option :value="0">counted from 0</option>
      <option :value="1">counted from 1</option>
    </select>
    <label class="text-soft" for="middle-c">Middle C</label>
    <select
      id="middle-c"
      :class="FIELD"
      :value="destination.middleC"
      @change="set('Its octaves', { middleC: Number(textOf($event)) as 3 | 4 | 5 })"
    >
      <option v-for="octave in [3, 4, 5]" :key="octave" :value="octave">is C{{ octave }}</option>
    </select>
  </section>
</template>
