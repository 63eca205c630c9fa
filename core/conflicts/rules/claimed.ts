import { claimCovers, type CellAddress, type Sender } from '../../addresses'
import { rigIndex, type Claim, type Destination } from '../../rig'
import type { CheckContext } from '../context'
import { moveFixes } from '../fixes/numbers'
import type { Rule } from '../rule'
import {
  addressWords,
  cellAddresses,
  destinationWords,
  placeCount,
  senderWords,
  shortAddressWords,
  throughWords,
  verb,
} from '../words'

interface Found {
  about: string
  destination: Destination
  claim: Claim
  cells: CellAddress[]
  senders: Map<string, Sender>
}

/** Is the sender there for the very function that the claim keeps the address for? */
function serves(context: CheckContext, sender: Sender, destination: Destination, claim: Claim): boolean {
  return context
    .purposes(sender)
    .some((purpose) => purpose.destination === destination && claim.serves.includes(purpose.parameter.id))
}

function collect(context: CheckContext): Found[] {
  const { destinations } = rigIndex(context.rig)
  const found = new Map<string, Found>()
  const { occupancy, rig } = context
  if (rig.destinations.every(({ claims }) => claims.length === 0)) return []
  for (const { sender, bus, cells } of occupancy.emissions) {
    const destination = destinations.get(bus.destination)
    for (const claim of destination?.claims ?? []) {
      if (!destination) continue
      const kept = cells.filter((cell) => claimCovers(claim, cell))
      if (kept.length === 0 || serves(context, sender, destination, claim)) continue
      const span = kept.length > 2 ? sender.key : addressWords(cellAddresses(kept))
      const about = `${destination.id}|${claim.id}|${span}`
      const entry: Found = found.get(about) ?? { about, destination, claim, cells: [], senders: new Map() }
      found.set(about, entry)
      entry.cells.push(...kept)
      entry.senders.set(sender.key, sender)
    }
  }
  return [...found.values()]
}

/** A gesture sends an address that a destination keeps for a function of its own. */
export const claimed: Rule = {
  id: 'claimed',
  title: 'Kept by a destination',
  topic: 'taken',
  reach: 'cells',
  byNumbers: true,
  safe: ['move'],
  find: (context) =>
    collect(context).map(({ about, destination, claim, cells, senders }) => {
      const { rig } = context
      const addresses = cellAddresses(cells)
      const who = [...senders.values()]
      return {
        severity: 'error',
        message: `${destinationWords(rig, [destination.id])} keeps ${addressWords(addresses)} for ${claim.function}, and ${senderWords(rig, who)} ${verb(placeCount(who), 'sends', 'send')} it.${throughWords(rig, who, cells, [destination.id])}`,
        senders: who,
        addresses,
        destinations: [destination.id],
        about,
        cause: who.length === 1 ? `${destination.id} ${claim.id} ${who[0]?.gesture ?? ''}` : about,
        moves: [who],
        cures: () => moveFixes(context, [who]),
      }
    }),
  together: (context, drafts) => {
    const { rig } = context
    const senders = [...new Set(drafts.flatMap((draft) => draft.senders))]
    const addresses = drafts.flatMap((draft) => draft.addresses)
    const destinations = drafts[0]?.destinations ?? []
    return {
      severity: 'error',
      message: `${destinationWords(rig, destinations)} keeps ${shortAddressWords(addresses)} for itself, and ${senderWords(rig, senders)} sends them.`,
      senders,
      addresses,
      destinations,
      about: drafts[0]?.cause ?? '',
      cures: () => moveFixes(context, [senders]),
    }
  },
}
