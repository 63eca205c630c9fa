import type { Channel } from '../midi'
import type { Claim, Destination, Id, Rig } from '../rig'
import type { CellAddress, CellKind } from './cells'

/** Everything that a destination cannot tell apart by input. */
export interface Bus {
  id: string
  destination: Id
  /** Shown to the player: the destination, with the port where its ports are told apart. */
  name: string
  /** The destination ports that feed it. */
  ports: readonly Id[]
  /** Does the destination take all channels for one? */
  mergesChannels: boolean
  /** Does the destination hear this cell at all? */
  hears: (cell: CellAddress) => boolean
  /** Does it hear everything that arrives? */
  hearsAll: boolean
}

/** Kinds of cells without a number. */
const isChannelWide = (kind: CellKind): boolean => kind === 'pitchBend' || kind === 'channelPressure'

/** Is a cell among the addresses that a claim keeps? */
export function claimCovers(claim: Claim, cell: CellAddress): boolean {
  if (claim.kind !== cell.kind) return false
  if (claim.channel !== null && claim.channel !== cell.channel) return false
  return isChannelWide(cell.kind) || (cell.number >= claim.low && cell.number <= claim.high)
}

const hearsChannel = (destination: Destination, channel: Channel): boolean => {
  const { channels } = destination.hears.playing
  return channels.kind !== 'only' || channels.channels.includes(channel)
}

/** The destination itself and the hosts it runs in, from the inside out. */
export function hostChain(rig: Rig, destination: Destination): Destination[] {
  const chain = [destination]
  for (let inside = destination.inside; inside !== null;) {
    const host = rig.destinations.find((candidate) => candidate.id === inside)
    if (!host || chain.includes(host)) break
    chain.push(host)
    inside = host.inside
  }
  return chain
}

/** Whose ports a destination hears through: the outermost host that it runs in, or itself. */
export function ownerOf(rig: Rig, id: Id): Id {
  const destination = rig.destinations.find((candidate) => candidate.id === id)
  return (destination && hostChain(rig, destination).at(-1)?.id) ?? id
}

/**
 * The buses of a rig for playing, in the order of its destinations: one a destination where its
 * ports are merged, else one a port. What runs inside a host hears through the host's ports what the
 * host does not keep for itself.
 */
export function busesOf(rig: Rig): Bus[] {
  return rig.destinations.flatMap((destination) => {
    const chain = hostChain(rig, destination)
    const hosts = chain.slice(1)
    const owner = chain.at(-1) ?? destination
    const inputs = owner.ports.filter((port) => port.direction === 'in')
    const hears = (cell: CellAddress): boolean =>
      chain.every((link) => hearsChannel(link, cell.channel)) &&
      !hosts.some((host) => host.claims.some((claim) => claimCovers(claim, cell)))
    const shared = {
      destination: destination.id,
      mergesChannels: destination.hears.playing.channels.kind === 'merged',
      hears,
      hearsAll:
        chain.every((link) => link.hears.playing.channels.kind !== 'only') &&
        hosts.every(({ claims }) => claims.length === 0),
    }
    if (destination.hears.playing.ports === 'merged' || inputs.length < 2) {
      const ports = inputs.map((port) => port.id)
      return [{ ...shared, id: destination.id, name: destination.name, ports }]
    }
    return inputs.map((port) => ({
      ...shared,
      id: `${destination.id}/${port.id}`,
      name: `${destination.name} · ${port.name}`,
      ports: [port.id],
    }))
  })
}
