import type { Ref } from 'vue'
import { afterPaint } from '~/lib/after-paint'

/** Give the splitters within an element their names and places: the package says neither. The inner ones come first. */
export function useSplitterNames(
  around: Readonly<Ref<HTMLElement | null>>,
  splitters: () => ReadonlyArray<{ label: string; size: number }>,
): void {
  function name(): void {
    const found = around.value?.querySelectorAll('.splitpanes__splitter') ?? []
    splitters().forEach(({ label, size }, index) => {
      found[index]?.setAttribute('aria-label', label)
      found[index]?.setAttribute('aria-valuenow', String(Math.round(size)))
    })
  }
  watch([around, splitters], () => void afterPaint().then(name), { deep: true, immediate: true })
}
