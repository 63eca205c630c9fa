<script setup lang="ts">
/** Controls are moved, and each is joined to what is next. */
const joins = useJoinByMovingStore()
const next = computed(() => joins.wanted[0] ?? null)
/** Another movement can be taken only in place of a mapping: a note or a preset is what a control sends. */
const others = computed(() => (joins.last && joins.last.made.length > 0 ? joins.last.others : []))
</script>

<template>
  <footer
    class="border-line flex min-h-9 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-t px-4 py-1"
    data-testid="join-by-moving"
  >
    <p v-if="next" class="flex items-center gap-2" role="status">
      <span class="bg-marker border-ink size-2.5 rounded-full border" aria-hidden="true" />
      <span
        >Now move the control for <span class="font-bold">{{ next.name }}</span><span
          v-if="joins.count > 1"
          class="text-soft"
          >, {{ joins.count - joins.wanted.length + 1 }} of {{ joins.count }}</span
        ></span
      >
    </p>
    <p v-if="joins.last" data-testid="joined-last">
      <span class="font-bold">{{ joins.last.name }}</span> is moved by
      <span class="font-bold">{{ joins.nameOf(joins.last.gesture) }}</span>.
      <template v-if="others.length > 0">
        <span class="text-soft">Came as well:</span>
        <UiButton
          v-for="other in others"
          :key="other"
          class="ml-1.5 h-6!"
          data-take-instead
          @click="joins.takeInstead(other)"
          >take {{ joins.nameOf(other) }}</UiButton
        >
      </template>
    </p>
    <p v-if="joins.refusal" class="text-conflict" role="alert">{{ joins.refusal }}</p>
    <UiButton class="ml-auto" data-testid="stop-joining" @click="joins.close()">{{
      next ? 'Stop' : 'Done'
    }}</UiButton>
  </footer>
</template>
