<template>
  <EmptyState title="Bench: not built yet">
    Simulated controllers and destinations, a monitor of all traffic, rehearsal and line check will be here.
    <template #actions>
      <UiButton look="strong" @click="navigateTo('/desk')">Go to the Desk</UiButton>
    </template>
  </EmptyState>
</template>
