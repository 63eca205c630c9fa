<script setup lang="ts">
import { Download } from '@lucide/vue'
import { lightInitBytes, lightInitText } from '#core/lights'
import { writeSmf } from '#core/midi/smf'
import { controlName } from '#core/rig'

/** Every message that sets the lights at the start, counted, timed, and written to a file. */
const lights = useLightsStore()
const rigs = useRigStore()
const desk = useDeskStore()

const SHOWN = 80
/** Between two messages in a file, so that slow hardware keeps up. */
const GAP_MS = 2
const sequence = computed(() => lights.lightInitOf)
const lines = computed(() =>
  rigs.rig && sequence.value ? lightInitText(rigs.rig, sequence.value).trim().split('\n') : [],
)
const unset = computed(() => sequence.value?.unset.map(controlName) ?? [])
const name = computed(() => (lights.isWholeRig ? (rigs.rig?.name ?? '') : (desk.controller?.name ?? '')))

function saveBytes(extension: string, bytes: Uint8Array, mediaType: string): void {
  saveBlob(fileName(`${name.value} lights`, extension), new Blob([bytes as BlobPart], { type: mediaType }))
}
function saveMidi(): void {
  const messages = sequence.value?.messages ?? []
  saveBytes(
    'mid',
    writeSmf(
      `${name.value} lights`,
      messages.map((message, index) => ({ at: index * GAP_MS, bytes: lightInitBytes(message) })),
    ),
    'audio/midi',
  )
}
const saveList = (): void =>
  saveText(fileName(`${name.value} lights`, 'txt'), `${lines.value.join('\n')}\n`, 'text/plain')
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col text-xs">
    <div class="flex shrink-0 flex-wrap items-center gap-2 px-4 py-1">
      <span class="font-medium" data-testid="light-init-count"
        >{{ sequence?.messages.length ?? 0 }} messages, {{ sequence?.bytes ?? 0 }} bytes<template
          v-if="sequence?.dinMs"
          >, {{ Math.round(sequence.dinMs) }} ms on a DIN cable</template
        ></span
      >
      <select
        v-model="lights.which"
        class="bg-raised border-line h-7 rounded-md border px-1"
        aria-label="Which lights"
      >
        <option value="all">every light, dark ones too</option>
        <option value="needed">only what is not dark</option>
      </select>
      <label class="text-soft flex items-center gap-1.5"
        ><input v-model="lights.isWholeRig" type="checkbox" class="accent-ink" />all controllers in use</label
      >
      <span class="ml-auto flex gap-1.5">
        <UiButton :disabled="lines.length === 0" data-testid="light-init-midi" @click="saveMidi"
          ><Download :size="13" />MIDI file</UiButton
        >
        <UiButton :disabled="lines.length === 0" data-testid="light-init-text" @click="saveList"
          ><Download :size="13" />Text</UiButton
        >
      </span>
    </div>
    <div class="min-h-0 flex-1 overflow-auto px-4 pb-2">
      <p v-if="unset.length > 0" class="text-soft pb-1">
        {{ unset.length }} lights cannot be set from outside: {{ unset.slice(0, 5).join(', ')
        }}{{ unset.length > 5 ? ' and more' : '' }}.
      </p>
      <p v-if="(sequence?.messages.length ?? 0) === 0" class="text-soft">
        {{
          lights.abilities
            ? 'No message is needed: every light starts dark.'
            : 'This controller has no lights that can be set. Say so in its palette, if it has.'
        }}
      </p>
      <ol class="tag columns-2 gap-6" data-testid="light-init-list">
        <li v-for="(line, index) in lines.slice(0, SHOWN)" :key="index" class="truncate whitespace-pre">
          {{ line }}
        </li>
      </ol>
      <p v-if="lines.length > SHOWN" class="text-soft pt-1">
        and {{ lines.length - SHOWN }} more, in the file
      </p>
    </div>
  </div>
</template>
