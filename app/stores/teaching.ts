import { defineStore } from 'pinia'
import type { Passing } from '#core/bench'
import { learnedFrom, showingFor, sittingOf, type SittingLine } from '#core/bench/teach'
import { mappingName } from '#core/mappings'
import { printTag, sameAddress } from '#core/midi'
import { rigIndex, type Id, type LearnedAddress, type RigEdit } from '#core/rig'
import { moveOf } from '~/lib/bench/teaching'
import { useBenchStore } from './bench'
import { usePortsStore } from './ports'
import { usePendingEditStore } from './pending-edit'
import { useRigStore } from './rig'

/** What a line of the sitting has come to. */
export type TeachPhase = 'ready' | 'sending' | 'learned' | 'wrong' | 'sent'

/** The teaching list as a guided sitting: one line at a time, each gesture sent alone. */
export const useTeachingStore = defineStore('teaching', () => {
  const rigs = useRigStore()
  const bench = useBenchStore()
  const ports = usePortsStore()
  const pending = usePendingEditStore()
  const isOn = ref(false)
  const phase = ref<TeachPhase>('ready')
  /** What the destination learned, and what it did then, in words. */
  const said = ref('')
  /** The lines that were passed over. */
  const skipped = ref<ReadonlySet<Id>>(new Set())
  /** What was done in this sitting, by the names of its steps, the last one last. */
  const done = ref<readonly string[]>([])
  let run = 0

  const lines = computed(() => (isOn.value && rigs.rig ? sittingOf(rigs.rig) : []))
  /** The line that was just taught: it stays in view until the player goes on. */
  const held = shallowRef<SittingLine | null>(null)
  const current = computed<SittingLine | null>(
    () => held.value ?? lines.value.find(({ line }) => !skipped.value.has(line.mapping.id)) ?? null,
  )
  const left = computed(() => lines.value.filter(({ line }) => !skipped.value.has(line.mapping.id)).length)
  /** Is the destination of the line a real one, which has to be told to learn by hand? */
  const isReal = computed(() => {
    const id = current.value?.destination.id
    return ports.rigPorts.some(
      (port) => port.ref.owner === id && port.work === 'receives' && ports.stands(port.key)?.isThere,
    )
  })

  function begin(): void {
    isOn.value = true
    skipped.value = new Set()
    held.value = null
    done.value = []
    phase.value = 'ready'
    said.value = ''
    bench.start()
  }
  function end(): void {
    run++
    held.value = null
    isOn.value = false
  }
  const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))

  /** Show what has to show for a line, and follow its gesture. */
  function prepare({ place }: SittingLine): void {
    if (!rigs.rig || !place) return
    bench.follow(place.controller, place.gesture)
    const owner = rigIndex(rigs.rig).controllers.get(place.controller)
    const now = bench.state?.controllers[place.controller]?.showing
    if (!owner || !now) return
    const next = showingFor(owner, place, now)
    if (next !== now) bench.show(next)
  }

  /** Send the gesture of a line alone, step by step; gives what passed. */
  async function sendAlone(line: SittingLine, own: number): Promise<Passing[]> {
    const passed: Passing[] = []
    const stop = bench.onPassed((all) => passed.push(...all))
    prepare(line)
    try {
      for (const { hand, ms } of line.steps) {
        if (run !== own) break
        bench.act(hand, true)
        await pause(ms)
      }
      await pause(SETTLE_MS)
    } finally {
      stop()
    }
    return passed.filter(({ place }) => place?.gesture === line.place?.gesture)
  }

  /** The destination is told to learn, the gesture is sent alone, and what it learned is written down. */
  async function teach(): Promise<void> {
    const line = current.value
    const { rig } = rigs
    if (!line || !rig || phase.value === 'sending') return
    const own = ++run
    phase.value = 'sending'
    said.value = ''
    const passed = await sendAlone(line, own)
    if (run !== own) return
    if (isReal.value) {
      phase.value = 'sent'
      return
    }
    const learned = firstLearned(line, passed)
    if (!learned) {
      phase.value = 'wrong'
      said.value = `Nothing came to ${line.destination.name} that it can learn. Follow the message at the foot to see where it is lost.`
      return
    }
    const name = mappingName(rig, line.line.mapping)
    const edit: RigEdit = { type: 'mapping-set', mapping: line.line.mapping.id, set: { learnedAt: learned } }
    // Once it is written down, the next line would stand here.
    held.value = line
    if (!write(`${name} learned ${printTag(learned)}`, edit)) return next()
    const after = await sendAlone(line, own)
    if (run !== own || !rigs.rig) return
    const isRight = line.line.to !== null && sameAddress(learned, line.line.to)
    phase.value = isRight ? 'learned' : 'wrong'
    said.value = `${line.destination.name} learned ${printTag(learned)}. ${moveOf(rigs.rig, line, after)}`
  }
  function firstLearned(line: SittingLine, passed: readonly Passing[]): LearnedAddress | null {
    for (const passing of passed) {
      const learned = rigs.rig && learnedFrom(rigs.rig, line.destination.id, passing)
      if (learned) return learned
    }
    return null
  }
  function write(label: string, edit: RigEdit): boolean {
    const isMade = pending.edit(label, [edit])
    if (isMade) done.value = [...done.value, label]
    return isMade
  }
  /** The player has done it at the real destination, or cleared an old mapping. */
  function tick(): void {
    const line = current.value
    if (!line || !rigs.rig) return
    const name = mappingName(rigs.rig, line.line.mapping)
    const { kind, to, done: edit } = line.line
    const label = kind === 'clear' ? `Cleared ${name}` : `${name} learned ${to ? printTag(to) : ''}`
    if (write(label, edit)) phase.value = 'ready'
  }
  function skip(): void {
    run++
    if (current.value) skipped.value = new Set([...skipped.value, current.value.line.mapping.id])
    next()
  }
  function next(): void {
    held.value = null
    phase.value = 'ready'
    said.value = ''
  }
  /** Take back the last line that was done: it comes again. */
  function undoLast(): void {
    const last = done.value.at(-1)
    if (last === undefined) return
    run++
    next()
    // What was changed since is not to be taken back unseen.
    if (rigs.undoLabel !== last) {
      said.value = `Something else was changed since “${last}”: undo that first.`
      return
    }
    rigs.undo()
    done.value = done.value.slice(0, -1)
  }

  watch(() => rigs.id, end)
  return {
    isOn,
    phase,
    said,
    current,
    left,
    done,
    isReal,
    begin,
    end,
    prepare,
    teach,
    tick,
    skip,
    next,
    undoLast,
  }
})

/** What was sent is told after so many ms at the latest. */
const SETTLE_MS = 120
