<script setup lang="ts">
import { FilePen } from '@lucide/vue'

/** A backup file that is written after every change. */
const file = useBackupFileStore()
</script>

<template>
  <div v-if="file.state !== 'not-here'" class="pt-2" data-testid="backup-file" :data-state="file.state">
    <template v-if="file.state === 'off'">
      <UiButton data-testid="backup-file-choose" @click="file.choose()"
        ><FilePen :size="13" />Keep a backup file up to date</UiButton
      >
      <p class="pt-1 text-xs">
        Choose a file, on another disk if you can: this page writes everything into it a few seconds after
        every change.
      </p>
    </template>
    <div v-else class="flex flex-wrap items-center gap-1.5">
      <p v-if="file.state === 'asks'" class="text-advice min-w-0 font-bold">
        “{{ file.fileName }}” waits: the browser wants to hear again that this page may write to it.
      </p>
      <p v-else-if="file.state === 'writes'" class="min-w-0">
        After every change everything is written to “{{ file.fileName }}”.
      </p>
      <UiButton v-if="file.state === 'asks'" look="strong" @click="file.allow()">Go on writing</UiButton>
      <UiButton v-if="file.state === 'failed'" @click="file.choose()">Choose a file</UiButton>
      <UiButton look="plain" data-testid="backup-file-leave" @click="file.leave()">No longer</UiButton>
    </div>
    <p v-if="file.failure" class="text-conflict pt-1" role="alert">{{ file.failure }}</p>
  </div>
</template>
