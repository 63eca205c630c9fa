import { cellKey, cellsWithin, EVERY_BUS } from '#core/addresses'
import { placeKey } from '#core/rig'
import type { Finding } from '#core/conflicts'

const RANK = { error: 3, warning: 2, advice: 1 } as const

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
      for (const cell of finding.addresses.flatMap(cellsWithin)) {
        const key = cellKey(cell)
        byCell.set(key, worse(byCell.get(key), finding))
      }
    }
    return { byPlace, worstByPlace, byCell }
  })
  return marks
}
