<script setup lang="ts">
import { Play, Square, X } from '@lucide/vue'

import { RAW_APART_MS } from '#core/bench/capture/raw'

/** A capture that was opened: whose it is, how far it is played, or why it was refused. */
const capture = useCaptureStore()
const bench = useBenchStore()
const MOST_SHOWN = 3
const owners = computed(() => bench.controllers.map(({ id, name }) => ({ value: id, label: name })))
const seconds = (ms: number): string => `${(ms / 1000).toFixed(1)} s`
</script>

<template>
  <div v-if="capture.incoming" class="border-line flex items-center gap-3 border-t px-4 py-1">
    <ReadingLine
      :name="capture.incoming.name"
      :progress="capture.incoming.progress"
      @stop="capture.incoming.stop()"
    />
  </div>
  <div
    v-else-if="capture.refused"
    class="border-line flex items-center gap-3 border-t px-4 py-1.5"
    role="alert"
    data-testid="capture-refused"
  >
    <p class="min-w-0 flex-1">
      <span class="text-conflict font-bold">“{{ capture.refused.name }}” was not opened.</span>
      {{ capture.refused.message }}
    </p>
    <UiButton label="Close" class="px-2!" @click="capture.refused = null"><X :size="14" /></UiButton>
  </div>
  <div
    v-else-if="capture.capture"
    class="border-line flex flex-wrap items-center gap-x-3 gap-y-1 border-t px-4 py-1.5"
    data-testid="capture"
  >
    <UiButton v-if="capture.isPlaying" data-testid="capture-stop" @click="capture.stop()"
      ><Square :size="12" />Stop</UiButton
    >
    <UiButton v-else look="strong" data-testid="capture-play" @click="capture.play()"
      ><Play :size="12" />Play</UiButton
    >
    <span class="max-w-60 truncate font-bold">{{ capture.capture.name }}</span>
    <span class="tag text-soft text-xs">{{ capture.capture.count.toLocaleString('en') }} messages</span>
    <span v-if="!capture.capture.isTimed" class="text-soft text-xs"
      >it has no times: played {{ RAW_APART_MS }} ms apart</span
    >
    <span
      v-for="(owner, track) in capture.capture.owners.slice(0, MOST_SHOWN)"
      :key="track"
      class="flex items-center gap-1.5"
    >
      <UiSelect
        v-if="owner !== null"
        :label="`Who sends track ${track + 1}`"
        caption="from"
        :model-value="owner"
        :options="owners"
        @update:model-value="capture.setOwner(track, $event)"
      />
    </span>
    <span v-if="capture.capture.owners.length > MOST_SHOWN" class="text-soft text-xs"
      >and {{ capture.capture.owners.length - MOST_SHOWN }} more tracks</span
    >
    <progress
      class="h-1.5 min-w-24 flex-1"
      :value="capture.at"
      :max="Math.max(1, capture.capture.ms)"
      :aria-label="`Played of ${capture.capture.name}`"
    />
    <span class="tag text-soft text-xs" data-testid="capture-at"
      >{{ seconds(capture.at) }} of {{ seconds(capture.capture.ms) }}</span
    >
    <UiButton label="Close the capture" class="px-2!" @click="capture.close()"><X :size="14" /></UiButton>
  </div>
</template>
