<template>
  <EmptyState title="Rig: not built yet">
    Controllers, destinations and the cables between them, as a picture that can be edited, will be here.
    <template #actions>
      <UiButton look="strong" @click="navigateTo('/desk')">Go to the Desk</UiButton>
    </template>
  </EmptyState>
</template>
