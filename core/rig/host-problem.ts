import type { Destination, Id } from './types'

/** Why a destination cannot run where it says, in words that go on from its name; null where it can. */
export function hostProblem(
  { id, inside }: Destination,
  destinations: ReadonlyMap<Id, Destination>,
): string | null {
  const seen = new Set([id])
  for (let host = inside; host !== null;) {
    if (seen.has(host)) return 'cannot run inside itself; choose another host, or none'
    seen.add(host)
    const found = destinations.get(host)
    if (!found) return `names a destination that is not there: “${host}”`
    host = found.inside
  }
  return null
}
