<script setup lang="ts">
const rigs = useRigStore()
const shelf = useShelfStore()
const picture = usePictureStore()
</script>

<template>
  <LazyDestinationView v-if="rigs.rig && picture.opened" :destination="picture.opened" />
  <div
    v-else-if="rigs.rig"
    class="grid h-full grid-cols-[1fr_var(--rig-side)] max-[1000px]:grid-cols-1 max-[1000px]:grid-rows-[3fr_2fr]"
  >
    <RigPicture class="h-full min-w-0" />
    <RigSide />
  </div>
  <EmptyState v-else-if="!shelf.isBooting" title="No rig is open">
    A rig is everything you play with: controllers, what they control, and the cables between them.
    <template #actions>
      <UiButton look="strong" @click="shelf.openDemo('as-found')">Open the demo</UiButton>
    </template>
  </EmptyState>
</template>
