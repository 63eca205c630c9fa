import { useEventListener } from '@vueuse/core'
import { toast } from '~/lib/toast'

/** Is the key meant for a text field? */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))

/** Undo and redo from anywhere but a text field, with the name of what was undone. */
export function useShortcuts(): void {
  const rigs = useRigStore()
  const say = (act: string, label: string | null): void => {
    if (label !== null) toast(`${act}: ${label}`)
  }
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (!(event.ctrlKey || event.metaKey) || event.altKey || isTyping(event.target)) return
    const key = event.key.toLowerCase()
    if (key === 'z' && !event.shiftKey) say('Undone', rigs.undo())
    else if (key === 'y' || (key === 'z' && event.shiftKey)) say('Done again', rigs.redo())
    else return
    event.preventDefault()
  })
}
