import { hitsAt, partOf, type Cell, type CellAddress, type Occupancy, type Sender } from '../../addresses'
import { CHANNELS, controllerClass, PARAMETER_CARRIERS, type Channel } from '../../midi'
import { contextOf } from '../context'
import type { AffectedScopeOf } from './scope'

const PROGRAMS = Array.from({ length: 128 }, (_, number) => number)

/** Is a cell one that programs or parameters of its channel have to do with? */
const isOfChannel = ({ kind, number }: Cell): boolean =>
  kind === 'program' || (kind === 'cc' && controllerClass(number) === 'carrier')

/** Everyone who sends programs, parameters or what carries them on a channel, wherever they arrive. */
function sendersOn(occupancy: Occupancy, channel: Channel): Sender[] {
  const cells: CellAddress[] = [
    ...PARAMETER_CARRIERS.map((number) => ({ kind: 'cc' as const, channel, number })),
    ...PROGRAMS.map((number) => ({ kind: 'program' as const, channel, number })),
  ]
  return occupancy.buses.flatMap((bus) =>
    cells.flatMap((cell) => hitsAt(occupancy, bus, cell).map(({ sender }) => sender)),
  )
}

/** All programs and parameters on the channels that a change touches with one of its own. */
export const channelAffected: AffectedScopeOf = ({ before, after, change }) => {
  const touched = (occupancy: Occupancy, senders: readonly Sender[]): Channel[] =>
    senders.flatMap((sender) =>
      occupancy.emissionsOf(sender).flatMap(({ bus, cells }) => {
        const on = cells.filter(isOfChannel).map(({ channel }) => channel)
        // Where all channels are one, so is what is said of them.
        return on.length > 0 && bus.mergesChannels ? CHANNELS : on
      }),
    )
  const channels = new Set([...touched(before, change.removed), ...touched(after, change.added)])
  if (channels.size === 0) return null
  const on = (occupancy: Occupancy) => {
    const senders = new Set([...channels].flatMap((channel) => sendersOn(occupancy, channel)))
    const part = partOf(occupancy, senders, (_, cell) => channels.has(cell.channel))
    return contextOf(occupancy.rig, { occupancy: part })
  }
  return { before: on(before), after: on(after) }
}
