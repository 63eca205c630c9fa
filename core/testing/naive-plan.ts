import { check, newErrors, RULES, type Check } from '../conflicts'
import { mappingState, onceTaught } from '../mappings'
import { assignmentsOf, perform, placeKey, type Place, type Rig, type RigEdit } from '../rig'

/** What a plan scores, counted from its definitions in `docs/allocation.md` on the rig before and after it. */
export interface NaiveScore {
  errors: number
  unmet: number
  stale: number
  warnings: number
  changed: number
  breaks: number
  outside: number
  rank: number
  moved: number
}
export const NAIVE_TERMS = [
  'errors',
  'unmet',
  'stale',
  'warnings',
  'changed',
  'breaks',
  'outside',
  'rank',
  'moved',
] as const

/** What was asked for, as far as it decides what counts. */
export interface NaiveAsked {
  /** The order of neighbours, by gesture. */
  row: readonly string[]
  /** The numbers that house rules prefer; null where they prefer none. */
  preferred: readonly number[] | null
  /** Is it to end errors with few changes? Then those in errors may move, else everyone. */
  isRepair: boolean
  /** Has each controller a channel to itself? */
  isOneForEach: boolean
}

/** One message of plain controllers of which the first message is a number, or wants one. */
export interface Slot {
  place: Place
  channel: number
  number: number | 'wanted'
}

const performed = (rig: Rig, edits: readonly RigEdit[]): Rig => perform(rig, 'plan', edits).rig

/** The assignments that are not pinned, in the order of the rig. */
export function slotsOf(rig: Rig): Slot[] {
  return rig.controllers.flatMap((controller) =>
    [...assignmentsOf(controller)].flatMap(({ place, assignment: { messages, pinned } }): Slot[] => {
      const [message] = messages
      if (pinned || message?.kind !== 'cc') return []
      const channel = message.channel === 'home' ? controller.homeChannel : message.channel
      return [{ place, channel, number: message.number }]
    }),
  )
}

/** The edit that sends an assignment elsewhere. */
export function moveTo(rig: Rig, { place }: Slot, channel: number, number: number): RigEdit {
  const controller = rig.controllers.find(({ id }) => id === place.controller)
  const found =
    controller && [...assignmentsOf(controller)].find((each) => placeKey(each.place) === placeKey(place))
  const message = found?.assignment.messages[0]
  if (message?.kind !== 'cc') throw new Error('There is no such assignment.')
  return { type: 'message', at: place, index: 0, message: { ...message, channel, number } }
}

/** Is there an error that another number could cure, in which one of these has part? */
const curable = ({ reports }: Check, places: ReadonlySet<string>): boolean =>
  reports.some(
    ({ rule, draft: { severity, senders } }) =>
      severity === 'error' &&
      RULES[rule]?.byNumbers === true &&
      senders.some(({ place }) => places.has(placeKey(place))),
  )

/** Those who may move, in the order of the rig. */
export function freeSlots(rig: Rig, { isRepair }: Pick<NaiveAsked, 'isRepair'>): Slot[] {
  const checked = check(rig)
  return slotsOf(rig).filter(({ place }) => !isRepair || curable(checked, new Set([placeKey(place)])))
}

/** Every way to give each of a list another of the channels. */
function* channelsFor(count: number, channels: readonly number[]): Generator<number[]> {
  if (count === 0) yield []
  else
    for (const channel of channels)
      for (const rest of channelsFor(
        count - 1,
        channels.filter((other) => other !== channel),
      ))
        yield [channel, ...rest]
}

/**
 * How many are not on the one channel of their controller at least, whichever that is; null where somebody has moved off
 * it.
 */
function offTheirChannel(slots: readonly Slot[], hasMoved: (slot: Slot) => boolean): number | null {
  const given = slots.filter(({ number }) => number !== 'wanted')
  const owners = [...new Set(given.map(({ place }) => place.controller))]
  const used = [...new Set(given.map(({ channel }) => channel))]
  // Where two controllers are on one channel, one of them has another, on which it has nothing.
  const channels = [...used, ...owners.map((_, index) => 100 + index)]
  let least: number | null = null
  for (const way of channelsFor(owners.length, channels)) {
    const off = given.filter((slot) => slot.channel !== way[owners.indexOf(slot.place.controller)])
    if (!off.some(hasMoved) && (least === null || off.length < least)) least = off.length
  }
  return least
}

/** The fewest of some assignments without which no error is left that another number could cure. */
function fewestInTheWay(rig: Rig, slots: readonly Slot[]): number {
  const off = (slot: Slot): RigEdit => ({ type: 'assignment', at: slot.place, assignment: null })
  const places = new Set(slots.map(({ place }) => placeKey(place)))
  const choose = (count: number, from: number, chosen: readonly Slot[]): boolean => {
    if (count === 0) return !curable(check(performed(rig, chosen.map(off))), places)
    for (let index = from; index < slots.length; index++)
      if (choose(count - 1, index + 1, [...chosen, ...slots.slice(index, index + 1)])) return true
    return false
  }
  for (let count = 0; count <= slots.length; count++) if (choose(count, 0, [])) return count
  throw new Error('Errors are left that have nothing to do with what may move.')
}

const rankOf = (number: number): number =>
  number < 32
    ? number === 3 || number === 9 || number === 14 || number === 15 || number >= 20
      ? 0
      : number >= 16 && number <= 19
        ? 1
        : 4
    : 4

/** The score of a rig after a plan for a rig before it. Null where it does what a plan may not, or brings an error that was not there. */
export function naiveScore(before: Rig, after: Rig, asked: NaiveAsked): NaiveScore | null {
  const { row, preferred, isRepair, isOneForEach } = asked
  if (newErrors(check(before), check(onceTaught(before, after).rig)).length > 0) return null
  const was = new Map(freeSlots(before, asked).map((slot) => [placeKey(slot.place), slot]))
  const slots = slotsOf(after).filter(({ place }) => was.has(placeKey(place)))
  const hasMoved = ({ place, channel, number }: Slot): boolean => {
    const old = was.get(placeKey(place))
    return old !== undefined && (old.channel !== channel || old.number !== number)
  }
  const unmet = isOneForEach ? offTheirChannel(slots, hasMoved) : 0
  if (unmet === null) return null
  const moved = slots.filter((slot) => hasMoved(slot) && was.get(placeKey(slot.place))?.number !== 'wanted')
  const agrees = (rig: Rig, id: string): boolean => {
    const mapping = rig.mappings.find((each) => each.id === id)
    return mapping !== undefined && mappingState(rig, mapping).agreement === 'agrees'
  }
  const mine = new Set(slots.map(({ place }) => `${place.controller}/${place.gesture}`))
  const concerned = after.mappings.filter(({ gesture }) => gesture !== null && mine.has(gesture))
  const without = slots.filter(({ number }) => number === 'wanted')
  const tables = new Map<string, Map<string, Slot>>()
  for (const controller of after.controllers)
    for (const { place, assignment } of assignmentsOf(controller)) {
      const [message] = assignment.messages
      if (message?.kind !== 'cc') continue
      const channel = message.channel === 'home' ? controller.homeChannel : message.channel
      const key = `${place.controller} ${place.template} ${place.layer}`
      const table = tables.get(key) ?? new Map<string, Slot>()
      tables.set(key, table.set(place.gesture, { place, channel, number: message.number }))
    }
  let breaks = 0
  for (const table of tables.values()) {
    const inRow = row.flatMap((gesture) => table.get(gesture) ?? [])
    // Those among whom nobody may move are not looked at.
    if (!inRow.some(({ place }) => was.has(placeKey(place)))) continue
    inRow.forEach((slot, index) => {
      const last = inRow[index - 1]
      if (!last) return
      const runsOn =
        typeof last.number === 'number' && slot.channel === last.channel && slot.number === last.number + 1
      if (!runsOn) breaks++
    })
  }
  return {
    errors:
      without.length +
      fewestInTheWay(
        onceTaught(before, after).rig,
        slots.filter(({ number }) => number !== 'wanted'),
      ),
    unmet,
    stale: concerned.filter(({ id }) => agrees(before, id) && !agrees(after, id)).length,
    warnings: concerned.filter(({ id, learnedAt }) => learnedAt !== null && !agrees(after, id)).length,
    changed: isRepair ? moved.length : 0,
    breaks,
    outside:
      preferred === null
        ? 0
        : slots.filter(({ number }) => number !== 'wanted' && !preferred.includes(number)).length,
    rank: slots.reduce((sum, { number }) => sum + (number === 'wanted' ? 0 : rankOf(number)), 0),
    moved: isRepair ? 0 : moved.length,
  }
}
