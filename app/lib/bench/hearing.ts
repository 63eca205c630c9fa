import {
  hearEnd,
  hearRig,
  HEARD_START,
  type BenchState,
  type HeardState,
  type Passing,
  type Step,
} from '#core/bench'
import type { Id, Rig } from '#core/rig'

/** Bytes that wait to be read. */
interface Waiting {
  controller: Id
  stream: string
  bytes: Uint8Array
  /** Ms since the Bench was opened. */
  at: number
}

/** What was heard in one go. */
export interface HeardTogether extends Step {
  /** How many bytes were no message. */
  faults: number
  /** How many clocks and active sensings were passed over. */
  ticks: number
}

interface Around {
  /** The rig and how it stands; null where there is none. */
  now: () => { rig: Rig; state: BenchState } | null
  take: (heard: HeardTogether) => void
}

/** An MSB waits so long for its LSB, in ms; then it counts by itself. */
const HALF_MS = 30
/** What comes in is read so often where nothing is drawn, in ms. */
const HIDDEN_MS = 50

/** Streams of bytes from real controllers, each read from where it left off; together, once a picture. */
export function createHearing({ now, take }: Around) {
  const streams = new Map<string, { controller: Id; heard: HeardState }>()
  let waiting: Waiting[] = []
  let isReading = false
  let frame = 0
  let timer: ReturnType<typeof setTimeout> | undefined

  function read(): void {
    isReading = false
    cancelAnimationFrame(frame)
    clearTimeout(timer)
    const all = waiting.sort((a, b) => a.at - b.at)
    waiting = []
    const around = now()
    if (!around) return
    let { state } = around
    let [isCut, faults, ticks] = [false, 0, 0]
    const passed: Passing[] = []
    for (const { controller, stream, bytes, at } of all) {
      const before = streams.get(stream)?.heard ?? HEARD_START
      const step = hearRig(around.rig, state, controller, before, [...bytes], at)
      streams.set(stream, { controller, heard: step.heard })
      for (const each of step.passed) passed.push(each)
      faults += step.faults.length
      ticks += step.heard.ticks - before.ticks
      isCut ||= step.isCut
      state = step.state
    }
    take({ state, passed, isCut, faults, ticks })
    for (const stream of new Set(all.map((each) => each.stream))) waitForHalf(stream)
  }
  function waitForHalf(stream: string): void {
    const half = streams.get(stream)?.heard.half
    if (!half) return
    setTimeout(() => {
      const known = streams.get(stream)
      const around = now()
      if (!around || known?.heard.half !== half) return
      const step = hearEnd(around.rig, around.state, known.controller, known.heard)
      streams.set(stream, { ...known, heard: step.heard })
      take({ ...step, faults: 0, ticks: 0 })
    }, HALF_MS)
  }
  return {
    /** Bytes have come from a controller, at ms since the Bench was opened. */
    hear: (controller: Id, stream: string, bytes: Uint8Array, at: number): void => {
      waiting.push({ controller, stream, bytes, at })
      if (isReading) return
      isReading = true
      // A page that is hidden draws no picture: then the timer is first.
      frame = requestAnimationFrame(read)
      timer = setTimeout(read, HIDDEN_MS)
    },
    /** Every stream begins anew. */
    forget: (): void => {
      streams.clear()
      waiting = []
    },
  }
}
