import { useEventListener } from '@vueuse/core'
import type { Hand } from '#core/bench'
import type { Control, Id } from '#core/rig'
import { firstC, octaveBy, playedBy } from '~/lib/bench/computer-keys'
import { pressedGesture } from '~/lib/bench/figure'

/** Play what is pressed by the keys of the computer: a keyboard by its letters, all else by Space or Enter. */
export function useComputerKeys() {
  const bench = useBenchStore()
  /** What is let go when a key of the computer is. */
  const held = new Map<string, Hand>()
  /** The C that the letters begin at, by keyboard. */
  const begins = new Map<Id, number>()

  function noteAt(control: Control, code: string): number | null {
    const keys = control.kind === 'keybed' ? bench.keysOf(control) : null
    if (!keys) return null
    const from = begins.get(control.id) ?? firstC(keys)
    const next = octaveBy(code, from, keys)
    if (next !== null) begins.set(control.id, next)
    return code === 'Space' || code === 'Enter' ? from : playedBy(code, from, keys)
  }

  /** A key goes down while a control has the focus: says whether it was for it. */
  function down({ code, repeat }: KeyboardEvent, control: Control): boolean {
    const isPress = code === 'Space' || code === 'Enter'
    const isKeyboard = control.kind === 'keybed'
    const key = noteAt(control, code)
    const gesture = pressedGesture(control)
    if ((!isPress && key === null) || !gesture) return isKeyboard && (code === 'KeyZ' || code === 'KeyX')
    if (repeat || held.has(code)) return true
    bench.act({ kind: 'press', gesture, key: key ?? 0 })
    held.set(code, { kind: 'let-go', gesture, key: key ?? 0 })
    return true
  }
  useEventListener(window, 'keyup', ({ code }: KeyboardEvent) => {
    const hand = held.get(code)
    if (!hand) return
    held.delete(code)
    bench.act(hand)
  })
  // A page that is left hears of no key that is let go.
  useEventListener(window, 'blur', () => {
    for (const hand of held.values()) bench.act(hand)
    held.clear()
  })
  return { down }
}
