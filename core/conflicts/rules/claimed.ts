import { claimCovers, type CellAddress, type Sender } from '../../addresses'
import { rigIndex, type Claim, type Destination } from '../../rig'
import type { CheckContext } from '../context'
import type { Rule } from '../rule'
import { cellTags, destinationWords, senderWords } from '../words'

interface Found {
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
      const kept = cells.filter((cell) => cell.role !== 'carrier' && claimCovers(claim, cell))
      if (kept.length === 0 || serves(context, sender, destination, claim)) continue
      const span = kept.length > 2 ? sender.key : cellTags(kept).join()
      const key = `${destination.id}|${claim.id}|${span}`
      const entry: Found = found.get(key) ?? { destination, claim, cells: [], senders: new Map() }
      found.set(key, entry)
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
  reach: 'cells',
  find: (context) =>
    collect(context).map(({ destination, claim, cells, senders }) => {
      const tags = cellTags(cells)
      const who = [...senders.values()]
      return {
        severity: 'error',
        message: `${destinationWords(context.rig, [destination.id])} keeps ${tags.join(', ')} for ${claim.function}, and ${senderWords(context.rig, who)} sends it.`,
        senders: who,
        addresses: tags,
        destinations: [destination.id],
        cures: { moves: [who], share: false },
      }
    }),
}
