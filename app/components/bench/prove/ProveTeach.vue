<script setup lang="ts">
import { mappingName } from '#core/mappings'
import { printTag } from '#core/midi'

/** Teaching every destination what the controls send, one line at a time. */
const teaching = useTeachingStore()
const rigs = useRigStore()
const analysis = useAnalysisStore()
const count = ref<number | null>(null)
watch(
  () => rigs.revision,
  async (revision) => {
    const groups = await analysis.relearn()
    if (revision === rigs.revision) count.value = groups.reduce((sum, { lines }) => sum + lines.length, 0)
  },
  { immediate: true },
)
const line = computed(() => teaching.current)
const what = computed(() => (rigs.rig && line.value ? mappingName(rigs.rig, line.value.line.mapping) : ''))
const isClear = computed(() => line.value?.line.kind === 'clear')
watch(
  () => line.value?.line.mapping.id,
  () => {
    if (line.value && teaching.phase === 'ready') teaching.prepare(line.value)
  },
)
</script>

<template>
  <div data-testid="teach-sitting">
    <template v-if="!teaching.isOn">
      <p class="text-soft">
        <template v-if="count === 0"
          >Every destination listens to what its controls send: there is nothing to teach.</template
        >
        <template v-else
          >Each destination is taught each control: it is told to learn, and that one movement is sent alone,
          without the other axis, touch or pressure.</template
        >
      </p>
      <UiButton
        v-if="count !== 0"
        look="strong"
        class="mt-2"
        :disabled="!rigs.canEdit || count === null"
        data-testid="teach-begin"
        @click="teaching.begin()"
        >Begin: {{ count ?? '…' }} to teach</UiButton
      >
    </template>
    <template v-else-if="line">
      <p class="text-soft text-xs" data-testid="teach-left">
        {{ teaching.left }} to go<template v-if="teaching.done.length > 0"
          >, {{ teaching.done.length }} done</template
        >
      </p>
      <section
        class="border-line mt-1 rounded-md border p-3"
        :aria-label="what"
        :data-teaching="line.line.mapping.id"
      >
        <h3 class="font-bold">{{ what }}</h3>
        <p>{{ line.line.text }}</p>
        <p class="text-soft text-xs">
          <template v-if="line.line.was"
            ><span class="tag">{{ printTag(line.line.was) }}</span
            ><template v-if="line.line.to"> → </template></template
          ><span v-if="line.line.to" class="tag">{{ printTag(line.line.to) }}</span>
        </p>
        <p v-if="line.first" class="mt-1 text-xs"><span class="text-soft">First:</span> {{ line.first }}</p>
        <p v-if="line.line.hindrance" class="text-advice mt-1 text-xs">{{ line.line.hindrance }}</p>
        <div class="flex flex-wrap gap-1 pt-2">
          <template v-if="teaching.phase === 'learned'">
            <UiButton look="strong" data-testid="teach-next" @click="teaching.next()">Next</UiButton>
          </template>
          <template v-else-if="isClear">
            <UiButton
              look="strong"
              :disabled="!rigs.canEdit"
              data-testid="teach-clear"
              @click="teaching.tick()"
              >Cleared</UiButton
            >
          </template>
          <template v-else>
            <UiButton
              look="strong"
              :disabled="teaching.phase === 'sending' || !rigs.canEdit || line.line.hindrance !== null"
              data-testid="teach-send"
              @click="teaching.teach()"
              >{{
                teaching.phase === 'sending'
                  ? 'Sending…'
                  : teaching.isReal
                    ? 'Send it alone'
                    : 'Learn, and send it alone'
              }}</UiButton
            >
            <UiButton
              v-if="teaching.isReal"
              :disabled="!rigs.canEdit"
              data-testid="teach-tick"
              @click="teaching.tick()"
              >It has learned it</UiButton
            >
          </template>
          <UiButton data-testid="teach-skip" @click="teaching.skip()">Later</UiButton>
        </div>
        <p v-if="teaching.isReal && teaching.phase !== 'sending'" class="text-soft pt-1 text-xs">
          Press learn in {{ line.destination.name }}, then send.
        </p>
      </section>
    </template>
    <p v-else class="font-bold" data-testid="teach-over">
      {{ teaching.done.length === 1 ? 'One is' : `${teaching.done.length} are` }} taught. Nothing is left to
      teach now.
    </p>
    <p
      v-if="teaching.said !== ''"
      class="pt-2"
      :class="teaching.phase === 'wrong' ? 'text-conflict' : ''"
      role="status"
      data-testid="teach-said"
    >
      {{ teaching.said }}
    </p>
    <div v-if="teaching.isOn" class="flex gap-1 pt-3">
      <UiButton v-if="teaching.done.length > 0" data-testid="teach-undo" @click="teaching.undoLast()"
        >Undo the last</UiButton
      >
      <UiButton data-testid="teach-end" @click="teaching.end()">End the sitting</UiButton>
    </div>
  </div>
</template>
