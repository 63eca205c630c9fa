<script setup lang="ts">
import { lineCheckedOf, ruledCablesOf, takeOverCause, type NamedCause } from '#core/bench/line-check'
import { cableWords } from '#core/conflicts/words'
import type { Id, Rig } from '#core/rig'
import { timeAgo } from '~/lib/time-ago'

/** Checking before a show that the hardware is as written: touch every control once. */
const line = useLineCheckStore()
const bench = useBenchStore()
const rigs = useRigStore()
const edit = useEdit()
const NONE = ''
const ruled = (rig: Rig | null, controller: Id | null) =>
  rig && controller !== null
    ? ruledCablesOf(rig, controller).map((cable) => ({
        value: cable.id,
        label: `behind ${cableWords(rig, cable)}`,
      }))
    : []
const passages = computed(() => [
  { value: NONE, label: 'as at power-up' },
  ...(rigs.rig?.passages ?? []).map(({ id, name }) => ({ value: id, label: name })),
])
/** Behind one of these something else is heard than at its port. */
const cables = computed(() => [
  { value: NONE, label: 'at its own port' },
  ...ruled(rigs.rig, bench.controller?.id ?? null),
])
const behind = computed(() => cables.value.find(({ value }) => value === line.behindId)?.value ?? NONE)
const report = computed(() => line.report)
const isOfShown = computed(() => line.controllerId === bench.controller?.id)
const differing = computed(() => report.value?.lines.filter(({ state }) => state === 'differs') ?? [])
const MOST = 12
function begin(): void {
  // A cable of another controller says nothing of this one.
  line.behindId = behind.value === NONE ? null : behind.value
  if (bench.controller) void line.start(bench.controller.id)
}
const takeOver = (cause: NamedCause) =>
  rigs.rig && line.controllerId ? takeOverCause(rigs.rig, line.controllerId, cause) : null
function take(cause: NamedCause): void {
  const found = takeOver(cause)
  if (found && edit(found.label, found.edits) && line.controllerId) void line.start(line.controllerId)
}
function keep(): void {
  if (!report.value || !line.controllerId) return
  const name = bench.controllers.find(({ id }) => id === line.controllerId)?.name ?? ''
  edit(`Kept the line check of ${name}`, [
    {
      type: 'line-check-set',
      controller: line.controllerId,
      lineCheck: lineCheckedOf(report.value, new Date().toISOString()),
    },
  ])
}
const kept = computed(() => bench.controller?.lineCheck ?? null)
const keptWords = computed(() => {
  if (!kept.value) return ''
  const wrong = kept.value.lines.filter(({ came }) => came !== null).length
  return `Checked ${timeAgo(kept.value.at)}: ${kept.value.lines.length} touched, ${wrong === 0 ? 'all as written' : `${wrong} differ`}.`
})
</script>

<template>
  <div data-testid="line-check">
    <template v-if="!line.isOn || !isOfShown">
      <p class="text-soft">
        Touch every control of {{ bench.controller?.name }} once, in any order. What differs from what is
        written is explained by as few causes as explain it all.
      </p>
      <div class="flex flex-wrap items-center gap-2 pt-2">
        <UiButton v-if="bench.controller" look="strong" data-testid="line-start" @click="begin"
          >Check {{ bench.controller.name }}</UiButton
        >
        <UiSelect
          v-if="passages.length > 1"
          label="What it is to show"
          caption="showing"
          :model-value="line.passageId ?? NONE"
          :options="passages"
          @update:model-value="line.passageId = $event === NONE ? null : $event"
        />
        <UiSelect
          v-if="cables.length > 1"
          label="Where it is heard"
          caption="heard"
          data-testid="line-behind"
          :model-value="behind"
          :options="cables"
          @update:model-value="line.behindId = $event === NONE ? null : $event"
        />
      </div>
      <p v-if="kept" class="text-soft pt-2 text-xs" data-testid="line-kept">{{ keptWords }}</p>
    </template>
    <template v-else-if="report">
      <p class="font-bold" role="status" data-testid="line-count">
        {{ report.touched }} of {{ report.lines.length }} touched<template v-if="report.differing > 0"
          >, {{ report.differing }} {{ report.differing === 1 ? 'differs' : 'differ' }}</template
        >
      </p>
      <ul v-if="report.causes.length > 0" class="pt-1" aria-label="Causes" data-testid="line-causes">
        <li v-for="cause in report.causes" :key="cause.text" class="border-conflict mt-1 border-l-2 pl-2">
          <p>{{ cause.text }}</p>
          <p class="text-soft text-xs">
            {{ cause.cure }}
            <template v-if="cause.explains > 1">It explains {{ cause.explains }} differences.</template>
          </p>
          <UiButton
            v-if="takeOver(cause)"
            class="mt-1"
            :disabled="!rigs.canEdit"
            data-testid="take-over"
            @click="take(cause)"
            >Take it over into the rig</UiButton
          >
        </li>
      </ul>
      <p v-if="report.doubt" class="text-advice pt-1 text-xs" data-testid="line-doubt">
        It could as well be: {{ report.doubt.other }} {{ report.doubt.touch }}
      </p>
      <LineStrangers v-if="report.strangers.length > 0" :report="report" />
      <div v-if="differing.length > 0" class="pt-2 text-xs">
        <h3 class="font-bold">Differ</h3>
        <ul>
          <li
            v-for="each in differing.slice(0, MOST)"
            :key="each.gesture"
            class="flex gap-2"
            :data-differs="each.gesture"
          >
            <button
              type="button"
              class="min-w-0 flex-1 truncate text-left hover:underline"
              @click="bench.follow(line.controllerId ?? '', each.gesture)"
            >
              {{ each.name }}
            </button>
            <span class="tag">{{ each.came }} came</span>
          </li>
        </ul>
        <p v-if="differing.length > MOST" class="text-soft">and {{ differing.length - MOST }} more</p>
      </div>
      <LineLeft v-if="line.controllerId" :report="report" :controller-id="line.controllerId" />
      <div class="flex gap-1 pt-3">
        <UiButton
          look="strong"
          :disabled="!rigs.canEdit || (report.touched === 0 && report.causes.length === 0)"
          data-testid="line-keep"
          @click="keep"
          >Keep with the rig</UiButton
        >
        <UiButton data-testid="line-again" @click="line.start(line.controllerId ?? '')">Begin again</UiButton>
        <UiButton data-testid="line-end" @click="line.stop()">End</UiButton>
      </div>
      <p v-if="kept" class="text-soft pt-1 text-xs" data-testid="line-kept">{{ keptWords }}</p>
    </template>
    <p v-if="line.failure" class="text-conflict pt-2" role="alert">{{ line.failure }}</p>
    <LineHardware v-if="bench.controller" :controller="bench.controller" />
  </div>
</template>
