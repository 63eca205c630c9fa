<script setup lang="ts">
/** The Desk before there is anything on it: no rig is open, or the rig has no controller. */
const rigs = useRigStore()
const shelf = useShelfStore()
const adding = useAddingStore()
const { chooseFile } = useRigFiles()
</script>

<template>
  <EmptyState v-if="rigs.rig" title="This rig has no controller yet">
    A controller is a piece of hardware that sends. Start from a generic one and draw on from there.
    <template #actions>
      <UiButton look="strong" @click="adding.what = 'controller'">Add a controller</UiButton>
      <UiButton @click="shelf.openDemo('as-found')">Open the demo</UiButton>
      <UiButton @click="chooseFile()">Import a file</UiButton>
    </template>
  </EmptyState>
  <EmptyState v-else title="No rig is open">
    A rig is your whole set-up: controllers, what they should move, and the cables between. Start from the
    demo, or bring one in.
    <template #actions>
      <UiButton look="strong" @click="shelf.openDemo('as-found')">Open the demo</UiButton>
      <UiButton @click="chooseFile()">Import a file</UiButton>
    </template>
  </EmptyState>
</template>
