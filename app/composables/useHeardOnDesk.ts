import { splitGestureRef, type GestureRef } from '#core/rig'

/** What has been heard stays lit for so long, in ms. */
const LIT_MS = 600

/** Light up on the Desk what real hardware moves, and select it where the player wants that. */
export function useHeardOnDesk(): void {
  const bench = useBenchStore()
  const desk = useDeskStore()
  const preferences = usePreferencesStore()
  const until = new Map<GestureRef, number>()
  let timer: ReturnType<typeof setTimeout> | undefined

  function show(): void {
    const now = performance.now()
    for (const [ref, end] of until) if (end <= now) until.delete(ref)
    const lit = [...until.keys()]
    const isSame = lit.length === desk.heard.length && lit.every((ref, index) => ref === desk.heard[index])
    if (!isSame) desk.heard = lit
    clearTimeout(timer)
    if (until.size > 0) timer = setTimeout(show, Math.min(...until.values()) - now + 1)
  }
  watch(
    () => bench.heard,
    (heard) => {
      const end = performance.now() + LIT_MS
      for (const ref of heard) until.set(ref, end)
      show()
      const last = heard.at(-1)
      if (!last || !preferences.followHand) return
      const { controller, gesture } = splitGestureRef(last)
      if (desk.controller?.id !== controller) desk.chooseController(controller)
      if (desk.gesture !== gesture) desk.select(gesture)
    },
  )
}
