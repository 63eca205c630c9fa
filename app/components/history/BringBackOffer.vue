<script setup lang="ts">
/** What comes along with what is brought back, before it is done. */
const history = useHistoryStore()
const MOST = 6
const lines = computed(() =>
  (history.offer?.also ?? []).flatMap(({ name, sections }) =>
    sections.flatMap(({ lines: own }) =>
      own.map((line) => ({ key: line.key, text: `${name}: ${line.name}` })),
    ),
  ),
)
</script>

<template>
  <div
    v-if="history.offer"
    class="border-line bg-marker/20 mb-4 rounded-md border p-3 text-sm"
    role="alert"
    data-testid="bring-back-offer"
  >
    <p class="font-bold">It cannot stand alone. This comes back with it:</p>
    <ul class="py-1">
      <li v-for="line in lines.slice(0, MOST)" :key="line.key">{{ line.text }}</li>
      <li v-if="lines.length > MOST" class="text-soft">and {{ lines.length - MOST }} more</li>
    </ul>
    <div class="flex gap-2">
      <UiButton look="strong" data-testid="accept-offer" @click="history.acceptOffer()"
        >Bring it all back</UiButton
      >
      <UiButton @click="history.offer = null">Leave it</UiButton>
    </div>
  </div>
</template>
