import { printTag, type Address } from '../../midi'
import {
  controlsOf,
  gestureName,
  modelOf,
  rigIndex,
  shownPlace,
  splitGestureKey,
  assignmentsAt,
  type Control,
  type GestureKey,
  type Place,
} from '../../rig'
import { createJudge, isExplained, type Judge, type Judged } from './causes'
import { flawOf, type Flaw } from './match'
import { heardMore, NOTHING_HEARD, type Heard, type Observation } from './observe'
import { causeWords, cureWords } from './words'
import type { Cause, Listened } from './worlds'

/** How one gesture of a controller stands in a line check; the player says of what is not touched that it is gone. */
export type LineState = 'as-written' | 'differs' | 'not-touched' | 'gone'

/** One gesture that is to be touched. */
export interface Line {
  gesture: GestureKey
  place: Place
  name: string
  state: LineState
  /** What came in place of what is written, in words; null where nothing did, or what is written. */
  came: string | null
}

/** A cause that was named. */
export interface NamedCause {
  cause: Cause | { kind: 'flaw'; gesture: GestureKey; flaw: NonNullable<Flaw> }
  text: string
  cure: string
  /** How many differences it explains. */
  explains: number
}

/** Something that came and that nothing explains; which gesture sent it, once the player has said so. */
export interface Stranger {
  key: string
  text: string
  address: Address
  touched: GestureKey | null
}

/** What a line check says. Plain data. */
export interface LineReport {
  lines: readonly Line[]
  causes: readonly NamedCause[]
  /** What else could be as well, and what would tell. */
  doubt: { other: string; touch: string } | null
  /** What came that nothing explains. */
  strangers: readonly Stranger[]
  touched: number
  differing: number
}

const valuesText = ({ low, high, count }: Observation): string =>
  count > 1 && low !== high ? `${low}–${high}` : String(high)
const cameText = (seen: Observation): string => `${printTag(seen.address)}, ${valuesText(seen)}`

/** Every gesture of a controller that sends something in what it is to show. */
function linesOf({
  rig,
  controller: id,
  showings,
}: Listened): Array<{ gesture: GestureKey; place: Place; control: Control }> {
  const controller = rigIndex(rig).controllers.get(id)
  const showing = showings[id]
  if (!controller || !showing) return []
  return [...controlsOf(modelOf(rig, controller)).values()].flatMap((control) =>
    control.silent
      ? []
      : control.gestures.flatMap((kind) => {
          const gesture = `${control.id}.${kind}`
          const place = shownPlace(controller, showing, gesture)
          const sends =
            place && assignmentsAt(controller, place)?.[gesture]?.messages.some((each) => each.kind !== 'off')
          return place && sends ? [{ gesture, place, control }] : []
        }),
  )
}

/** What would tell two worlds apart: a gesture that sends one thing in one of them and another in the other. */
function telling(listened: Listened, a: Judged, b: Judged, touched: ReadonlySet<string>): string | null {
  const saysIn = ({ world }: Judged, gesture: GestureKey): string => {
    const place = shownPlace(world.controller, world.showing, gesture)
    const messages = place && assignmentsAt(world.controller, place)?.[gesture]?.messages
    return JSON.stringify([messages ?? null, world.controller.homeChannel, world.semitones, world.isInverted])
  }
  const differing = linesOf(listened).filter(
    ({ gesture }) => saysIn(a, gesture) !== saysIn(b, gesture) && !touched.has(gesture),
  )
  const [first] = differing
  return first ? gestureName(first.control, splitGestureKey(first.gesture).gesture) : null
}

/** The observations that a world explains and the rig as it is written does not. */
const gained = (best: Judged, base: Judged): number =>
  [...best.matches].filter(([key, match]) => isExplained(match) && !isExplained(base.matches.get(key))).length

/** A line check of one controller, from what was heard of it. */
export interface LineCheck {
  hear: (bytes: readonly number[], at: number, touched?: GestureKey | null) => void
  /** Say which gesture it was that sent what nothing explains. */
  blame: (key: string, gesture: GestureKey | null) => void
  /** Say of gestures that the hardware no longer has them, or has them after all. What comes of one all the same counts. */
  miss: (gestures: readonly GestureKey[], isGone: boolean) => void
  report: () => LineReport
}

/**
 * Begin to check what a controller sends against what is written: every gesture is to be touched once, in any order. What differs is
 * explained by as few causes as explain the most of it.
 */
export function lineCheck(listened: Listened): LineCheck {
  const judge: Judge = createJudge(listened)
  let heard: Heard = NOTHING_HEARD
  const gone = new Set<GestureKey>()
  return {
    hear: (bytes, at, touched = null) => {
      heard = heardMore(heard, bytes, at, touched)
    },
    blame: (key, gesture) => {
      const seen = heard.observations.get(key)
      if (seen)
        heard = {
          ...heard,
          observations: new Map(heard.observations).set(key, { ...seen, touched: gesture }),
        }
    },
    miss: (gestures, isGone) => {
      for (const gesture of gestures)
        if (isGone) gone.add(gesture)
        else gone.delete(gesture)
    },
    report: () => reportOf(listened, judge, heard, gone),
  }
}

function reportOf(
  listened: Listened,
  judge: Judge,
  { observations }: Heard,
  gone: ReadonlySet<GestureKey>,
): LineReport {
  const { rig } = listened
  const seen = [...observations.values()]
  const { worlds, ties } = judge.best(seen)
  const [best] = worlds
  const base = judge.judged([], seen)
  const lines = linesOf(listened)
  const none: LineReport = { lines: [], causes: [], doubt: null, strangers: [], touched: 0, differing: 0 }
  if (!best || !base) return none
  const states = new Map<GestureKey, Pick<Line, 'state' | 'came'>>()
  const note = (gesture: GestureKey, state: LineState, came: string | null): void => {
    const before = states.get(gesture)
    if (before?.state !== 'differs') states.set(gesture, { state, came })
  }
  const flaws: NamedCause[] = []
  const strangers: Stranger[] = []
  for (const each of seen) {
    const written = base.matches.get(each.key)?.all ?? []
    const matched = best.matches.get(each.key)
    const found = matched?.all ?? []
    const isWritten =
      written.length > 0 &&
      found.every(({ place }) => written.some((one) => one.place.gesture === place.gesture))
    if (isWritten) {
      for (const match of written) {
        const flaw = written.length === 1 ? flawOf(match, each) : null
        note(match.place.gesture, flaw ? 'differs' : 'as-written', flaw ? cameText(each) : null)
        if (flaw) flaws.push(flawCause(match.control, match.place.gesture, flaw))
      }
      continue
    }
    const others = found.length > 0 ? found : (matched?.nearly ?? [])
    const gestures = each.touched !== null ? [each.touched] : others.map(({ place }) => place.gesture)
    if (each.isPart && found.length === 0) continue
    for (const gesture of gestures) note(gesture, 'differs', cameText(each))
    if (found.length === 0 && !each.isPart)
      strangers.push({ key: each.key, text: cameText(each), address: each.address, touched: each.touched })
  }
  const causes = best.world.causes.map((cause): NamedCause => {
    const without = judge.judged(
      best.world.causes.filter((other) => other !== cause),
      seen,
    )
    return {
      cause,
      text: causeWords(rig, listened.controller, best.world, cause),
      cure: cureWords(best.world, cause),
      explains: without ? best.explained - without.explained : gained(best, base),
    }
  })
  const rival = ties > 1 ? worlds[1] : undefined
  const touched = new Set(states.keys())
  const other = rival && rival.world.causes.find((cause) => !best.world.causes.includes(cause))
  const touch = rival && other ? telling(listened, best, rival, touched) : null
  const all = lines.map(({ gesture, place, control }): Line => ({
    gesture,
    place,
    name: gestureName(control, splitGestureKey(gesture).gesture),
    state: states.get(gesture)?.state ?? (gone.has(gesture) ? 'gone' : 'not-touched'),
    came: states.get(gesture)?.came ?? null,
  }))
  return {
    lines: all,
    causes: [...causes, ...flaws],
    doubt:
      rival && other
        ? {
            other: causeWords(rig, listened.controller, rival.world, other),
            touch: touch ? `Touch ${touch} to tell.` : 'Touch more controls to tell.',
          }
        : null,
    strangers,
    touched: all.filter(({ gesture }) => states.has(gesture)).length,
    differing: all.filter(({ state }) => state === 'differs').length,
  }
}

function flawCause(control: Control, gesture: GestureKey, flaw: NonNullable<Flaw>): NamedCause {
  const name = gestureName(control, splitGestureKey(gesture).gesture)
  const of = { cause: { kind: 'flaw' as const, gesture, flaw }, explains: 1 }
  switch (flaw.kind) {
    case 'stuck':
      return {
        ...of,
        text: `${name} is stuck: it says the same at every press.`,
        cure: 'Look whether it is set to send one value, or whether the switch is broken.',
      }
    case 'short':
      return {
        ...of,
        text: `${name} does not reach its end: ${Math.round(flaw.reaches)} of ${Math.round(flaw.of)}.`,
        cure: 'Calibrate it, or turn up its range on the hardware.',
      }
  }
}
