import type { BoardItem } from '~/lib/destinations/board'

/**
 * Keys and clicks on a board of items in columns: arrows walk (with Shift they pick more), Home and End go to the
 * ends, Space picks or lets go, Control+A picks all, Enter joins, Escape lets all go.
 */
export function useBoardKeys(items: () => readonly BoardItem[], columns: () => number, join: () => void) {
  const joining = useJoiningStore()
  const active = ref(0)
  let anchor = 0

  const keyAt = (index: number): string => items()[index]?.key ?? ''
  const between = (a: number, b: number): string[] =>
    items()
      .slice(Math.min(a, b), Math.max(a, b) + 1)
      .map(({ key }) => key)

  function walkTo(index: number, isMore: boolean): void {
    const next = Math.max(0, Math.min(items().length - 1, index))
    active.value = next
    if (isMore) joining.pick(between(anchor, next))
    else {
      anchor = next
      joining.pick([keyAt(next)])
    }
  }

  function toggle(index: number): void {
    const key = keyAt(index)
    active.value = index
    anchor = index
    joining.pick(
      joining.picked.has(key)
        ? [...joining.picked].filter((other) => other !== key)
        : [...joining.picked, key],
    )
  }

  function onClick(index: number, event: MouseEvent): void {
    if (event.shiftKey) walkTo(index, true)
    else if (event.ctrlKey || event.metaKey) toggle(index)
    else if (joining.picked.size === 1 && joining.picked.has(keyAt(index))) toggle(index)
    else walkTo(index, false)
  }

  function onKey(event: KeyboardEvent): void {
    const steps: Readonly<Record<string, number>> = {
      ArrowRight: 1,
      ArrowLeft: -1,
      ArrowDown: columns(),
      ArrowUp: -columns(),
      Home: -Infinity,
      End: Infinity,
      PageDown: 8 * columns(),
      PageUp: -8 * columns(),
    }
    const step = steps[event.key]
    if (step !== undefined) walkTo(active.value + step, event.shiftKey)
    else if (event.key === ' ') toggle(active.value)
    else if (event.key === 'a' && (event.ctrlKey || event.metaKey))
      joining.pick(items().map(({ key }) => key))
    else if (event.key === 'Enter') {
      if (joining.chosen.length === 0) walkTo(active.value, false)
      join()
    } else if (event.key === 'Escape' && joining.picked.size > 0) joining.pick([])
    else return
    event.preventDefault()
    event.stopPropagation()
  }

  watch(items, () => {
    active.value = 0
    anchor = 0
  })

  return { active, onClick, onKey }
}
