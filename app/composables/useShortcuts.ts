import { useEventListener } from '@vueuse/core'
import { toast } from '~/lib/toast'

/** Is the key meant for a text field? */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))

/** From anywhere but a text field: undo and redo, with the name of what was undone, and the next and last finding. */
export function useShortcuts(): void {
  const rigs = useRigStore()
  const say = (act: string, label: string | null): void => {
    if (label !== null) toast(`${act}: ${label}`)
  }
  const walkFindings = useFindingWalk()
  const route = useRoute()
  const onDesk = async (): Promise<void> => {
    if (route.path !== '/desk') await navigateTo('/desk')
  }
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    const by = event.key === ']' ? 1 : event.key === '[' ? -1 : null
    if (by !== null && !event.ctrlKey && !event.metaKey && !isTyping(event.target)) {
      void onDesk().then(() => walkFindings(by))
      event.preventDefault()
      return
    }
    if (!(event.ctrlKey || event.metaKey) || event.altKey || isTyping(event.target)) return
    const key = event.key.toLowerCase()
    if (key === 'z' && !event.shiftKey) say('Undone', rigs.undo())
    else if (key === 'y' || (key === 'z' && event.shiftKey)) say('Done again', rigs.redo())
    else return
    event.preventDefault()
  })
}
