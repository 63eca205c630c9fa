<script setup lang="ts">
/** Findings that were set aside, with the reason; each comes back by itself when what it rests on changes. */
const analysis = useAnalysisStore()
const rigs = useRigStore()
const edit = useEdit()
const asides = computed(() => analysis.report?.asides ?? [])
</script>

<template>
  <div class="px-5 py-3" data-testid="aside-list">
    <p v-if="asides.length === 0" class="text-soft">
      Nothing is set aside. The box symbol at a finding puts it here, with your reason, until its facts
      change.
    </p>
    <ul>
      <li v-for="{ finding, reason } in asides" :key="finding.id" class="border-line border-b py-2">
        <p class="flex gap-2"><SeverityMark :severity="finding.severity" />{{ finding.message }}</p>
        <p class="text-soft pl-5">“{{ reason }}”</p>
        <UiButton
          class="mt-1 ml-5"
          :disabled="!rigs.canEdit"
          @click="edit('Let a finding count again', [{ type: 'aside-remove', finding: finding.id }])"
          >Let it count again</UiButton
        >
      </li>
    </ul>
  </div>
</template>
