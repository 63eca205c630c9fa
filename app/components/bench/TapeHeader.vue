<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { ChevronDown, ListFilter } from '@lucide/vue'
import { narrowedBy, type Narrowing, type Passes } from '~/lib/bench/narrow'
import { MOST_KEPT } from '~/lib/bench/tape'

/** What can be done with the tape: how it is shown, what of it, and keeping it. */
const { isLookedAt } = defineProps<{ isLookedAt: Passes }>()
const form = defineModel<'strokes' | 'lines'>('form', { required: true })
const narrowing = defineModel<Narrowing>('narrowing', { required: true })
const isNarrowing = defineModel<boolean>('isNarrowing', { required: true })
const bench = useBenchStore()
const rigs = useRigStore()
const openCapture = useCaptureFile()

const FORMS = [
  { id: 'strokes' as const, name: 'Strokes' },
  { id: 'lines' as const, name: 'Lines' },
]
const by = computed(() => narrowedBy(narrowing.value))
async function keep(format: 'mid' | 'csv'): Promise<void> {
  const { tapeAsCsv, tapeAsSmf } = await import('~/lib/bench/keep')
  if (!rigs.rig) return
  const name = `${rigs.rig.name} played`
  if (format === 'csv')
    saveText(fileName(name, 'csv'), tapeAsCsv(rigs.rig, bench.tape, isLookedAt), 'text/csv')
  else
    saveBlob(
      fileName(name, 'mid'),
      new Blob([tapeAsSmf(rigs.rig, name, bench.tape, isLookedAt) as BlobPart], { type: 'audio/midi' }),
    )
}
const heading = computed(() => {
  const { count, dropped } = bench.tape
  const all = (count + dropped).toLocaleString('en')
  const clock = bench.ticks > 0 ? `, ${bench.ticks.toLocaleString('en')} clocks left out` : ''
  return `${messagesIn(all, dropped)}${clock}`
})
const messagesIn = (all: string, dropped: number): string =>
  dropped > 0
    ? `${all} messages, the last ${MOST_KEPT.toLocaleString('en')} kept`
    : all === '1'
      ? '1 message'
      : `${all} messages`
/** What went wrong on the wires, in a few words. */
const trouble = computed(() =>
  [
    bench.ringsCut > 0 ? 'controllers sent to one another in a ring, which was cut' : '',
    bench.faults > 0 ? `${bench.faults.toLocaleString('en')} bytes that are no message came in` : '',
  ].filter((each) => each !== ''),
)
const ITEM = 'hover:bg-hair flex h-8 w-full items-center rounded-md px-2 text-left disabled:opacity-45'
</script>

<template>
  <header class="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 px-4 py-2">
    <h2 class="text-base font-bold">Tape</h2>
    <TabStrip v-model="form" :tabs="FORMS" label="How the tape is shown" attribute="data-form" />
    <UiButton
      :look="by > 0 ? 'strong' : 'quiet'"
      :aria-expanded="isNarrowing"
      data-testid="narrow"
      @click="isNarrowing = !isNarrowing"
      ><ListFilter :size="14" />{{ by > 0 ? `Narrowed by ${by}` : 'Narrow' }}</UiButton
    >
    <span v-if="trouble.length > 0" class="text-conflict min-w-0 truncate text-xs" role="status">{{
      trouble.join('; ')
    }}</span>
    <span class="tag text-soft ml-auto text-xs" data-testid="tape-count">{{ heading }}</span>
    <UiButton
      :look="bench.isHeldStill ? 'strong' : 'quiet'"
      :aria-pressed="bench.isHeldStill"
      data-testid="hold-still"
      @click="bench.isHeldStill = !bench.isHeldStill"
      >{{ bench.isHeldStill ? 'Go on' : 'Hold still' }}</UiButton
    >
    <Popover v-slot="{ close }" class="relative">
      <PopoverButton
        class="bg-raised border-line hover:border-ink inline-flex h-7 items-center gap-1.5 rounded-md border px-2.5 text-xs font-medium"
        data-testid="captures"
        >Captures<ChevronDown :size="13" class="text-soft"
      /></PopoverButton>
      <PopoverPanel
        class="bg-raised border-line shadow-float absolute right-0 top-full z-30 mt-1 w-64 rounded-lg border p-1.5 text-xs"
      >
        <button
          type="button"
          :class="ITEM"
          :disabled="bench.tape.count === 0"
          data-testid="keep-midi"
          @click="(keep('mid'), close())"
        >
          Keep {{ by > 0 ? 'what is shown' : 'the tape' }} as a MIDI file
        </button>
        <button
          type="button"
          :class="ITEM"
          :disabled="bench.tape.count === 0"
          data-testid="keep-csv"
          @click="(keep('csv'), close())"
        >
          Keep {{ by > 0 ? 'what is shown' : 'the tape' }} as CSV
        </button>
        <button type="button" :class="ITEM" data-testid="open-capture" @click="(openCapture(), close())">
          Open a capture to play it again…
        </button>
      </PopoverPanel>
    </Popover>
    <UiButton @click="bench.clear()">Clear</UiButton>
    <UiButton data-testid="silence" @click="bench.silence()">Silence all</UiButton>
  </header>
</template>
