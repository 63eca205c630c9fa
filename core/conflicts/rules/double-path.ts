import { arrivingAlong, cellsOf, type Bus, type Sender, type Way } from '../../addresses'
import { rigIndex, withChannel, type Controller, type Destination, type Id, type Rig } from '../../rig'
import { stopFix, unplugFix } from '../fixes/cable-fixes'
import type { Draft, Fix } from '../finding'
import type { Rule } from '../rule'
import { cellTags, listed, routeWords, senderWords } from '../words'

/** Tags named in one finding; a whole controller that arrives twice has hundreds. */
const MOST_TAGS = 8

/** Does what a sender sends arrive, and is it heard, at the end of a way? */
function arrives(bus: Bus, { cables }: Way, { message, channel }: Sender): boolean {
  return arrivingAlong(cables, withChannel(message, channel)).some((arrived) =>
    cellsOf(arrived, channel).some(bus.hears),
  )
}

/** Does an instrument's own keyboard sound it directly? */
const isLocal = ({ unit }: Destination, controller: Controller): boolean =>
  unit?.controller === controller.id && unit.localControl

/** A cable of one way that the other ways do not take, nearest to where they part. */
const ownCable = (way: Way, others: readonly Way[]) =>
  way.cables.find((cable) => others.every((other) => !other.cables.includes(cable)))

function curesFor(
  rig: Rig,
  ways: readonly Way[],
  twice: readonly Sender[],
  local: Destination | null,
): Fix[] {
  const own = ways.flatMap(
    (way) =>
      ownCable(
        way,
        ways.filter((other) => other !== way),
      ) ?? [],
  )
  const localOff: Fix[] =
    local?.unit?.localControl === true
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

/** One gesture reaches one input two ways: notes double, steps count twice. */
export const doublePath: Rule = {
  id: 'double-path',
  title: 'Two ways to one place',
  reach: 'controller',
  find: ({ rig, occupancy, controllers: inQuestion }) => {
    const { destinations } = rigIndex(rig)
    const arriving = (controller: Id, bus: Bus): Sender[] =>
      occupancy.emissions.flatMap((emission) =>
        emission.bus === bus && emission.sender.place.controller === controller ? [emission.sender] : [],
      )
    return occupancy.buses.flatMap((bus): Draft[] => {
      const destination = destinations.get(bus.destination)
      if (!destination || destination.inside !== null) return []
      return inQuestion.flatMap((controller): Draft[] => {
        const { id } = controller
        const all = occupancy.ways.get(id) ?? []
        if (!controller.inUse) return []
        // What comes back to where it has been is a ring, not a second way.
        const possible = all.filter(
          (way) => way.bus === bus && way.cables.every(({ from }) => from.owner !== destination.id),
        )
        const local = isLocal(destination, controller) ? destination : null
        if (possible.length + (local ? 1 : 0) < 2) return []
        const twice = arriving(id, bus).filter(
          (sender) => possible.filter((way) => arrives(bus, way, sender)).length + (local ? 1 : 0) > 1,
        )
        if (twice.length === 0) return []
        const ways = possible.filter((way) => twice.some((sender) => arrives(bus, way, sender)))
        const routes = [
          ...ways.map(({ cables }) => routeWords(rig, cables)),
          ...(local ? ['its own keys'] : []),
        ]
        const tags = cellTags(twice.flatMap(({ message, channel }) => cellsOf(message, channel)))
        return [
          {
            severity: 'error',
            message: `${bus.name} gets ${senderWords(rig, twice)} twice, by ${listed(routes)}: notes double, steps count twice.`,
            senders: twice,
            addresses: tags.slice(0, MOST_TAGS),
            destinations: [destination.id],
            about: `${id} ${bus.id}`,
            things: ways.flatMap(({ cables }) =>
              cables.map((cable) => ({ kind: 'cable' as const, id: cable.id })),
            ),
            cures: { moves: [], share: false, ready: curesFor(rig, ways, twice, local) },
          },
        ]
      })
    })
  },
}
