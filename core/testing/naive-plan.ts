import { check, newErrors, RULES, type Check } from '../conflicts'
import { mappingState, onceTaught } from '../mappings'
import { assignmentsOf, perform, placeKey, type Place, type Rig, type RigEdit } from '../rig'

/** What a plan scores, counted from its definitions in `docs/allocation.md` on the rig before and after it. */
export interface NaiveScore {
  errors: number
  stale: number
  warnings: number
  breaks: number
  outside: number
  rank: number
  moved: number
}
export const NAIVE_TERMS = ['errors', 'stale', 'warnings', 'breaks', 'outside', 'rank', 'moved'] as const

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

/**
 * The score of a rig after a plan for a rig before it. Null where the plan brings an error that was not there.
 *
 * @param row The order of neighbours, by gesture.
 * @param preferred The numbers that house rules prefer; null where they prefer none.
 */
export function naiveScore(
  before: Rig,
  after: Rig,
  row: readonly string[],
  preferred: readonly number[] | null,
): NaiveScore | null {
  if (newErrors(check(before), check(onceTaught(before, after).rig)).length > 0) return null
  const slots = slotsOf(after)
  const was = new Map(slotsOf(before).map((slot) => [placeKey(slot.place), slot]))
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
    stale: concerned.filter(({ id }) => agrees(before, id) && !agrees(after, id)).length,
    warnings: concerned.filter(({ id, learnedAt }) => learnedAt !== null && !agrees(after, id)).length,
    breaks,
    outside:
      preferred === null
        ? 0
        : slots.filter(({ number }) => number !== 'wanted' && !preferred.includes(number)).length,
    rank: slots.reduce((sum, { number }) => sum + (number === 'wanted' ? 0 : rankOf(number)), 0),
    moved: slots.filter(({ place, channel, number }) => {
      const old = was.get(placeKey(place))
      return (
        old !== undefined && old.number !== 'wanted' && (old.channel !== channel || old.number !== number)
      )
    }).length,
  }
}
