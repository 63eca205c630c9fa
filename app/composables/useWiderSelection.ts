import { columnsWith, KIND_FACTS, rowsWith, type Control } from '#core/rig'

/** From what is selected on the surface to its block, row, column, kind, or all the rest. */
export function useWiderSelection() {
  const desk = useDeskStore()
  const all = computed<readonly Control[]>(() => desk.model?.surface.controls ?? [])
  const blocks = computed(() => new Set(desk.selected.flatMap(({ block }) => block ?? [])))
  const kinds = computed(() => new Set(desk.selected.map(({ kind }) => kind)))
  const kindWords = computed(() =>
    [...kinds.value].map((kind) => KIND_FACTS[kind].plural.toLowerCase()).join(' and '),
  )
  const select = (controls: readonly Control[]): void => desk.selectMany(controls.map(({ id }) => id))
  const isSelected = ({ id }: Control): boolean => desk.selectedIds.includes(id)

  return {
    blocks,
    kinds,
    kindWords,
    wholeBlock: () =>
      select(
        all.value.filter(
          (control) => isSelected(control) || (control.block !== null && blocks.value.has(control.block)),
        ),
      ),
    wholeRow: () => select(rowsWith(all.value, desk.selected)),
    wholeColumn: () => select(columnsWith(all.value, desk.selected)),
    allOfKind: () => select(all.value.filter(({ kind }) => kinds.value.has(kind))),
    invert: () => select(all.value.filter((control) => !isSelected(control))),
    /** Gives whether there is any. */
    allCalled: (words: string): boolean => {
      const found = all.value.filter(({ label }) => label.toLowerCase().includes(words.toLowerCase()))
      if (found.length > 0) select(found)
      return found.length > 0
    },
  }
}
