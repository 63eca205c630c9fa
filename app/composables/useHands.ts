import { standsAt } from '#core/bench'
import { assignmentsAt, shownPlace, type Control, type GestureKey } from '#core/rig'
import { movedGesture, pressedGesture } from '~/lib/bench/figure'
import { keyAreas, keyAt } from '~/lib/keys'

/** A pointer that holds a control. */
interface Grip {
  control: Control
  element: Element
  x: number
  y: number
  /** What it moves, and where that stood. */
  moved: GestureKey | null
  from: number
  fromY: number
  pressed: GestureKey | null
  key: number
  hasMoved: boolean
  /** When it was seen last, in ms. */
  seenAt: number
}

/** So many px are a whole way, for what has no length of its own. */
const TURN_PX = 160
/** So many px are one click of an encoder. */
const CLICK_PX = 6
const MOVED_PX = 3
/** So many px lean all the way in, and bend all the way. */
const LEAN_PX = 80
const BEND_PX = 120
const WHEEL_SHARE = 1 / 64
const KEY_SHARE = 1 / 32

/** Springs take these back to their centre; a fader only has one to be felt. */
const SPRUNG: ReadonlySet<Control['kind']> = new Set(['wheel', 'joystick', 'tilt'])

/** Play a surface with mouse, wheel, keys and several fingers at once. */
export function useHands(controls: () => readonly Control[]) {
  const bench = useBenchStore()
  const grips = new Map<number, Grip>()

  const controlAt = (event: Event): Control | null => {
    const id = (event.target as Element | null)?.closest('[data-control]')?.getAttribute('data-control')
    return controls().find((control) => control.id === id) ?? null
  }
  const standing = (control: Control, gesture: GestureKey): number =>
    bench.own ? standsAt(bench.own, gesture, control) : 0
  /** Is it turned by clicks, which are sent as such? */
  function isClicked(gesture: GestureKey): boolean {
    const { controller, own } = bench
    const place = controller && own ? shownPlace(controller, own.showing, gesture) : null
    const messages = place && controller ? (assignmentsAt(controller, place)?.[gesture]?.messages ?? []) : []
    return messages.some(
      (message) =>
        ('behaviour' in message && message.behaviour.kind === 'relative') ||
        ('steps' in message && message.steps === 'increments'),
    )
  }
  /** The key of a keyboard under a point of its drawing. */
  function keyUnder(control: Control, element: Element, event: PointerEvent): number {
    const keys = bench.keysOf(control)
    if (!keys) return 0
    const { left, top, width, height } = element.getBoundingClientRect()
    const areas = keyAreas(keys.low, keys.high)
    return keyAt(areas, (event.clientX - left) / width, (event.clientY - top) / height) ?? keys.low
  }
  /** The lower a pad is struck, the harder. */
  const forceAt = (element: Element, event: PointerEvent): number => {
    const { top, height } = element.getBoundingClientRect()
    return Math.min(1, Math.max(0.1, (event.clientY - top) / height))
  }
  const touch = (control: Control, isDown: boolean): void => {
    if (control.gestures.includes('touch'))
      bench.act({ kind: isDown ? 'press' : 'let-go', gesture: `${control.id}.touch` })
  }

  function down(event: PointerEvent): void {
    const control = controlAt(event)
    const element = (event.target as Element | null)?.closest('[data-control]')
    if (!control || !element || control.silent) return
    const moved = movedGesture(control)
    const pressed = moved ? null : pressedGesture(control)
    const area = element.querySelector('[data-area]') ?? element
    const key = control.kind === 'keybed' ? keyUnder(control, area, event) : 0
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
    grips.set(event.pointerId, {
      control,
      element: area,
      x: event.clientX,
      y: event.clientY,
      moved,
      from: moved ? standing(control, moved) : 0,
      fromY: moved?.endsWith('.x') ? standing(control, `${control.id}.y`) : 0,
      pressed,
      key,
      hasMoved: false,
      seenAt: bench.now(),
    })
    touch(control, true)
    if (pressed) bench.act({ kind: 'press', gesture: pressed, force: forceAt(area, event), key })
    else if (moved?.endsWith('.x') || control.kind === 'ribbon') drag(event)
  }

  /** A held key of a zone: sideways bends it, upwards leans in, with Shift slides along it. */
  function express({ pressed: gesture, key }: Grip, across: number, up: number, isSlide: boolean): void {
    if (!gesture) return
    const share = Math.min(1, Math.max(0, up / LEAN_PX))
    bench.act({ kind: 'express', gesture, key, what: 'bend', to: 0.5 + across / (2 * BEND_PX) })
    bench.act({ kind: 'express', gesture, key, what: isSlide ? 'timbre' : 'pressure', to: share })
  }

  /** What a pointer that holds a control makes of where it is. */
  function drag(event: PointerEvent): void {
    const grip = grips.get(event.pointerId)
    if (!grip) return
    const { control, moved } = grip
    const [across, up] = [event.clientX - grip.x, grip.y - event.clientY]
    if (!grip.hasMoved && Math.hypot(across, up) < MOVED_PX && event.type === 'pointermove') return
    const area = grip.element.getBoundingClientRect()
    const overMs = Math.min(LONGEST_MS, bench.now() - grip.seenAt)
    grip.seenAt = bench.now()
    if (moved === null) {
      if (bench.isZone(control)) return express(grip, across, up, event.shiftKey)
      if (control.gestures.includes('pressure'))
        bench.act({
          kind: 'move',
          gesture: `${control.id}.pressure`,
          to: Math.min(1, Math.max(0, Math.abs(up) / LEAN_PX)),
          key: grip.key,
        })
      return
    }
    grip.hasMoved = true
    if (moved.endsWith('.x')) {
      bench.act({
        kind: 'move',
        gesture: moved,
        to: (event.clientX - area.left) / area.width,
        overMs,
      })
      bench.act({
        kind: 'move',
        gesture: `${control.id}.y`,
        to: 1 - (event.clientY - area.top) / area.height,
        overMs,
      })
    } else if (isClicked(moved)) {
      const by = Math.trunc(up / CLICK_PX)
      if (by === 0) return
      grip.y -= by * CLICK_PX
      bench.act({ kind: 'click', gesture: moved, by, overMs })
    } else if (control.kind === 'ribbon')
      bench.act({
        kind: 'move',
        gesture: moved,
        to: (event.clientX - area.left) / area.width,
        overMs,
      })
    else {
      const way = ['fader', 'wheel', 'pedal'].includes(control.kind)
        ? Math.max(40, area.height - 14)
        : TURN_PX
      bench.act({ kind: 'move', gesture: moved, to: grip.from + up / way, overMs })
    }
  }

  function up(event: PointerEvent): void {
    const grip = grips.get(event.pointerId)
    if (!grip) return
    grips.delete(event.pointerId)
    const { control, moved, pressed, key } = grip
    if (pressed && bench.isZone(control)) express(grip, 0, 0, false)
    if (pressed) bench.act({ kind: 'let-go', gesture: pressed, key })
    else if (moved && !grip.hasMoved) push(control)
    if (moved && control.restsInCentre && SPRUNG.has(control.kind))
      for (const gesture of [moved, ...(moved.endsWith('.x') ? [`${control.id}.y`] : [])])
        bench.act({ kind: 'move', gesture, to: 0.5, overMs: FRAME_MS })
    if (control.gestures.includes('pressure') && pressed)
      bench.act({ kind: 'move', gesture: `${control.id}.pressure`, to: 0, key })
    touch(control, false)
  }
  /** A knob or encoder that is pressed without being turned is pushed; anything else is only chosen. */
  function push(control: Control): void {
    const gesture = pressedGesture(control)
    const moved = movedGesture(control)
    if (!gesture) {
      if (moved) bench.gesture = moved
      return
    }
    bench.act({ kind: 'press', gesture })
    bench.act({ kind: 'let-go', gesture })
  }

  const step = (control: Control, by: 1 | -1, share: number): void => {
    const gesture = movedGesture(control)
    if (!gesture) return
    bench.act(
      isClicked(gesture)
        ? { kind: 'click', gesture, by }
        : { kind: 'nudge', gesture, by: by * share, overMs: FRAME_MS },
    )
  }
  function wheel(event: WheelEvent): void {
    const control = controlAt(event)
    if (!control || !movedGesture(control)) return
    event.preventDefault()
    step(control, event.deltaY < 0 ? 1 : -1, WHEEL_SHARE)
  }

  const computerKeys = useComputerKeys()
  function keyDown(event: KeyboardEvent): void {
    const control = controlAt(event)
    if (!control || event.ctrlKey || event.metaKey || event.altKey) return
    const isUp = event.key === 'ArrowUp' || event.key === '+'
    const isDown = event.key === 'ArrowDown' || event.key === '-'
    if (isUp || isDown) step(control, isUp ? 1 : -1, event.shiftKey ? 1 / 127 : KEY_SHARE)
    else if (!computerKeys.down(event, control)) {
      if (event.key !== ' ' && event.key !== 'Enter') return
      bench.gesture = movedGesture(control) ?? bench.gesture
    }
    event.preventDefault()
  }

  return { down, drag, up, wheel, keyDown }
}

/** A movement by key, wheel or spring takes so long. */
const FRAME_MS = 16
/** What moved since the pointer was seen last is read as often as hardware would, so far back at most. */
const LONGEST_MS = 120
