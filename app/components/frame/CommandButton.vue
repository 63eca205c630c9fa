<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { Search } from '@lucide/vue'
import { isTyping } from '~/composables/useShortcuts'

const open = ref<'none' | 'commands' | 'shortcuts'>('none')

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  const isCommand = event.ctrlKey || event.metaKey
  if (isCommand && event.key.toLowerCase() === 'k') open.value = 'commands'
  else if (isCommand || event.altKey || isTyping(event.target)) return
  else if (event.key === '/') open.value = 'commands'
  else if (event.key === '?') open.value = 'shortcuts'
  else return
  event.preventDefault()
})
</script>

<template>
  <button
    type="button"
    class="bg-raised border-line text-soft hover:border-ink flex h-7 items-center gap-1.5 rounded-md border px-2 text-xs min-[1120px]:w-36"
    data-testid="find"
    @click="open = 'commands'"
  >
    <Search :size="13" aria-hidden="true" /><span class="max-[1120px]:sr-only">Find or do</span>
    <kbd class="tag border-line ml-auto rounded border px-1 max-[1120px]:hidden">/</kbd>
  </button>
  <LazyCommandDialog v-if="open === 'commands'" @done="open = 'none'" @shortcuts="open = 'shortcuts'" />
  <LazyShortcutsDialog v-if="open === 'shortcuts'" @done="open = 'none'" />
</template>
