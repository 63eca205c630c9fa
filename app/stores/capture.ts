import { defineStore } from 'pinia'
import { ownersOf } from '#core/bench/capture/owners'
import { CAPTURE_LIMITS } from '#core/bench/capture/limits'
import type { NamedTrack } from '#core/midi/smf'
import type { Id } from '#core/rig'
import { readFailure } from '~/lib/read-failure'
import { readAway, type IncomingFile } from '~/lib/reading'
import { inAppPorts, type InAppSource } from '~/ports/in-app'
import type { Stop } from '~/ports/port'

/** A capture that has been opened, with the controller that each of its tracks is from. */
export interface OpenCapture {
  name: string
  tracks: readonly NamedTrack[]
  owners: ReadonlyArray<Id | null>
  count: number
  /** Its length in ms. */
  ms: number
  /** False where the file has no times. */
  isTimed: boolean
}

/** What is due is sent so often, in ms. */
const EVERY_MS = 16
/** What was sent last is heard by then, in ms. */
const LET_GO_AFTER_MS = 100

/** A capture from a file, played again as if its controllers were there: it comes in by ports within the application. */
export const useCaptureStore = defineStore('capture', () => {
  const rigs = useRigStore()
  const bench = useBenchStore()
  const capture = shallowRef<OpenCapture | null>(null)
  const incoming = shallowRef<IncomingFile | null>(null)
  const refused = ref<{ name: string; message: string } | null>(null)
  const isPlaying = ref(false)
  /** How far it is played, in ms. */
  const at = ref(0)

  async function open(file: File): Promise<void> {
    incoming.value?.stop()
    refused.value = null
    if (file.size > CAPTURE_LIMITS.bytes) {
      refused.value = {
        name: file.name,
        message: `It is ${Math.ceil(file.size / 1e6)} MB large; a capture has ${CAPTURE_LIMITS.bytes / 1e6} MB at most.`,
      }
      return
    }
    const own = readAway(
      async (reader, report) => reader.capture(file, report),
      (progress) => {
        if (incoming.value?.stop === own.stop) incoming.value = { ...incoming.value, progress }
      },
    )
    incoming.value = { name: file.name, progress: { stage: 'opening', done: 0 }, stop: own.stop }
    try {
      const read = await own.result
      if (read && !read.ok) refused.value = { name: file.name, message: read.message }
      if (read?.ok) take(file.name, read.tracks, read.isTimed)
    } catch (error) {
      refused.value = { name: file.name, message: readFailure(error) }
    } finally {
      if (incoming.value?.stop === own.stop) incoming.value = null
    }
  }
  function take(name: string, tracks: readonly NamedTrack[], isTimed: boolean): void {
    if (!rigs.rig) return
    stop()
    at.value = 0
    capture.value = {
      name,
      tracks,
      isTimed,
      owners: ownersOf(rigs.rig, tracks),
      count: tracks.reduce((sum, { messages }) => sum + messages.length, 0),
      ms: tracks.reduce((most, { messages }) => Math.max(most, messages.at(-1)?.at ?? 0), 0),
    }
  }
  function setOwner(track: number, id: Id): void {
    if (capture.value)
      capture.value = {
        ...capture.value,
        owners: capture.value.owners.map((owner, index) => (index === track ? id : owner)),
      }
  }

  let timer: ReturnType<typeof setInterval> | undefined
  let stops: Stop[] = []
  /** Play it from its beginning; a second time it is a new stream. */
  async function play(): Promise<void> {
    const now = capture.value
    if (!now || isPlaying.value) return
    isPlaying.value = true
    const ports = inAppPorts()
    const opened = await ports.open({ sysex: true })
    const started = performance.now()
    const streams = await Promise.all(
      now.tracks.map(async ({ messages }, index): Promise<{ source: InAppSource; left: typeof messages }> => {
        const id = `capture ${index} ${started}`
        const owner = now.owners[index]
        const source = ports.offer({ id, name: now.name })
        if (owner) stops.push(await opened.listen(id, (bytes, time) => bench.hear(owner, id, bytes, time)))
        stops.push(source.remove)
        return { source, left: messages }
      }),
    )
    const nexts = streams.map(() => 0)
    timer = setInterval(() => {
      const until = performance.now() - started
      at.value = Math.min(until, now.ms)
      let isDone = true
      streams.forEach(({ source, left }, index) => {
        for (;;) {
          const message = left[nexts[index] ?? 0]
          if (!message) break
          if (message.at > until) {
            isDone = false
            break
          }
          source.push(Uint8Array.from(message.bytes), started + message.at)
          nexts[index] = (nexts[index] ?? 0) + 1
        }
      })
      if (isDone) stop()
    }, EVERY_MS)
  }
  /** Stop it; what it holds down at the time is let go. */
  function stop(): void {
    if (isPlaying.value) setTimeout(() => bench.silence(), LET_GO_AFTER_MS)
    clearInterval(timer)
    for (const each of stops) each()
    stops = []
    isPlaying.value = false
  }
  function close(): void {
    stop()
    capture.value = null
    refused.value = null
  }
  watch(
    () => rigs.id,
    () => close(),
  )

  return { capture, incoming, refused, isPlaying, at, open, setOwner, play, stop, close }
})
