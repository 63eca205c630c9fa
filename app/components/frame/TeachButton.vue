<script setup lang="ts">
import { GraduationCap } from '@lucide/vue'

/** What destinations have to learn anew, one press away from every view. */
const desk = useDeskStore()
const rigs = useRigStore()
const route = useRoute()
const isShown = computed(() => route.path === '/desk' && desk.panel === 'teach')

async function show(): Promise<void> {
  desk.panel = isShown.value ? 'selection' : 'teach'
  if (route.path !== '/desk') await navigateTo('/desk')
}
</script>

<template>
  <UiButton
    v-if="rigs.rig"
    :look="isShown ? 'strong' : 'plain'"
    class="px-2!"
    label="What must be taught again"
    :aria-pressed="isShown"
    data-testid="teach-open"
    @click="show"
    ><GraduationCap :size="16"
  /></UiButton>
</template>
