<script setup lang="ts">
const analysis = useAnalysisStore()
const desk = useDeskStore()
const preferences = usePreferencesStore()
const rigs = useRigStore()
</script>

<template>
  <div class="px-5 py-4">
    <LazyFirstSteps v-if="rigs.rig?.mappings.length === 0" class="mb-5" />
    <h2 class="text-lg font-bold">Nothing selected</h2>
    <p class="text-soft mt-2">
      <template v-if="preferences.lens === 'destinations'"
        >The surface shows what each control moves. Select controls, pick what they are to move below, and
        join them: first to first, in order.</template
      >
      <template v-else-if="preferences.lens === 'behaviour'"
        >The surface shows what each control makes of being moved: the values it runs through, whether it is
        held, or stays on until the next press. 127–0 is an inverted range.</template
      >
      <template v-else-if="preferences.lens === 'lights'"
        >The surface shows its lights. Select controls and give them a role below: what their light
        says.</template
      >
      <template v-else
        >Pick a control on the surface, or a cell in the lattice below, to read and change what it sends. The
        lattice shows every address of the rig: rows are channels, columns the 128 numbers.</template
      >
    </p>
    <SelectMore v-if="desk.model" class="mt-3" />
    <p v-if="analysis.total > 0" class="mt-3">
      <button type="button" class="text-ink underline underline-offset-2" @click="desk.panel = 'findings'">
        {{ analysis.total === 1 ? 'One thing needs' : `${analysis.total} things need` }} a look.
      </button>
    </p>
  </div>
</template>
