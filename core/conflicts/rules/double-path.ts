import {
  cablesOf,
  deliveryOf,
  emissionsIn,
  outgoing,
  sendersIn,
  type Bus,
  type Delivery,
  type Sender,
  type Way,
} from '../../addresses'
import { distinctAddresses } from '../../midi'
import { memoOfTwo, rigIndex, type Cable, type Controller, type Destination, type Rig } from '../../rig'
import type { CheckContext } from '../context'
import { stopFix, unplugFix } from '../fixes/cables'
import type { Draft, Fix } from '../finding'
import type { Rule } from '../rule'
import { isLocal, isRepeatable, mayFork, waysOf } from '../twice'
import { listed, routesWords, senderWords, sentAddresses, shortListed } from '../words'

/** Addresses named in one finding; a whole controller that arrives twice has hundreds. */
const MOST_ADDRESSES = 8

/** Which destinations each controller's cables lead to, as text. */
const reached = (rig: Rig): string => {
  const delivery = deliveryOf(rig)
  return rig.controllers
    .map(
      ({ id }) =>
        `${id}: ${delivery
          .busesFrom(id)
          .map((bus) => bus.id)
          .join(' ')}`,
    )
    .join('\n')
}

/** Would it cut a destination off from a controller to take a cable out? */
const cutsOff = (rig: Rig, cable: Cable): boolean =>
  reached({ ...rig, cables: rig.cables.filter((other) => other !== cable) }) !== reached(rig)

function curesFor(
  rig: Rig,
  ways: readonly Way[],
  twice: readonly Sender[],
  local: Destination | null,
): Fix[] {
  const routes = ways.map(cablesOf)
  const own = [
    ...new Set(
      routes.flatMap((cables) =>
        cables.filter((cable) => routes.some((other) => other !== cables && !other.includes(cable))),
      ),
    ),
  ].filter((cable) => !cutsOff(rig, cable))
  const localOff: Fix[] = local?.unit
    ? [
        {
          id: 'local-off',
          kind: 'local-off',
          label: `Turn local control of ${local.name} off`,
          edits: [
            {
              type: 'destination-set',
              destination: local.id,
              set: { unit: { ...local.unit, localControl: false } },
            },
          ],
        },
      ]
    : []
  return [
    ...localOff,
    ...own.map((cable) => stopFix(rig, cable, twice)),
    ...own.map((cable) => unplugFix(rig, cable)),
  ]
}

/** What a controller sends to a bus more than once, and how it comes there. */
interface Doubled {
  twice: readonly Sender[]
  ways: readonly Way[]
}

const NONE: Doubled = { twice: [], ways: [] }

function doubled(
  { rig, occupancy: { delivery } }: CheckContext,
  controller: Controller,
  bus: Bus,
  destination: Destination,
): Doubled {
  const position = rig.controllers.indexOf(controller)
  if (!controller.inUse || position < 0) return NONE
  const isOpen = delivery.open.has(controller.id)
  const hasLocalWay = isLocal(destination, controller.id)
  if (!hasLocalWay && isOpen && !mayFork(delivery, bus, controller.id)) return NONE
  return doubledAt(delivery, sendersIn(rig, controller, position))(bus, hasLocalWay ? 1 : 0)
}

/** What of these senders of one controller comes twice to a bus that it also reaches by some ways of its own. */
const doubledAt = memoOfTwo((delivery: Delivery, senders: readonly Sender[]) => {
  const sent = senders.filter(({ cells }) => !isRepeatable(cells))
  const known = new Map<Bus, Doubled>()
  return (bus: Bus, localWays: number): Doubled => {
    const before = known.get(bus)
    if (before) return before
    // Where no rule looks at anything, all of a controller's messages go the same ways.
    let common: Way[] | null = null
    const ways: Way[] = []
    const twice = sent.filter((sender) => {
      if (!emissionsIn(delivery, sender).some((emission) => emission.bus === bus)) return false
      const { controller } = sender.place
      const own = common ?? waysOf(delivery, bus, controller, outgoing(sender))
      if (delivery.open.has(controller)) common = own
      if (own.length + localWays < 2) return false
      for (const way of own) if (!ways.some((other) => isSameWay(other, way))) ways.push(way)
      return true
    })
    const found = { twice, ways }
    known.set(bus, found)
    return found
  }
})

const isSameWay = (a: Way, b: Way): boolean => {
  const [one, other] = [cablesOf(a), cablesOf(b)]
  const last = (way: Way) => way.at(-1)?.to.port.port
  return one.length === other.length && one.every((cable, at) => cable === other[at]) && last(a) === last(b)
}

/** What doubled ways at a bus have in common: the cables in which they differ. */
const causeOf = (bus: Bus, ways: readonly Way[]): string =>
  [
    bus.id,
    ...fork(ways)
      .map(({ id }) => id)
      .toSorted(),
  ].join(' ')

/** The cables on which the ways of a draft differ. */
function forkOf(context: CheckContext, { senders, destinations, cause }: Draft): Cable[] {
  const { controllers, destinations: known } = rigIndex(context.rig)
  const controller = controllers.get(senders[0]?.place.controller ?? '')
  const destination = known.get(destinations[0] ?? '')
  if (!controller || !destination) return []
  for (const bus of context.occupancy.buses) {
    if (bus.destination !== destination.id) continue
    const { ways } = doubled(context, controller, bus, destination)
    if (causeOf(bus, ways) === cause) return fork(ways)
  }
  return []
}

/** The cables that are not on every way: what the ways differ in, and so what many controllers have in common. */
const fork = (ways: readonly Way[]): Cable[] => {
  const routes = ways.map(cablesOf)
  return [...new Set(routes.flat().filter((cable) => routes.some((route) => !route.includes(cable))))]
}

/** One gesture reaches one input two ways: notes double, steps count twice. */
export const doublePath: Rule = {
  id: 'double-path',
  title: 'Two ways to one place',
  topic: 'cables',
  reach: 'controller',
  find: (context) => {
    const { rig, occupancy, controllers } = context
    const { destinations } = rigIndex(rig)
    return occupancy.buses.flatMap((bus): Draft[] => {
      const destination = destinations.get(bus.destination)
      if (!destination || destination.inside !== null) return []
      return controllers.flatMap((controller): Draft[] => {
        const { twice, ways } = doubled(context, controller, bus, destination)
        if (twice.length === 0) return []
        const local = isLocal(destination, controller.id) ? destination : null
        const routes = [
          ...routesWords(
            rig,
            ways.map((way) => cablesOf(way)),
          ),
          ...(local ? ['its own keys'] : []),
        ]
        return [
          {
            severity: 'error',
            message: `${bus.name} gets ${senderWords(rig, twice)} twice, by ${listed(routes)}: notes double, steps count twice.`,
            senders: twice,
            addresses: sentAddresses(twice).slice(0, MOST_ADDRESSES),
            destinations: [destination.id],
            about: `${controller.id} ${bus.id}`,
            ...(fork(ways).length === 0 || local ? {} : { cause: causeOf(bus, ways) }),
            things: things(ways),
            cures: () => curesFor(rig, ways, twice, local),
          },
        ]
      })
    })
  },
  together: (context, drafts) => {
    const { rig } = context
    const senders = [...new Set(drafts.flatMap((draft) => draft.senders))]
    const owners = [...new Set(senders.map(({ place }) => place.controller))]
    const names = shortListed(owners.map((id) => rigIndex(rig).controllers.get(id)?.name ?? ''))
    const destinations = drafts[0]?.destinations ?? []
    const cables = new Set(drafts.flatMap((draft) => draft.things ?? []).map(({ id }) => id))
    const named = rig.cables.filter(({ id }) => cables.has(id))
    const own = drafts[0] ? forkOf(context, drafts[0]) : []
    return {
      severity: 'error',
      message: `${destinations.map((id) => rigIndex(rig).destinations.get(id)?.name ?? '').join()} gets what ${names} send twice, because the way forks and meets again: ${shortListed(
        routesWords(
          rig,
          own.map((cable) => [cable]),
        ),
      )}.`,
      senders,
      addresses: distinctAddresses(drafts.flatMap((draft) => draft.addresses)).slice(0, MOST_ADDRESSES),
      destinations,
      about: drafts[0]?.cause ?? '',
      things: named.map(({ id }) => ({ kind: 'cable', id })),
      cures: () =>
        own
          .filter((cable) => !cutsOff(rig, cable))
          .flatMap((cable) => [stopFix(rig, cable, senders), unplugFix(rig, cable)]),
    }
  },
}

const things = (ways: readonly Way[]) =>
  [...new Set(ways.flatMap(cablesOf).map(({ id }) => id))].map((id) => ({ kind: 'cable' as const, id }))
