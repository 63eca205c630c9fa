import { checksumOf, mappingsOf, placeKey, placeRef, type Id, type Place, type Rig } from '../../rig'
import { CHECKS } from './checks'
import { movesBy, run, type Run } from './run'
import { spotsOf } from './spots'
import { scenesOf, type Misbehaving } from './scenes'
import type { Told } from './told'
import { leftOut, unreached, wakeFaults } from './whole'

/** Something that a rehearsal found, with the scenes in which it is so. */
export interface Finding extends Told {
  /** The same for the same thing in the same rig. */
  id: string
  /** Which check found it. */
  check: string
  /** The scenes in which it is so; empty where it is so in all of them. */
  scenes: readonly string[]
}

/** What a rehearsal says of a rig. Plain data. */
export interface Rehearsal {
  /** Faults first, each in the order of the rig. */
  findings: readonly Finding[]
  /** How many more faults and notes there are than are told. */
  untold: { faults: number; notes: number }
  /** The mappings that did all that they are to do. */
  proven: readonly Id[]
  /** Mappings that could not be rehearsed, and why. */
  leftOut: ReadonlyArray<{ mapping: Id; why: string }>
  /** How many gestures were moved, each in every layer, scope and passage; and how many messages that took. */
  gestures: number
  runs: number
  messages: number
}

/** How far a rehearsal has come. */
export interface Progress {
  done: number
  of: number
}

interface Noted {
  check: string
  told: Told
  scenes: Set<string>
}

/** So many faults, and so many notes, are told in words; of a huge rig the rest is counted. */
const MOST_TOLD = 2000

/** What was found, each thing once, however many scenes it shows in. */
function notebook(most: number) {
  const noted = new Map<string, Noted>()
  const told: Record<Told['weight'], number> = { fault: 0, note: 0 }
  const untold: Record<Told['weight'], Set<string>> = { fault: new Set(), note: new Set() }
  return {
    note: (check: string, scene: string | null, found: Told): void => {
      const at = found.place ? placeKey(found.place) : ''
      const key = `${check} ${at} ${found.mapping ?? ''} ${found.text}`
      const known = noted.get(key)
      if (known) {
        if (scene !== null) known.scenes.add(scene)
      } else if (told[found.weight] >= most) untold[found.weight].add(checksumOf(key))
      else {
        told[found.weight]++
        noted.set(key, { check, told: found, scenes: new Set(scene === null ? [] : [scene]) })
      }
    },
    untold: () => ({ faults: untold.fault.size, notes: untold.note.size }),
    findings: (scenesAt: (place: Place | null) => number): Finding[] =>
      [...noted]
        .map(([id, { check, told: found, scenes }]) => ({
          ...found,
          id,
          check,
          scenes: scenes.size >= scenesAt(found.place) ? [] : [...scenes],
        }))
        .sort((a, b) => Number(a.weight === 'note') - Number(b.weight === 'note')),
  }
}

/** The mappings that a fault keeps from being proven: the one that it names, and what it concerns is moved by the same hand. */
const blamed = ({ joined, effects }: Run, { mapping: named, concerns }: Told): Id[] => [
  ...(named === null ? [] : [named]),
  ...(concerns === 'all'
    ? joined.flatMap(({ mapping }) => (movesBy(effects, mapping).length > 0 ? [mapping.id] : []))
    : []),
]

/** So many runs are made between two reports of how far it has come. */
const RUNS_A_REPORT = 16

/**
 * Rehearse a rig in simulation: every gesture that sends something is taken through its whole range, in every layer, passage
 * and scope in which it counts, and every mapping is asked whether the right parameter reached both ends, whether anything else
 * moved, whether the light came right, takeover held, and nothing was late or lost. Deterministic: the same rig gives the same
 * report. A generator, so that whoever runs it can show progress, and stop. `most` faults and notes each are told in words.
 */
export function* rehearsing(
  rig: Rig,
  misbehaving: Misbehaving = {},
  most = MOST_TOLD,
): Generator<Progress, Rehearsal> {
  const spots = spotsOf(rig)
  const { note, findings, untold } = notebook(most)
  const scenesAt = new Map<string, number>()
  const faulty = new Set<Id>()
  const moved = new Set<Id>()
  const wakened = new Set<string>()
  let [runs, messages] = [0, 0]
  for (const [index, spot] of spots.entries()) {
    const scenes = scenesOf(
      rig,
      spot.controller,
      spot.place,
      mappingsOf(rig, placeRef(spot.place)),
      misbehaving,
    )
    scenesAt.set(placeKey(spot.place), scenes.length)
    for (const scene of scenes) {
      const done = run(rig, scene, spot, moved, scene === scenes[0])
      runs++
      for (const { mapping } of done.joined)
        if (!moved.has(mapping.id) && movesBy(done.effects, mapping).length > 0) moved.add(mapping.id)
      for (const { id, find } of CHECKS)
        for (const told of find(done)) {
          note(id, scene.name, told)
          if (told.weight !== 'fault') continue
          for (const mapping of blamed(done, told)) faulty.add(mapping)
        }
      messages += done.messages
      const showing = `${spot.controller.id} ${JSON.stringify(scene.state.controllers[spot.controller.id]?.showing)}`
      if (!wakened.has(showing)) {
        wakened.add(showing)
        for (const told of wakeFaults(rig, scene, spot.controller.id)) note('wake', null, told)
      }
      if (runs % RUNS_A_REPORT === 0) yield { done: index, of: spots.length }
    }
  }
  const out = rig.mappings.flatMap((mapping) => {
    const why = leftOut(rig, mapping)
    return why === null ? [] : [{ mapping: mapping.id, why }]
  })
  const isOut = new Set(out.map(({ mapping }) => mapping))
  for (const mapping of rig.mappings) {
    if (isOut.has(mapping.id) || moved.has(mapping.id)) continue
    faulty.add(mapping.id)
    const spot = spots.find(({ place }) => placeRef(place) === mapping.gesture)
    note('unreached', null, unreached(rig, mapping, spot?.place ?? null))
  }
  return {
    findings: findings((place) => (place ? (scenesAt.get(placeKey(place)) ?? 0) : 0)),
    untold: untold(),
    proven: rig.mappings.flatMap(({ id }) => (faulty.has(id) || isOut.has(id) ? [] : [id])),
    leftOut: out,
    gestures: spots.length,
    runs,
    messages,
  }
}

/** `rehearsing` at one go; `onProgress` gives true to stop, and null comes of it. */
export function rehearse(
  rig: Rig,
  misbehaving: Misbehaving = {},
  onProgress: (progress: Progress) => boolean = () => false,
): Rehearsal | null {
  const steps = rehearsing(rig, misbehaving)
  for (;;) {
    const { done, value } = steps.next()
    if (done === true) return value
    if (onProgress(value)) return null
  }
}
