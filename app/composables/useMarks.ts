import { parseTag } from '#core/midi'
import { cellKey, EVERY_BUS, type CellAddress, type Space } from '#core/addresses'
import { placeKey } from '#core/rig'
import type { Finding } from '#core/conflicts'

const RANK = { error: 3, warning: 2, advice: 1 } as const

/** The cells that a finding's address tags name. */
function cellsOfTags(addresses: readonly string[]): CellAddress[] {
  return addresses.flatMap((tag): CellAddress[] => {
    const parsed = parseTag(tag)
    if (!parsed.ok || parsed.address.scope !== 'channel') return []
    const { channel, target } = parsed.address
    if (typeof channel !== 'number') return []
    const at = (space: Space, number: number): CellAddress => ({ space, channel, number })
    switch (target.kind) {
      case 'note':
      case 'poly':
        return Array.from({ length: target.high - target.low + 1 }, (_, i) => at(target.kind, target.low + i))
      case 'cc14':
        return [at('cc', target.number), at('cc', target.number + 32)]
      case 'mode':
        return [at('cc', target.number)]
      case 'bend':
      case 'pressure':
        return [at(target.kind, 0)]
      default:
        return [at(target.kind, target.number)]
    }
  })
}

const worse = (a: Finding | undefined, b: Finding): Finding =>
  a && RANK[a.severity] >= RANK[b.severity] ? a : b

/** Where findings show: the worst by place, all of a place, and the worst by cell at the shown destination. */
export function useMarks() {
  const analysis = useAnalysisStore()
  const marks = computed(() => {
    const byPlace = new Map<string, Finding[]>()
    const worstByPlace = new Map<string, Finding>()
    const byCell = new Map<number, Finding>()
    const shown = analysis.lattice?.bus
    const here = analysis.buses.find(({ id }) => id === shown)?.destination
    for (const finding of analysis.findings) {
      for (const place of finding.at) {
        const key = placeKey(place)
        byPlace.set(key, [...(byPlace.get(key) ?? []), finding])
        worstByPlace.set(key, worse(worstByPlace.get(key), finding))
      }
      if (shown !== EVERY_BUS && (here === undefined || !finding.destinations.includes(here))) continue
      for (const cell of cellsOfTags(finding.addresses)) {
        const key = cellKey(cell)
        byCell.set(key, worse(byCell.get(key), finding))
      }
    }
    return { byPlace, worstByPlace, byCell }
  })
  return marks
}
