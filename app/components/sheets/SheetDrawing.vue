<script setup lang="ts">
import { Download } from '@lucide/vue'
import type { Section } from '#core/sheets'
import { toast } from '~/lib/toast'

/** The drawing of a section on white paper, as wide as there is room or as large as it is. */
const { section, index } = defineProps<{ section: Section; index: number }>()
const sheets = useSheetsStore()
const { saveDrawing } = useSheetFiles()
const isTrueSize = ref(false)
const source = ref('')
/** Why there is nothing to show. */
const trouble = ref('')
watch(
  () => section.drawing,
  async (drawing) => {
    try {
      trouble.value = ''
      const svg = await sheets.drawing(index)
      // As a picture nothing in it can act on the page, whatever a label says.
      if (drawing === section.drawing)
        source.value = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg ?? '')}`
    } catch (error) {
      if (drawing !== section.drawing) return
      source.value = ''
      trouble.value = error instanceof Error ? error.message : String(error)
    }
  },
  { immediate: true },
)
const ratio = computed(() => `${section.drawing?.width ?? 1} / ${section.drawing?.height ?? 1}`)
const width = computed(() => (isTrueSize.value ? `${section.drawing?.width ?? 0}mm` : '100%'))

async function save(as: 'svg' | 'png'): Promise<void> {
  try {
    await saveDrawing(index, section.heading, as)
  } catch (error) {
    toast.error(error instanceof Error ? error.message : String(error))
  }
}
</script>

<template>
  <figure class="mt-1">
    <div class="mb-1 flex items-center gap-1.5">
      <UiButton
        :aria-pressed="isTrueSize"
        :look="isTrueSize ? 'strong' : 'quiet'"
        data-testid="true-size"
        @click="isTrueSize = !isTrueSize"
        >As large as it is</UiButton
      >
      <UiButton data-export="svg" @click="save('svg')"><Download :size="14" />SVG</UiButton>
      <UiButton data-export="png" @click="save('png')"><Download :size="14" />PNG</UiButton>
    </div>
    <div
      class="border-line border bg-[#ffffff]"
      :class="isTrueSize ? 'overflow-auto' : 'overflow-hidden'"
      :style="{ aspectRatio: isTrueSize ? undefined : ratio }"
    >
      <img
        v-if="source"
        :src="source"
        :alt="section.heading"
        :style="{ width, maxWidth: 'none' }"
        class="block"
        data-testid="card"
      />
      <p v-else class="p-3 text-xs text-[#4b4f58]" role="status">{{ trouble || 'Drawing the card…' }}</p>
    </div>
  </figure>
</template>
