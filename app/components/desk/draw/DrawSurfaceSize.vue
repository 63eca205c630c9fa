<script setup lang="ts">
const desk = useDeskStore()
const edit = useEdit()
const width = ref(0)
const height = ref(0)
watch(
  () => desk.model?.surface,
  (surface) => {
    width.value = surface?.width ?? 0
    height.value = surface?.height ?? 0
  },
  { immediate: true },
)
function apply(): void {
  if (desk.model)
    edit('Size of the surface', [
      { type: 'surface-set', model: desk.model.id, width: width.value, height: height.value },
    ])
}
</script>

<template>
  <form class="border-line flex items-center gap-2 border-t pt-3" @submit.prevent="apply">
    <label for="surface-w" class="text-soft text-xs">Surface, mm</label>
    <NumberInput id="surface-w" v-model="width" /><span class="text-soft">×</span>
    <NumberInput v-model="height" aria-label="Height of the surface in mm" />
    <UiButton type="submit">Set</UiButton>
  </form>
</template>
