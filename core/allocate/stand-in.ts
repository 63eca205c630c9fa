import { printTag } from '../midi'
import { mappingName, unheardAfter } from '../mappings'
import { recheckWith, type Apply, type Check } from '../conflicts'
import {
  abilityReason,
  assignmentsAt,
  controlName,
  controlsOf,
  freshMessage,
  gestureName,
  gestureRef,
  kindReason,
  mappingsOf,
  modelOf,
  powerUpShowing,
  readingOrder,
  rigIndex,
  sentAddress,
  shownPlace,
  splitGestureKey,
  splitGestureRef,
  withAddress,
  type Control,
  type Controller,
  type ControlKind,
  type GestureKey,
  type GestureKind,
  type Mapping,
  type Message,
  type Place,
  type Rig,
  type RigEdit,
} from '../rig'
import type { Plan, PlannedChange, Shortage } from './plan'
import { noScore, TERMS } from './solver/problem'

/** What can stand in for what: the same kind first, then others that are moved alike. */
const ALIKE: ReadonlyArray<readonly ControlKind[]> = [
  ['knob', 'encoder', 'fader', 'wheel', 'ribbon', 'pedal'],
  ['button', 'pad', 'footswitch'],
]

interface Wanted {
  key: GestureKey
  control: Control
  gesture: GestureKind
  mappings: readonly Mapping[]
}

/** The gestures of a controller that destinations have learned, in reading order. */
function learnedOn(rig: Rig, controller: Controller): Wanted[] {
  const wanted = new Map<GestureKey, Mapping[]>()
  for (const mapping of rig.mappings) {
    if (mapping.gesture === null || mapping.learnedAt === null) continue
    const { controller: id, gesture } = splitGestureRef(mapping.gesture)
    if (id === controller.id) wanted.set(gesture, [...(wanted.get(gesture) ?? []), mapping])
  }
  const controls = controlsOf(modelOf(rig, controller))
  const order = new Map(readingOrder([...controls.values()]).map(({ id }, index) => [id, index]))
  return [...wanted]
    .flatMap(([key, mappings]): Wanted[] => {
      const { control: id, gesture } = splitGestureKey(key)
      const control = controls.get(id)
      return control ? [{ key, control, gesture, mappings }] : []
    })
    .toSorted((a, b) => (order.get(a.control.id) ?? 0) - (order.get(b.control.id) ?? 0))
}

const isAlike = (a: ControlKind, b: ControlKind): boolean =>
  a === b || ALIKE.some((kinds) => kinds.includes(a) && kinds.includes(b))

/** The first gesture of a control, or the very one that is wanted if it has it. */
const gestureOf = ({ gestures }: Control, wanted: GestureKind): GestureKind =>
  gestures.includes(wanted) ? wanted : (gestures[0] ?? wanted)

/** What a gesture sends as its controller is when switched on, and where that stands. */
function standing(controller: Controller, key: GestureKey): { place: Place; message: Message | null } | null {
  const place = shownPlace(controller, powerUpShowing(controller), key)
  if (!place) return null
  return { place, message: assignmentsAt(controller, place)?.[key]?.messages[0] ?? null }
}

/**
 * A borrowed controller takes over the addresses at which destinations learned a missing one, control by control
 * in reading order, each by one of its kind or one that is moved alike, so that nothing has to be taught again. Pins stay.
 */
export function standIn(
  check: Check,
  ids: { controller: string; missing: string; struck: readonly string[] },
  apply: Apply,
): Plan {
  const { rig } = check.context
  const { controllers } = rigIndex(rig)
  const [borrowed, missing] = [controllers.get(ids.controller), controllers.get(ids.missing)]
  const changes: PlannedChange[] = []
  const joins: RigEdit[] = []
  const shortages: Shortage[] = []
  if (borrowed && missing) {
    const { abilities, surface } = modelOf(rig, borrowed)
    const isJoined = ({ id, gestures }: Control): boolean =>
      gestures.some((kind) => mappingsOf(rig, gestureRef(borrowed.id, `${id}.${kind}`)).length > 0)
    // Those that move nothing yet come first: what moves something would have to be taught again.
    const inOrder = readingOrder(surface.controls).filter(({ silent }) => !silent)
    const open = [...inOrder.filter((each) => !isJoined(each)), ...inOrder.filter(isJoined)]
    for (const { key, control, gesture, mappings } of learnedOn(rig, missing)) {
      const learned = mappings[0]?.learnedAt
      if (!learned) continue
      const own = standing(missing, key)?.message
      const candidates = [
        ...open.filter(({ kind }) => kind === control.kind),
        ...open.filter(({ kind }) => kind !== control.kind && isAlike(kind, control.kind)),
      ]
      const found = candidates.flatMap((each) => {
        const as = gestureOf(each, gesture)
        const at = standing(borrowed, `${each.id}.${as}`)
        const table = at && assignmentsAt(borrowed, at.place)
        const isPinned = table?.[`${each.id}.${as}`]?.pinned === true
        if (!at || isPinned) return []
        const sent = at.message && at.message.kind !== 'off' ? at.message : own
        const message = withAddress(sent ?? freshMessage('cc', each.kind, as), learned, each.kind, as)
        const reason = kindReason(abilities, each, message.kind) ?? abilityReason(abilities, each, message)
        return reason === null ? [{ each, as, at, message }] : []
      })[0]
      if (!found) {
        shortages.push({
          message: `${gestureName(control, gesture)} (${missing.name}) has no counterpart left on ${borrowed.name} for ${printTag(learned)}.`,
          help: 'To help: unpin one of its kind, or borrow a controller that has more.',
          at: [],
        })
        continue
      }
      open.splice(open.indexOf(found.each), 1)
      const lineKey = `${borrowed.id}/${found.each.id}.${found.as}`
      if (ids.struck.includes(lineKey)) continue
      const before = found.at.message ? sentAddress(found.at.message, borrowed.homeChannel) : null
      const after = sentAddress(found.message, borrowed.homeChannel)
      const channel = after?.scope === 'channel' && typeof after.channel === 'number' ? after.channel : 1
      changes.push({
        key: lineKey,
        at: { ...found.at.place, message: 0 },
        from: before,
        to: learned,
        channel,
        reason: `It stands in for ${controlName(control)} (${missing.name}), which ${mappings.map((mapping) => mappingName(rig, mapping)).join(', ')} learned there.`,
        edit: { type: 'message', at: found.at.place, index: 0, message: found.message },
      })
      for (const { id } of mappings)
        joins.push({
          type: 'mapping-set',
          mapping: id,
          set: { gesture: gestureRef(borrowed.id, `${found.each.id}.${found.as}`) },
        })
    }
  }
  const edits = [...changes.map(({ edit }) => edit), ...joins]
  const then = apply(rig, edits)
  const after = recheckWith(check, then, apply)
  const left = new Set(after.findings.map(({ id }) => id))
  const known = new Set(check.findings.map(({ id }) => id))
  return {
    cures: [],
    changes,
    edits,
    resolves: check.findings.filter(({ id }) => !left.has(id)),
    leaves: after.findings.filter(({ id, severity }) => severity === 'error' && !known.has(id)),
    stale: unheardAfter(rig, then).map((mapping) => ({
      mapping: mapping.id,
      name: mappingName(rig, mapping),
    })),
    shortages,
    free: changes.length + shortages.length,
    score: { ...noScore(), errors: shortages.length, changed: changes.length },
    proven: TERMS,
    bound: null,
    isLeast: true,
  }
}
