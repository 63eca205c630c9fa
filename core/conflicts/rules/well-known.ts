import { controllerClass, controllerName, SEVEN_MAX } from '../../midi'
import type { Bus, Sender } from '../../addresses'
import {
  numberOf,
  parameterName,
  rigIndex,
  type Destination,
  type Id,
  type Parameter,
  type Rig,
} from '../../rig'
import type { Purpose } from '../../mappings'
import type { CheckContext } from '../context'
import type { Draft } from '../finding'
import type { Rule } from '../rule'
import { listed, senderWords } from '../words'

/** A sender that uses a number with a standard meaning for something else, and who reacts to it. */
interface Use {
  sender: Sender
  number: number
  tag: string
  purposes: readonly Purpose[]
  reactions: Map<string, { destination: Destination; parameter: Parameter }>
}

const STANDARD: readonly number[] = Array.from({ length: SEVEN_MAX + 1 }, (_, number) => number).filter(
  (number) => controllerClass(number) === 'standard',
)

const inOrder = (senders: readonly Sender[]): Sender[] => senders.toSorted((a, b) => a.order - b.order)

/** Is the parameter what the standard means by the number, by its own chart or by its meaning? */
const isMeant = ({ fixed, meaning }: Parameter, number: number): boolean =>
  meaning === number || ((fixed?.kind === 'cc' || fixed?.kind === 'cc14') && fixed.number === number)

/** A parameter of a destination that listens to the number by its chart, on this channel. */
function reaction(charted: readonly Parameter[], bus: Bus, sender: Sender, number: number): Parameter | null {
  return (
    charted.find(
      ({ fixed }) =>
        (fixed?.kind === 'cc' || fixed?.kind === 'cc14') &&
        fixed.number === number &&
        (bus.mergesChannels || fixed.channel === null || fixed.channel === sender.channel),
    ) ?? null
  )
}

/** The parameters of each destination that listen to a controller number by its chart. */
const chartedIn = (rig: Rig): ReadonlyMap<Id, readonly Parameter[]> =>
  new Map(
    rig.destinations.map(({ id, parameters }) => [
      id,
      parameters.filter(({ fixed }) => fixed?.kind === 'cc' || fixed?.kind === 'cc14'),
    ]),
  )

function usesOf({ rig, occupancy, purposes }: CheckContext): Use[] {
  const charted = chartedIn(rig)
  const uses = new Map<string, Use>()
  const serving = STANDARD.flatMap(occupancy.index.ofController).filter(
    (sender) => purposes(sender).length > 0,
  )
  for (const { sender, bus } of occupancy.arriving(inOrder(serving))) {
    const number = numberOf(sender.message)
    const meant = purposes(sender)
    if (number === null || sender.tag === null) continue
    if (meant.some(({ parameter }) => isMeant(parameter, number))) continue
    const use = uses.get(sender.key) ?? {
      sender,
      number,
      tag: sender.tag,
      purposes: meant,
      reactions: new Map(),
    }
    uses.set(sender.key, use)
    const destination = rigIndex(rig).destinations.get(bus.destination)
    const parameter = reaction(charted.get(bus.destination) ?? [], bus, sender, number)
    if (destination && parameter)
      use.reactions.set(`${destination.id}/${parameter.id}`, { destination, parameter })
  }
  return [...uses.values()]
}

function draftOf(rig: Rig, uses: readonly Use[]): Draft | null {
  const [first] = uses
  if (!first) return null
  const senders = uses.map((use) => use.sender)
  const who = senderWords(rig, senders)
  const moves = listed([
    ...new Set(
      uses.flatMap((use) =>
        use.purposes.map(
          ({ destination, parameter }) => `${parameterName(parameter)} on ${destination.name}`,
        ),
      ),
    ),
  ])
  const reactions = [...new Map(uses.flatMap((use) => [...use.reactions])).values()]
  const common = { senders, addresses: [first.tag], cures: { moves: [senders], share: false } }
  const standard = controllerName(first.number)?.toLowerCase() ?? ''
  if (reactions.length > 0) {
    const also = listed(
      reactions.map(({ destination, parameter }) => `${parameterName(parameter)} on ${destination.name}`),
    )
    return {
      ...common,
      severity: 'error',
      message: `${who} moves ${moves}, but ${first.tag} also moves ${also}.`,
      destinations: [...new Set(reactions.map(({ destination }) => destination.id))],
    }
  }
  return {
    ...common,
    severity: 'advice',
    message: `${who} moves ${moves} with ${first.tag}, which by standard means ${standard}; another instrument may react to it.`,
    destinations: [...new Set(uses.flatMap((use) => use.purposes.map(({ destination }) => destination.id)))],
  }
}

/** A number with a standard meaning is used for another; worse where a destination really reacts to it. */
export const wellKnown: Rule = {
  id: 'well-known',
  title: 'Well-known number',
  reach: 'number',
  find: (context) => {
    const byTag = new Map<string, Use[]>()
    for (const use of usesOf(context)) {
      const uses = byTag.get(use.tag)
      if (uses) uses.push(use)
      else byTag.set(use.tag, [use])
    }
    return [...byTag.values()].flatMap((uses) => draftOf(context.rig, uses) ?? [])
  },
}
