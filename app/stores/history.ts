import { promiseTimeout } from '@vueuse/core'
import { proxy, wrap, type Remote } from 'comlink'
import { defineStore } from 'pinia'
import {
  isSpokenOf,
  rigAfter,
  type CellChange,
  type ChangedFindings,
  type ChangeReport,
  type StepWords,
} from '#core/history'
import type { Id, Rig } from '#core/rig'
import { withDifferences, type Where } from '#core/rig/compare'
import { askAway } from '~/lib/ask-away'
import { pointName as nameOf } from '~/lib/history/point-words'
import { openSource, sourceOf, type Point } from '~/lib/history/points'
import { historyRows } from '~/lib/history/rows'
import { database } from '~/storage/open'
import { keepVersion, listVersions, nameVersion, removeVersion, type VersionEntry } from '~/storage/versions'
import type { Historian, WouldBring } from '~/workers/history'
import { useRigStore } from './rig'

/** Something that was to be brought back and cannot stand alone. */
export interface Offer extends WouldBring {
  label: string
}

/** A worker that is asked, and what is rejected when it dies. */
interface Asked {
  worker: Worker
  to: Remote<Historian>
  failed: Promise<never>
}

/** It is waited so long for findings before what differs is shown without them, in ms. */
const SOON_MS = 600

const said = (error: unknown): string => (error instanceof Error ? error.message : String(error))

/** The line of edits and versions of the open rig, and comparing it with what it was. */
export const useHistoryStore = defineStore('history', () => {
  const rigs = useRigStore()
  const versions = shallowRef<readonly VersionEntry[]>([])
  const point = shallowRef<Point | null>(null)
  /** What it is compared up to; null for the rig as it is now. */
  const until = shallowRef<Point | null>(null)
  /** The surfaces of the two that are compared, where they differ: those of the earlier one, and of the later. */
  const other = shallowRef<Rig | null>(null)
  const later = shallowRef<Rig | null>(null)
  const report = shallowRef<ChangeReport | null>(null)
  const findings = shallowRef<ChangedFindings | null>(null)
  const cells = shallowRef<readonly CellChange[]>([])
  const words = shallowRef<ReadonlyMap<number, StepWords>>(new Map())
  const search = ref('')
  const isBusy = ref(false)
  const failure = ref<string | null>(null)
  const offer = shallowRef<Offer | null>(null)
  /** The controller whose surface shows what changed. */
  const controllerId = ref<Id | null>(null)
  let asked: Asked | null = null
  let teller: Worker | null = null
  let turn = 0

  /** What is compared with, in words. */
  const pointName = computed(() => (point.value ? nameOf(point.value, rigs.past, versions.value) : ''))
  const untilName = computed(() => (until.value ? nameOf(until.value, rigs.past, versions.value, true) : ''))

  const rows = computed(() =>
    historyRows(rigs.past, versions.value, (index) => {
      const wanted = search.value.trim()
      return wanted === '' || isSpokenOf(rigs.past[index]?.label ?? '', words.value.get(index), wanted)
    }),
  )

  /** The worker that compares. Its proxy is held as long as it lives: one that is collected lets go of the worker. */
  function historian(): Asked {
    if (asked) return asked
    const worker = new Worker(new URL('../workers/history.worker.ts', import.meta.url), { type: 'module' })
    const failed = new Promise<never>((_, reject) => {
      worker.onerror = (event) => {
        if (asked?.worker === worker) asked = null
        reject(new Error(event.message || 'Comparing could not start. Reload the page.'))
      }
    })
    failed.catch(() => undefined)
    asked = { worker, to: wrap<Historian>(worker), failed }
    return asked
  }

  async function refresh(): Promise<void> {
    const { id } = rigs
    try {
      versions.value = id === null ? [] : await listVersions(database(), id)
    } catch (error) {
      failure.value = `The versions cannot be read: ${said(error)}`
    }
  }

  /** Compare the rig as it is with a point; null lets go of it. */
  async function compareWith(next: Point | null): Promise<void> {
    point.value = next
    until.value = null
    await compare()
  }

  /** Compare up to another point, or with null up to now. */
  async function compareUntil(next: Point | null): Promise<void> {
    until.value = next
    await compare()
  }

  async function compare(): Promise<void> {
    const own = ++turn
    const at = point.value
    const { rig } = rigs
    offer.value = null
    failure.value = null
    if (!at || !rig) {
      report.value = null
      findings.value = null
      cells.value = []
      other.value = null
      isBusy.value = false
      return
    }
    isBusy.value = true
    try {
      const end = until.value
      const from = await sourceOf(rigs, at)
      const upTo = end === null ? await openSource(rigs) : await sourceOf(rigs, end)
      if (turn !== own) return
      const { to, failed } = historian()
      const made = await Promise.race([to.compare(from, upTo), failed])
      const more = Promise.all([Promise.race([to.cells(), failed]), Promise.race([to.findings(), failed])])
      // What comes soon comes with the rest: nothing is to move under the pointer.
      const known = await Promise.race([more, promiseTimeout(SOON_MS).then(() => null)])
      if (turn !== own) return
      other.value = made.before
      later.value = made.after
      report.value = made.report
      cells.value = known?.[0] ?? []
      findings.value = known?.[1] ?? null
      isBusy.value = false
      const [sent, changed] = await more
      if (turn !== own) return
      cells.value = sent
      findings.value = changed
    } catch (error) {
      if (turn !== own) return
      report.value = null
      failure.value = said(error)
    } finally {
      if (turn === own) isBusy.value = false
    }
  }

  /** Work out what every edit did, the last first. */
  async function tellSteps(): Promise<void> {
    teller?.terminate()
    const { rig, past } = rigs
    words.value = new Map()
    if (!rig || past.length === 0) return
    const own = new Worker(new URL('../workers/history.worker.ts', import.meta.url), { type: 'module' })
    teller = own
    const tell = proxy((told: StepWords[]) => {
      if (teller !== own) return
      words.value = new Map([...words.value, ...told.map((each) => [each.index, each] as const)])
    })
    try {
      const source = await openSource(rigs)
      const plain =
        source.kind === 'given'
          ? past.map(({ label, patches, inverse }) => ({ label, patches, inverse }))
          : []
      if (teller === own) await askAway(own, (to: Remote<Historian>) => to.steps(source, plain, tell))
    } catch (error) {
      if (teller === own) failure.value = `What each edit did cannot be told, only its name: ${said(error)}`
    } finally {
      if (teller === own) teller = null
    }
  }

  /** The two rigs that are compared, whole; null where they are not to be had. */
  async function both(): Promise<{ before: Rig; after: Rig } | null> {
    try {
      const { to, failed } = historian()
      return await Promise.race([to.both(), failed])
    } catch (error) {
      failure.value = said(error)
      return null
    }
  }

  /** Keep the rig as it was at a point, or as it is, under a name. */
  async function keepAs(name: string, at: Point | null): Promise<void> {
    const { id, rig, past } = rigs
    if (!rig) return
    if (id === null) {
      failure.value =
        'This browser keeps nothing for this page, so no version can be kept. Export the rig to a file instead.'
      return
    }
    failure.value = null
    try {
      if (at?.kind === 'version') await nameVersion(database(), at.id, name)
      else {
        const count = at?.kind === 'step' ? at.count : past.length
        const last = past[count - 1]
        const kept = at?.kind === 'step' ? rigAfter(rig, past, count) : rig
        const made = await keepVersion(database(), id, kept, {
          name,
          // Before the first edit there was a moment too.
          at: last?.at ?? (past[count]?.at ?? Date.now()) - 1,
          label: last?.label ?? '',
        })
        if (at) point.value = { kind: 'version', id: made }
      }
    } catch (error) {
      failure.value = `“${name}” could not be kept: ${said(error)} Export the rig to a file, so that it is safe.`
    }
    await refresh()
  }

  async function forget(version: VersionEntry): Promise<void> {
    failure.value = null
    try {
      if (version.name === null) await removeVersion(database(), version.id)
      else await nameVersion(database(), version.id, null)
    } catch (error) {
      failure.value = `This version could not be changed: ${said(error)}`
    }
    await refresh()
    if (point.value?.kind === 'version' && !versions.value.some(({ id }) => id === version.id))
      await compareWith(null)
  }

  function make(label: string, differences: WouldBring['differences']): boolean {
    const { rig } = rigs
    if (!rig || !rigs.canEdit) {
      failure.value = 'This rig can only be read here. Take it over first.'
      return false
    }
    try {
      rigs.commit({ before: rig, ...withDifferences(rig, label, differences) })
      offer.value = null
      return true
    } catch (error) {
      failure.value = said(error)
      return false
    }
  }

  /** Bring places of the earlier rig back, as one edit. What they cannot stand without is offered first. */
  async function bringBack(label: string, places: readonly Where[]): Promise<void> {
    const own = turn
    failure.value = null
    offer.value = null
    const { rig } = rigs
    try {
      const { to, failed } = historian()
      const found = await Promise.race([to.bringBack(places), failed])
      if (turn !== own || rig !== rigs.rig) return
      if (found.also.length > 0) offer.value = { ...found, label }
      else make(label, found.differences)
    } catch (error) {
      failure.value = said(error)
    }
  }

  /** Things are brought back into the rig as it is now, and only there. */
  const canBringBack = computed(() => rigs.canEdit && until.value === null)

  const acceptOffer = (): boolean => offer.value !== null && make(offer.value.label, offer.value.differences)

  function close(): void {
    asked?.worker.terminate()
    teller?.terminate()
    asked = null
    teller = null
    turn++
    isBusy.value = false
  }

  watch(
    () => rigs.id,
    () => {
      close()
      point.value = null
      until.value = null
      report.value = null
      versions.value = []
      search.value = ''
    },
  )

  return {
    versions,
    rows,
    point,
    pointName,
    until,
    untilName,
    other,
    later,
    canBringBack,
    report,
    findings,
    cells,
    words,
    search,
    isBusy,
    failure,
    offer,
    controllerId,
    refresh,
    compareWith,
    compareUntil,
    compare,
    both,
    tellSteps,
    keepAs,
    forget,
    bringBack,
    acceptOffer,
    close,
  }
})
