import { listed } from '../../conflicts/words'
import type { Rehearsal } from './rehearse'
import {
  checksumOf,
  findGesture,
  memoOf,
  mappingsOf,
  modelOf,
  placeRef,
  rigIndex,
  type GestureRef,
  type Id,
  type Mapping,
  type Rig,
} from '../../rig'

/** What of the whole rig every mapping rests on: how things are connected, and what shows when. */
const wiringMark = memoOf((rig: Rig) =>
  checksumOf(JSON.stringify([rig.cables, rig.boxes, rig.computers, rig.choices, rig.passages])),
)

/** What of a destination each of its mappings rests on. */
const destinationMark = memoOf((rig: Rig) => {
  const marks = new Map<Id, string>()
  for (const { id, inside, ports, hears, claims, scopes, stepRule, feedback, unit } of rig.destinations)
    marks.set(
      id,
      checksumOf(JSON.stringify([inside, ports, hears, claims, scopes, stepRule, feedback, unit])),
    )
  return marks
})

/** What a gesture sends in every layer, with the control that it is of. */
const gestureMarks = memoOf((_rig: Rig) => new Map<GestureRef, string>())
function gestureMark(rig: Rig, ref: GestureRef): string {
  const known = gestureMarks(rig)
  const before = known.get(ref)
  if (before !== undefined) return before
  const found = findGesture(rig, ref)
  const controller = found?.controller
  const sent = controller?.templates.map(({ id, base, stacks }) => [
    id,
    base[found?.key ?? ''],
    stacks.map(({ id: stack, mode, powerUp, layers, gestures }) =>
      found && gestures.includes(found.key)
        ? [stack, mode, powerUp, layers.map((layer) => [layer.id, layer.assignments[found.key]])]
        : null,
    ),
  ])
  const { silent, restsInCentre, detentsPerTurn, lightNumber } = found?.control ?? {}
  const abilities = controller ? modelOf(rig, controller).abilities : null
  const roles = rig.lightRoles
  const mark = checksumOf(
    JSON.stringify([
      controller?.inUse,
      controller?.homeChannel,
      controller?.ports,
      abilities?.connection,
      abilities?.lights,
      roles,
      [silent, restsInCentre, detentsPerTurn, lightNumber],
      sent,
      // What else the gesture is joined to decides which scope wins.
      mappingsOf(rig, ref).map(({ id, scope }) => [id, scope]),
    ]),
  )
  known.set(ref, mark)
  return mark
}

/** A mark of all that a mapping rests on: the same as long as none of it changes. */
export function mappingMark(rig: Rig, mapping: Mapping): string {
  const { memo: _, ...said } = mapping
  const parameter = rigIndex(rig)
    .destinations.get(mapping.destination)
    ?.parameters.find(({ id }) => id === mapping.parameter)
  return checksumOf(
    JSON.stringify([
      said,
      parameter,
      destinationMark(rig).get(mapping.destination),
      mapping.gesture === null ? null : gestureMark(rig, mapping.gesture),
      wiringMark(rig),
    ]),
  )
}

/** How a mapping stands since the last rehearsal. */
export type Standing = 'as-rehearsed' | 'changed' | 'not-proven'

/** What has changed since a rig was rehearsed. */
export interface Since {
  /** Mappings that are as they were proven. */
  same: readonly Id[]
  /** Mappings that were proven, and rest on something else now. */
  changed: readonly Id[]
  /** Mappings that were not proven then: new since, or faulty. */
  unproven: readonly Id[]
  /** How many that were proven are gone. */
  gone: number
}

/** What has changed since a rig was rehearsed; null where it never was. */
export function changedSince(rig: Rig): Since | null {
  const { rehearsed } = rig
  if (!rehearsed) return null
  const of = (standing: Standing): Id[] =>
    rig.mappings.flatMap((mapping) => (standingOf(rig, mapping) === standing ? [mapping.id] : []))
  const there = new Set(rig.mappings.map(({ id }) => id))
  return {
    same: of('as-rehearsed'),
    changed: of('changed'),
    unproven: of('not-proven'),
    gone: Object.keys(rehearsed.proven).filter((id) => !there.has(id)).length,
  }
}

function standingOf(rig: Rig, mapping: Mapping): Standing {
  const mark = rig.rehearsed?.proven[mapping.id]
  if (mark === undefined) return 'not-proven'
  return mark === mappingMark(rig, mapping) ? 'as-rehearsed' : 'changed'
}

/** So many faults are kept in words, each of so many letters at most. */
const MOST_KEPT = 500
const MOST_LETTERS = 1200

/** What was found, with the scenes in which it is so where it is not so in all. */
export const scenesText = (text: string, scenes: readonly string[]): string =>
  scenes.length === 0 ? text : `In ${listed(scenes)}: ${text}`

/** What of a rehearsal is kept in the rig, made at a time (ISO 8601, UTC). */
export function rehearsedOf(
  rig: Rig,
  { proven, findings, untold }: Pick<Rehearsal, 'proven' | 'findings' | 'untold'>,
  at: string,
): NonNullable<Rig['rehearsed']> {
  const byId = new Map(rig.mappings.map((mapping) => [mapping.id, mapping]))
  const faults = findings.filter(({ weight }) => weight === 'fault')
  return {
    at,
    faults: faults.length + untold.faults,
    findings: faults.slice(0, MOST_KEPT).map(({ text, cure, place, scenes }) => ({
      text: scenesText(text, scenes).slice(0, MOST_LETTERS),
      cure: cure.slice(0, MOST_LETTERS),
      gesture: place && placeRef(place),
    })),
    proven: Object.fromEntries(
      proven.flatMap((id) => {
        const mapping = byId.get(id)
        return mapping ? [[id, mappingMark(rig, mapping)]] : []
      }),
    ),
  }
}
