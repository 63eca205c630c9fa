import { proxy, wrap } from 'comlink'
import { defineStore } from 'pinia'
import { changedSince, rehearsedOf, type Progress, type Rehearsal } from '#core/bench/rehearsal'
import type { Rehearser } from '~/workers/rehearsal'
import { useBenchStore } from './bench'
import { useRigStore } from './rig'

/** Rehearsing the open rig: every gesture through its whole range, in a worker. */
export const useRehearsalStore = defineStore('rehearsal', () => {
  const rigs = useRigStore()
  const bench = useBenchStore()
  const report = shallowRef<Rehearsal | null>(null)
  /** The revision of the rig that the report is of. */
  const madeFor = ref(-1)
  const progress = shallowRef<Progress | null>(null)
  const failure = ref<string | null>(null)
  let worker: Worker | null = null

  const isBusy = computed(() => progress.value !== null)
  /** Has the rig changed since the report was made? */
  const isStale = computed(() => report.value !== null && madeFor.value !== rigs.revision)
  const since = computed(() => (rigs.rig ? changedSince(rigs.rig) : null))
  /** Destinations that are asked to do something wrong are rehearsed so too. */
  const misbehaving = computed(() =>
    Object.fromEntries(Object.entries(bench.state?.misbehaving ?? {}).filter(([, { length }]) => length > 0)),
  )

  function stop(): void {
    worker?.terminate()
    worker = null
    progress.value = null
  }

  async function start(): Promise<void> {
    const { rig, revision } = rigs
    if (!rig || isBusy.value) return
    failure.value = null
    progress.value = { done: 0, of: 1 }
    const own = new Worker(new URL('../workers/rehearsal.worker.ts', import.meta.url), { type: 'module' })
    worker = own
    const died = new Promise<never>((_, reject) => {
      own.onerror = (event) =>
        reject(new Error(event.message || 'The rehearsal could not start. Reload the page.'))
    })
    try {
      const tell = proxy((next: Progress) => {
        if (worker === own) progress.value = next
      })
      const made = await Promise.race([
        wrap<Rehearser>(own).rehearse(toRaw(rig), { ...misbehaving.value }, tell),
        died,
      ])
      if (worker !== own) return
      report.value = made
      madeFor.value = revision
    } catch (error) {
      if (worker === own) failure.value = error instanceof Error ? error.message : String(error)
    } finally {
      if (worker === own) stop()
    }
  }

  /** What is to be kept in the rig of the report; null where there is none, or the rig has changed since. */
  function kept(at: string) {
    return rigs.rig && report.value && !isStale.value ? rehearsedOf(rigs.rig, report.value, at) : null
  }

  watch(
    () => rigs.id,
    () => {
      stop()
      report.value = null
      failure.value = null
    },
  )

  return { report, progress, failure, isBusy, isStale, since, misbehaving, start, stop, kept }
})
