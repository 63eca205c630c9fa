<script setup lang="ts">
import { comparedWith, writingDown, type Compared } from '#core/listen'
import {
  controlName,
  modelOf,
  readingOrder,
  splitGestureKey,
  type Control,
  type Controller,
  type Id,
} from '#core/rig'
import { messageText } from '~/lib/bench/find-out'
import { knownWords } from '~/lib/moving/words'
import type { Where } from '~/stores/moving'

/** Learn from real hardware what the controls that are drawn send, one after the other. */
const {
  controller,
  where,
  selected = [],
} = defineProps<{ controller: Controller; where: Where; selected?: readonly Id[] }>()
const moving = useMovingStore()
const rigs = useRigStore()
const edit = useEdit({ refused: (why) => (moving.refusal = why) })

const model = computed(() => (rigs.rig ? modelOf(rigs.rig, controller) : null))
const SELECTION = 'selection'
const ALL = 'all'
const options = computed(() => {
  const surface = model.value?.surface
  const sending = surface?.controls.filter(({ silent }) => !silent) ?? []
  return [
    ...(selected.length > 0
      ? [
          {
            value: SELECTION,
            label: selected.length === 1 ? 'the selected control' : `the ${selected.length} selected`,
          },
        ]
      : []),
    { value: ALL, label: `all ${sending.length} controls` },
    ...(surface?.blocks ?? []).map(({ id, label }) => ({
      value: id,
      label,
      hint: String(sending.filter(({ block }) => block === id).length),
    })),
  ]
})
const chosen = ref<string>(SELECTION)
const which = computed(() =>
  options.value.some(({ value }) => value === chosen.value) ? chosen.value : (options.value[0]?.value ?? ALL),
)
const isLearning = computed(() => moving.job === 'learn' && moving.controller?.id === controller.id)

function begin(): void {
  const all = model.value?.surface.controls ?? []
  const wanted = all.filter(({ id, block, silent }) => {
    if (which.value === SELECTION) return selected.includes(id)
    return !silent && (which.value === ALL || block === which.value)
  })
  kept.value = new Set()
  moving.begin('learn', where, controller.id, readingOrder(wanted))
}

/** What the player wants to keep as it is written. */
const kept = shallowRef<ReadonlySet<string>>(new Set())
const isWritable = ({ known }: Compared): boolean => known.state !== 'open'

const rows = computed(() =>
  (moving.walk?.steps ?? []).map((control, index) => ({
    control,
    name: controlName(control),
    isNext: index === moving.walk?.next,
    compared:
      moving.controller && moving.showing
        ? comparedWith(
            { controller: moving.controller, showing: moving.showing },
            control,
            moving.known.get(control.id) ?? [],
          )
        : [],
  })),
)
const differing = computed(() =>
  rows.value.flatMap(({ compared }) =>
    compared.filter(
      (each) => !each.isSame && isWritable(each) && each.heard && !kept.value.has(each.at.gesture),
    ),
  ),
)
function textOf(control: Control, { at, written, heard }: Compared, which_: 'written' | 'heard'): string {
  const message = which_ === 'written' ? written : heard
  if (!rigs.rig || !model.value || !message) return 'nothing yet'
  return messageText({
    rig: rigs.rig,
    message,
    control,
    gesture: splitGestureKey(at.gesture).gesture,
    homeChannel: controller.homeChannel,
    abilities: model.value.abilities,
  })
}
const write = (all: readonly Compared[], what: string): boolean =>
  edit(`Write down what ${what}`, writingDown(all))
const keep = ({ at }: Compared): void => {
  kept.value = new Set([...kept.value, at.gesture])
}
function markSilent(): void {
  const { next } = moving
  if (!next || !model.value) return
  const isSet = edit(`${controlName(next)} sends nothing`, [
    { type: 'controls-set', model: model.value.id, controls: [{ id: next.id, set: { silent: true } }] },
  ])
  if (isSet && moving.walk) moving.goTo(moving.walk.next + 1)
}
</script>

<template>
  <div data-testid="moving-learn">
    <MovingNow v-if="isLearning" class="pb-3">
      <template #silent>
        <UiButton class="mt-1" data-testid="mark-silent" @click="markSilent"
          >{{ moving.next ? controlName(moving.next) : 'It' }} sends nothing</UiButton
        >
      </template>
    </MovingNow>
    <template v-else>
      <p class="pb-2">
        Move the controls of the hardware one after the other: what each sends is laid beside what is written.
        Nothing is changed until you say so.
      </p>
      <div class="flex items-center gap-2">
        <UiSelect
          label="What is learned"
          :model-value="which"
          :options="options"
          data-testid="learn-which"
          @update:model-value="chosen = $event"
        />
        <UiButton look="strong" data-testid="begin-learning" @click="begin">Begin</UiButton>
      </div>
    </template>
    <template v-if="isLearning">
      <div v-if="differing.length > 1" class="flex items-center gap-2 pb-1">
        <span class="min-w-0 flex-1 font-bold">{{ differing.length }} differ from what is written</span>
        <UiButton
          look="strong"
          :disabled="!rigs.canEdit"
          data-testid="write-all"
          @click="write(differing, `${differing.length} movements send`)"
          >Write all down</UiButton
        >
      </div>
      <ol class="border-line border-t" aria-label="What was learned" data-testid="moving-learned">
        <li
          v-for="{ control, name, isNext, compared } in rows"
          :key="control.id"
          class="border-hair border-b py-1"
          :class="isNext && 'bg-marker/20'"
        >
          <p class="flex items-baseline gap-2">
            <span class="font-bold">{{ name }}</span>
            <span v-if="compared.length === 0" class="text-soft text-xs">{{
              isNext ? 'is next' : 'not moved yet'
            }}</span>
          </p>
          <MovingKnown v-for="each in compared" :key="each.at.gesture" :known="knownWords(each.known)">
            <p v-if="each.isSame" class="pl-16 font-bold">It sends what is written.</p>
            <p v-else-if="kept.has(each.at.gesture)" class="pl-16">
              Kept: change the hardware to “{{ textOf(control, each, 'written') }}”
            </p>
            <div v-else-if="isWritable(each) && each.heard" class="pl-16">
              <p><span class="text-soft">written:</span> {{ textOf(control, each, 'written') }}</p>
              <p><span class="text-soft">heard:</span> {{ textOf(control, each, 'heard') }}</p>
              <span class="flex flex-wrap gap-1.5 pt-1">
                <UiButton
                  :disabled="!rigs.canEdit"
                  data-testid="write-heard"
                  @click="write([each], `${name} sends`)"
                  >Write down what it sends</UiButton
                >
                <UiButton data-testid="keep-written" @click="keep(each)">Keep what is written</UiButton>
              </span>
            </div>
          </MovingKnown>
        </li>
      </ol>
    </template>
  </div>
</template>
