<script setup lang="ts">
import { Redo2, Undo2 } from '@lucide/vue'

const rigs = useRigStore()
const VIEWS = [
  { to: '/rig', name: 'Rig' },
  { to: '/desk', name: 'Desk' },
  { to: '/bench', name: 'Bench' },
  { to: '/sheets', name: 'Sheets' },
  { to: '/history', name: 'History' },
] as const
</script>

<template>
  <header
    class="border-line bg-ground relative z-20 flex h-12 shrink-0 items-center gap-3 border-b px-4 max-[1120px]:gap-1.5 max-[1120px]:px-3"
  >
    <NuxtLink to="/desk" class="flex items-center gap-2 text-base font-bold whitespace-nowrap">
      <svg viewBox="0 0 22 22" class="size-5" aria-hidden="true">
        <g stroke="currentColor" stroke-width="1.8" stroke-linecap="round" fill="none">
          <path d="M7 2v18M15 2v18M2 7h18M2 15h18" />
        </g>
        <circle cx="15" cy="7" r="3.6" fill="var(--marker)" stroke="currentColor" stroke-width="1.5" />
      </svg>
      <span class="max-[1120px]:sr-only">Deft Lattice</span>
    </NuxtLink>
    <span class="bg-line h-6 w-px max-[1120px]:hidden" />
    <RigMenu :data-keep="rigs.keepState" />
    <span v-if="rigs.isKeptLate" class="text-soft text-xs whitespace-nowrap" aria-live="polite"
      >not kept yet</span
    >
    <nav
      class="mx-auto flex gap-1 min-[1120px]:absolute min-[1120px]:left-1/2 min-[1120px]:-translate-x-1/2"
      aria-label="Views"
    >
      <NuxtLink
        v-for="view in VIEWS"
        :key="view.to"
        :to="view.to"
        class="text-soft hover:text-ink rounded-md border border-transparent px-3 py-1 font-medium max-[1120px]:px-2"
        active-class="bg-raised border-line! text-ink!"
        >{{ view.name }}</NuxtLink
      >
    </nav>
    <div class="flex shrink-0 items-center gap-1 min-[1120px]:ml-auto">
      <CommandButton class="mr-1" />
      <UiButton
        look="plain"
        :label="rigs.undoLabel === null ? 'Nothing to undo' : `Undo: ${rigs.undoLabel}`"
        :disabled="rigs.undoLabel === null || !rigs.canEdit"
        @click="rigs.undo()"
      >
        <Undo2 :size="16" />
      </UiButton>
      <UiButton
        look="plain"
        :label="rigs.redoLabel === null ? 'Nothing to redo' : `Redo: ${rigs.redoLabel}`"
        :disabled="rigs.redoLabel === null || !rigs.canEdit"
        @click="rigs.redo()"
      >
        <Redo2 :size="16" />
      </UiButton>
      <ThemeButton />
      <TeachButton />
      <FindingsButton class="ml-2" />
    </div>
  </header>
</template>
