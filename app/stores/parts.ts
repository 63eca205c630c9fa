import { defineStore } from 'pinia'
import type { ChangedFinding, ChangeReport } from '#core/history'
import type { Id, Rig } from '#core/rig'
import { compareRigs, withDifferences } from '#core/rig/compare'
import {
  cutPart,
  PART_WORDS,
  takeIn,
  takeInPlaceOf,
  writePart,
  type Part,
  type PartRef,
  type TakenIn,
} from '#core/rig/part'
import { askAway } from '~/lib/ask-away'
import { readFailure } from '~/lib/read-failure'
import { readAway } from '~/lib/reading'
import { database } from '~/storage/open'
import { loadRig } from '~/storage/shelf'
import type { Historian } from '~/workers/history'
import { useRigStore } from './rig'

/** Where a part comes: beside what is there, or in place of a controller, a destination, or (null) the roles or rules that are there. */
export type PartPlace = { kind: 'beside' } | { kind: 'instead'; of: Id | null }

/** A part that could be taken into the open rig. */
export interface Offered {
  part: Part
  place: PartPlace
  taken: TakenIn
  /** In what the rig would differ, and what would be found that is not now; null until it is known. */
  then: { report: ChangeReport; came: ChangedFinding[] } | null
}

/** Are two places the same one? */
export const isSamePlace = (a: PartPlace, b: PartPlace): boolean =>
  a.kind === 'beside' || b.kind === 'beside' ? a.kind === b.kind : a.of === b.of

/** What comes of a part at a place. Throws an EditError where it cannot come there. */
const takenAt = (rig: Rig, part: Part, place: PartPlace): TakenIn =>
  place.kind === 'beside' ? takeIn(rig, part) : takeInPlaceOf(rig, part, place.of)

/** A part that may be cut out of another rig. */
export interface Piece {
  ref: PartRef
  name: string
}

/** So large is no part: a rig has no more. */
const MOST_BYTES = 128 * 1024 * 1024

/** Carrying parts of rigs from one to another. */
export const usePartsStore = defineStore('parts', () => {
  const rigs = useRigStore()
  const source = shallowRef<{ id: string; name: string; rig: Rig } | null>(null)
  const offered = shallowRef<Offered | null>(null)
  const failure = ref<string | null>(null)

  const pieces = computed((): Piece[] => {
    const rig = source.value?.rig
    if (!rig) return []
    return [
      ...rig.controllers.map(({ id, name }): Piece => ({ ref: { kind: 'controller', id }, name })),
      ...rig.destinations.map(({ id, name }): Piece => ({ ref: { kind: 'destination', id }, name })),
      ...(rig.lightRoles.length > 0
        ? [{ ref: { kind: 'light-roles' } as const, name: `Its ${rig.lightRoles.length} light roles` }]
        : []),
      ...(rig.houseRules.some(({ controller }) => controller === null)
        ? [{ ref: { kind: 'house-rules' } as const, name: 'Its house rules' }]
        : []),
    ]
  })

  /** The file of a part of the open rig; null where it is not there. */
  function fileOf(ref: PartRef): { name: string; text: string } | null {
    const part = rigs.rig && cutPart(rigs.rig, ref)
    return part ? { name: part.rig.name, text: writePart(part) } : null
  }

  /** The places that a part could come to, with their names. */
  const places = computed((): Array<{ place: PartPlace; name: string }> => {
    const [rig, part] = [rigs.rig, offered.value?.part]
    if (!rig || !part) return []
    const instead = (of: Id | null, name: string) => ({ place: { kind: 'instead' as const, of }, name })
    const all = {
      controller: rig.controllers.map(({ id, name }) => instead(id, name)),
      destination: rig.destinations.map(({ id, name }) => instead(id, name)),
      'light-roles': rig.lightRoles.length > 0 ? [instead(null, 'the roles of the same names')] : [],
      'house-rules': rig.houseRules.some(({ controller }) => controller === null)
        ? [instead(null, 'the house rules that are here')]
        : [],
    }
    return [{ place: { kind: 'beside' }, name: '' }, ...all[part.kind]]
  })

  async function offer(part: Part, place: PartPlace = { kind: 'beside' }): Promise<void> {
    const { rig } = rigs
    if (!rig) return
    failure.value = null
    try {
      const taken = takenAt(rig, part, place)
      const own: Offered = { part, place, taken, then: null }
      offered.value = own
      const then = await askAway<Historian, NonNullable<Offered['then']>>(
        new Worker(new URL('../workers/history.worker.ts', import.meta.url), { type: 'module' }),
        async (historian) => {
          const { report } = await historian.compare(
            { kind: 'given', rig: toRaw(rig) },
            { kind: 'given', rig: taken.rig },
          )
          return { report, came: (await historian.findings()).came }
        },
      )
      if (offered.value === own) offered.value = { ...own, then }
    } catch (error) {
      if (offered.value?.part !== part && offered.value !== null) return
      failure.value = error instanceof Error ? error.message : String(error)
    }
  }

  /** Offer the same part at another place. */
  function offerAt(place: PartPlace): void {
    if (offered.value) void offer(offered.value.part, place)
  }

  async function openFile(file: File): Promise<void> {
    failure.value = null
    if (file.size > MOST_BYTES) {
      failure.value = `“${file.name}” is ${Math.ceil(file.size / 2 ** 20)} MB large; a part has ${MOST_BYTES / 2 ** 20} MB at most.`
      return
    }
    try {
      const result = await readAway(
        async (reader, report) => reader.part(file, report),
        () => undefined,
      ).result
      if (!result) return
      if (result.ok) return await offer(result.part)
      const [problem] = result.problems
      failure.value = `“${file.name}” was not taken in: ${problem?.path ?? ''}: ${problem?.message ?? ''}`
    } catch (error) {
      failure.value = `“${file.name}” was not taken in. ${readFailure(error)}`
    }
  }

  /** Look at another rig on the shelf, to take a piece of it. */
  async function openShelf(id: string, name: string): Promise<void> {
    failure.value = null
    offered.value = null
    try {
      const open = await loadRig(database(), id)
      if (open) source.value = { id, name, rig: open.rig }
      else failure.value = `“${name}” is no longer on the shelf.`
    } catch (error) {
      failure.value = error instanceof Error ? error.message : String(error)
    }
  }

  function choose(ref: PartRef): void {
    const part = source.value && cutPart(source.value.rig, ref)
    if (part) void offer(part)
  }

  /** Take what is offered into the rig, as one edit. */
  function accept(): boolean {
    const { rig } = rigs
    if (!rig || !offered.value) return false
    if (!rigs.canEdit) {
      failure.value = 'This rig can only be read here. Take it over first.'
      return false
    }
    const { part, place } = offered.value
    try {
      // The rig may have gone on since it was offered.
      const { rig: next } = takenAt(rig, part, place)
      const where = places.value.find((each) => isSamePlace(each.place, place))?.name ?? ''
      const instead = place.kind === 'beside' ? '' : ` in place of ${where}`
      const label = `Take in ${PART_WORDS[part.kind]} ${part.rig.name}${instead}`
      rigs.commit({ before: rig, ...withDifferences(rig, label, compareRigs(rig, next)) })
      offered.value = null
      return true
    } catch (error) {
      failure.value = error instanceof Error ? error.message : String(error)
      return false
    }
  }

  watch(
    () => rigs.id,
    () => {
      source.value = null
      offered.value = null
      failure.value = null
    },
  )

  return { source, pieces, offered, places, failure, fileOf, openFile, openShelf, choose, offerAt, accept }
})
