<script setup lang="ts">
import type { Finding, Fix } from '#core/conflicts'

const { finding, canGo = false } = defineProps<{
  finding: Finding
  /** Offer to go to where it is. */
  canGo?: boolean
}>()
const emit = defineEmits<{ go: [] }>()
const analysis = useAnalysisStore()
const rigs = useRigStore()
const edit = useEdit()
const fixes = shallowRef<readonly Fix[]>([])

watch(
  [() => finding.id, () => analysis.report?.revision],
  async ([id]) => {
    const offered = await analysis.fixesOf(id)
    if (id === finding.id) fixes.value = offered
  },
  { immediate: true },
)
</script>

<template>
  <article
    class="rounded-md border p-2.5"
    :class="
      finding.severity === 'error' ? 'bg-conflict-soft border-conflict' : 'bg-advice-soft border-advice'
    "
    :data-finding="finding.id"
    :data-rule="finding.rule"
  >
    <div class="flex gap-2">
      <SeverityMark :severity="finding.severity" />
      <p class="min-w-0 flex-1">
        <span class="sr-only">{{ finding.severity }}: </span>
        <button v-if="canGo" type="button" class="text-left hover:underline" @click="emit('go')">
          {{ finding.message }}
        </button>
        <template v-else>{{ finding.message }}</template>
      </p>
    </div>
    <div v-if="fixes.length > 0" class="mt-2 flex flex-wrap gap-1.5 pl-5">
      <UiButton
        v-for="(fix, index) in fixes"
        :key="fix.id"
        :look="index === 0 && fix.kind !== 'share' ? 'strong' : 'quiet'"
        :disabled="!rigs.canEdit || !analysis.isCurrent"
        :data-fix="fix.kind"
        @click="edit(fix.label, fix.edits)"
        >{{ fix.label }}</UiButton
      >
    </div>
  </article>
</template>
