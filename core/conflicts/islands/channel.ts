import { hitsAt, partOf, type CellAddress, type Occupancy, type Sender } from '../../addresses'
import type { Channel } from '../../midi'
import { contextOf } from '../context'
import type { IslandOf } from './island'

/** Every NRPN has its number sent with CC 98, every RPN with CC 100 (MIDI 1.0, Table III). */
const CARRIED_BY = [98, 100]
const PROGRAMS = Array.from({ length: 128 }, (_, number) => number)

const isOfChannel = ({ message: { kind } }: Sender): boolean =>
  kind === 'program' || kind === 'nrpn' || kind === 'rpn'

/** Everyone who sends programs or parameters on a channel, wherever they arrive. */
function sendersOn(occupancy: Occupancy, channel: Channel): Sender[] {
  const cells: CellAddress[] = [
    ...CARRIED_BY.map((number) => ({ space: 'cc' as const, channel, number })),
    ...PROGRAMS.map((number) => ({ space: 'program' as const, channel, number })),
  ]
  return occupancy.buses.flatMap((bus) =>
    cells.flatMap((cell) => hitsAt(occupancy, bus, cell).map(({ sender }) => sender)),
  )
}

/** All programs and parameters on the channels that a change touches with one of its own. */
export const channelIsland: IslandOf = ({ before, after, change }) => {
  const arriving = (occupancy: Occupancy, senders: readonly Sender[]): Channel[] =>
    senders
      .filter(isOfChannel)
      .flatMap((sender) => occupancy.emissionsOf(sender))
      .flatMap(({ cells }) => cells.map(({ channel }) => channel))
  const channels = new Set([...arriving(before, change.gone), ...arriving(after, change.come)])
  if (channels.size === 0) return null
  const on = (occupancy: Occupancy) => {
    const senders = new Set([...channels].flatMap((channel) => sendersOn(occupancy, channel)))
    const part = partOf(occupancy, [...senders].filter(isOfChannel), (_, cell) => channels.has(cell.channel))
    return contextOf(occupancy.rig, { occupancy: part })
  }
  return { before: on(before), after: on(after) }
}
