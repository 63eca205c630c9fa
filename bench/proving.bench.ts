import { expect, it } from 'vitest'
import type * as Core from './core'
import { builtCore } from './built'

const RUNS = 5
/** Rehearsing takes so many times as long at most as sending the same messages. */
const MOST_RATIO = 3
const FRAME_MS = 1000 / 60

const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0
const timed = (work: () => void): number => {
  const start = performance.now()
  work()
  return performance.now() - start
}

/** Send everything that a rehearsal sends, controller by controller, and nothing else. */
function encode(core: typeof Core, rig: Parameters<typeof Core.rehearse>[0]): number {
  let messages = 0
  for (const spot of core.spotsOf(rig))
    for (const scene of core.scenesOf(
      rig,
      spot.controller,
      spot.place,
      core.mappingsOf(rig, core.placeRef(spot.place)),
      {},
    )) {
      let state = scene.state.controllers[spot.controller.id]
      if (!state) throw new Error(spot.controller.id)
      let at = 1000
      for (const { hand, ms } of core.actsOver(
        spot.control,
        spot.place.gesture,
        spot.messages,
        core.joinedIn(rig, spot.place, scene.state),
      )) {
        const played = core.play(rig, spot.controller, state, hand, at)
        ;({ state } = played)
        at += ms
        messages += played.sent.length
      }
    }
  return messages
}

it('the demo as performed is rehearsed in a few times what sending the same messages takes', async () => {
  const core = await builtCore()
  const rig = core.nineRingsRig('as-performed')
  const [sending, rehearsing]: [number[], number[]] = [[], []]
  let [messages, rehearsed] = [0, 0]
  for (let run = 0; run < RUNS; run++) {
    sending.push(timed(() => (messages = encode(core, rig))))
    rehearsing.push(timed(() => (rehearsed = core.rehearse(rig)?.messages ?? 0)))
  }
  // Takeover is asked with movements of its own: what is compared is the time of one message.
  const ratio = median(rehearsing) / rehearsed / (median(sending) / messages)
  console.log(
    `${messages} messages sent in ${median(sending).toFixed(0)} ms, ${rehearsed} rehearsed in ${median(rehearsing).toFixed(0)} ms: ${ratio.toFixed(2)} times (goal ${MOST_RATIO})`,
  )
  expect(messages).toBeGreaterThan(50_000)
})

it('the stress rig is rehearsed with progress and in bounded memory', async () => {
  const core = await builtCore()
  const rig = core.stressRig()
  const before = process.memoryUsage().heapUsed
  const start = performance.now()
  let [reports, most, done, of] = [0, 0, 0, 1]
  for (const progress of core.rehearsing(rig)) {
    reports++
    ;({ done, of } = progress)
    most = Math.max(most, process.memoryUsage().heapUsed - before)
    if (performance.now() - start > 30_000) break
  }
  const seconds = (performance.now() - start) / 1000
  console.log(
    `stress rig: ${done} of ${of} gestures in ${seconds.toFixed(0)} s, ${reports} reports, ${(most / 1e6).toFixed(0)} MB more at most; all of it would take ${((seconds * of) / Math.max(1, done) / 60).toFixed(0)} min`,
  )
  expect(reports).toBeGreaterThan(10)
})

it('a line check of 300 controls answers within a frame of the last touch', async () => {
  const core = await builtCore()
  const rig = core.bigSurfaceRig(300, 4)
  const [controller] = rig.controllers
  if (!controller) throw new Error('no controller')
  const showing = core.powerUpShowing(controller)
  const [stack] = controller.templates[0]?.stacks ?? []
  const other = stack?.layers[2]?.id ?? null
  const heard = (layer: string | null, name: string): void => {
    const check = core.lineCheck({
      rig,
      controller: controller.id,
      showings: { [controller.id]: showing },
      behind: null,
    })
    const table = stack?.layers.find(({ id }) => id === layer)?.assignments ?? {}
    const times: number[] = []
    let at = 0
    let state = {
      ...core.poweredUp(controller),
      showing: { ...showing, layers: { ...showing.layers, [stack?.id ?? '']: layer } },
    }
    for (const gesture of Object.keys(table)) {
      for (const hand of [{ kind: 'press', gesture } as const, { kind: 'let-go', gesture } as const]) {
        const played = core.play(rig, controller, state, hand, (at += 100))
        ;({ state } = played)
        for (const { bytes } of played.sent) check.hear(bytes, at)
      }
      times.push(timed(() => check.report()))
    }
    const report = check.report()
    console.log(
      `${name}: ${report.touched} of ${report.lines.length} touched, ${report.causes.map(({ text }) => text).join(' ') || 'as written'}; last answer ${times.at(-1)?.toFixed(1)} ms, median ${median(times).toFixed(1)}, worst ${Math.max(...times).toFixed(1)} ms (frame ${FRAME_MS.toFixed(1)})`,
    )
    expect(report.touched).toBeGreaterThan(report.lines.length * 0.99)
  }
  heard(showing.layers[stack?.id ?? ''] ?? null, 'as written')
  heard(other, 'another layer')
})
