import type { Channel, Fourteen } from '../midi'
import type { Id, Showing } from '../rig'
import type { Bus } from './buses'
import { liveIn, type Owner } from './lattice'
import type { Occupancy } from './occupancy'

/** An NRPN or RPN that someone sends on a channel. */
export interface ParameterLine {
  kind: 'nrpn' | 'rpn'
  channel: Channel
  number: Fourteen
  owners: readonly Owner[]
}

/** The parameters (NRPN and RPN) that arrive at these buses, by channel, kind and number. */
export function parametersOf(
  { rig, emissions }: Occupancy,
  buses: readonly Bus[],
  showing: Readonly<Record<Id, Showing>>,
): ParameterLine[] {
  const isLive = liveIn(rig, showing)
  const lines = new Map<string, ParameterLine & { owners: Owner[] }>()
  for (const { sender, bus, cells } of emissions) {
    if (!buses.includes(bus)) continue
    for (const { kind, channel, number, role, part } of cells) {
      if (kind !== 'nrpn' && kind !== 'rpn') continue
      const key = `${channel} ${kind} ${number}`
      const line = lines.get(key) ?? { kind, channel, number, owners: [] }
      lines.set(key, line)
      if (line.owners.some(({ place }) => place === sender.place)) continue
      const { place, gesture, messageIndex: message } = sender
      const live = isLive(sender)
      line.owners.push({ controller: place.controller, gesture, place, message, role, part, live })
    }
  }
  return [...lines.values()].sort(
    (a, b) => a.channel - b.channel || a.kind.localeCompare(b.kind) || a.number - b.number,
  )
}
