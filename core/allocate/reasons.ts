import { isWanting, type Sender } from '../addresses'
import { controllerClass, CONTROLLER_CLASS_LABEL } from '../midi'
import { findingPlace, placeWords, type CheckContext } from '../conflicts'
import { numberOf } from '../rig'
import type { BuiltProblem } from './build-problem'
import type { Trouble } from './free'
import { whyFixed } from './movable'
import type { Planned } from './planned'
import type { AllocateRequest } from './request'
import { addressOf, runsOn, type Shape } from './solver/problem'

/** Why each item that a plan moves goes, and why there, in a sentence or two. */
export function reasonsOf(
  context: CheckContext,
  request: AllocateRequest,
  troubles: readonly Trouble[],
  { built, solution: { choice } }: Planned,
): (item: number) => string {
  const troubleOf = new Map<string, Trouble>()
  for (const trouble of troubles) {
    for (const { key } of trouble.senders) if (!troubleOf.has(key)) troubleOf.set(key, trouble)
  }
  /** What ends because something is taught elsewhere, by who has to leave for that. */
  const endedBy = new Map<string, Trouble>()
  built.senders.forEach(({ key }, item) => {
    const lost = built.endsBy(item, choice[item] ?? 0)
    const own = troubles.filter(
      ({ senders, setsOff }) => setsOff !== null && senders.some((each) => each.key === key),
    )
    for (const { mapping, heard } of lost) {
      const trouble = own.find(({ setsOff }) => setsOff === mapping) ?? own[0]
      if (trouble) for (const leader of heard) endedBy.set(leader, trouble)
    }
  })
  const itemOf = new Map(built.senders.map(({ key }, item) => [key, item]))
  const before = new Map<number, number>()
  for (const chain of built.problem.chains)
    chain.forEach((item, index) => {
      const last = chain[index - 1]
      if (last !== undefined) before.set(item, last)
    })
  const named = (sender: Sender): string => placeWords(context.rig, [findingPlace(sender)])
  const moves = (item: number): boolean => built.goesTo(item, choice[item] ?? 0) !== null

  /** Of two that meet: why the other stays. */
  const whyItStays = (item: number, { key }: Sender): string | null => {
    const sender = built.senders[item]
    const trouble = sender && troubleOf.get(sender.key)
    const other = trouble?.senders.find((each) => {
      const own = itemOf.get(each.key)
      return each.key !== key && (own === undefined || !moves(own))
    })
    if (!other) return null
    const own = itemOf.get(other.key)
    const why = own !== undefined && built.free.has(other) ? null : whyFixed(context, request, other)
    if (why !== null) return `${named(other)} stays: ${why}.`
    if (own !== undefined && losesByMoving(built, own))
      return `${named(other)} stays: it would have to be taught again.`
    return null
  }

  const whyItGoes = (item: number, sender: Sender): string => {
    if (isWanting(sender)) return 'It had no number.'
    const trouble = troubleOf.get(sender.key)
    if (trouble !== undefined)
      return [trouble.message, whyItStays(item, sender) ?? ''].filter(Boolean).join(' ')
    const ended = endedBy.get(sender.key)
    if (ended) return `${ended.message} That ends when what this one moves is taught elsewhere.`
    if (request.kind === 'avoid') return 'It is among what to move away from.'
    return whyBetter(item, sender)
  }

  const shapeOf = (item: number): Shape | undefined => built.problem.items[item]
  const whyBetter = (item: number, sender: Sender): string => {
    const shape = shapeOf(item)
    const to = built.goesTo(item, choice[item] ?? 0)
    const [was, is] = [shape?.leave ?? 0, choice[item] ?? 0]
    const rank = (candidate: number): number => shape?.costs.rank[candidate] ?? 0
    const outside = (candidate: number): number => shape?.costs.outside[candidate] ?? 0
    if (outside(is) < outside(was)) return 'The house rules prefer this number.'
    if (rank(is) < rank(was) && to?.number !== undefined && to.number !== null)
      return `${classWords(to.number)} ${classWords(numberOf(sender.message) ?? 0)}`
    return 'It makes room for others, or for runs without breaks.'
  }

  const whyThere = (item: number, sender: Sender): string => {
    const to = built.goesTo(item, choice[item] ?? 0)
    const last = before.get(item)
    const shape = shapeOf(item)
    if (!to || !shape) return ''
    if (isBroughtBack(shape, choice[item] ?? 0)) return 'What it moves listens there.'
    if (to.channel !== sender.channel) return whyChannel(request, to.channel, sender)
    const follows =
      last !== undefined &&
      runsOn(addressOf(built.problem, last, choice), addressOf(built.problem, item, choice))
    return follows ? `It follows ${named(built.senders[last ?? 0] ?? sender)}.` : ''
  }

  return (item) => {
    const sender = built.senders[item]
    return sender ? [whyItGoes(item, sender), whyThere(item, sender)].filter(Boolean).join(' ') : ''
  }
}

const classWords = (number: number): string =>
  `${number} is ${CONTROLLER_CLASS_LABEL[controllerClass(number)]}.`

/** Does every other address of an item cost a mapping that is heard now? */
function losesByMoving({ problem, goesTo }: BuiltProblem, item: number): boolean {
  const shape = problem.items[item]
  if (!shape) return false
  const moves = [...shape.addresses.keys()].filter((candidate) => goesTo(item, candidate) !== null)
  return moves.length > 0 && moves.every((candidate) => (shape.costs.stale[candidate] ?? 0) > 0)
}

/** Is a mapping heard by a candidate that is not heard where the item is now? */
const isBroughtBack = ({ costs, leave }: Shape, candidate: number): boolean =>
  (costs.warnings[candidate] ?? 0) < (costs.warnings[leave] ?? 0)

function whyChannel({ policy }: AllocateRequest, channel: number, sender: Sender): string {
  switch (policy.kind) {
    case 'keep-if-room':
      return `There is no better place for it on channel ${sender.channel}.`
    case 'each-controller':
      return `All of its controller goes to channel ${channel}.`
    case 'each-layer':
      return `All of its layer goes to channel ${channel}.`
    case 'each-destination':
      return `All that moves its destination goes to channel ${channel}.`
    case 'home':
      return `Channel ${channel} is the home channel of its controller.`
    case 'among':
      return `Channel ${channel} is among those to be used.`
    case 'keep':
      return ''
  }
}
