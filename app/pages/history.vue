<template>
  <EmptyState title="History: not built yet">
    Versions of this rig to name, compare and restore will be here. Undo already works in every view.
    <template #actions>
      <UiButton look="strong" @click="navigateTo('/desk')">Go to the Desk</UiButton>
    </template>
  </EmptyState>
</template>
