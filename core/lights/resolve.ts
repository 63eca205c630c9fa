import { memoOf, type LightRole, type PaletteEntry } from '../rig'
import { apart, colourfulness, VISIONS, type Hex, type Vision } from './colour'

interface Nearest {
  entry: PaletteEntry
  off: number
}

/** What is nearest to each colour, once it was sought, by palette. */
const nearestIn = memoOf((_entries: readonly PaletteEntry[]) => new Map<Hex, Nearest | null>())

/** The entry of a palette that comes nearest to a colour, and how far off it is. The first of equally near ones. */
export function nearestEntry(colour: Hex, entries: readonly PaletteEntry[]): Nearest | null {
  const known = nearestIn(entries)
  const before = known.get(colour)
  if (before !== undefined) return before
  const found = seekNearest(colour, entries)
  known.set(colour, found)
  return found
}

function seekNearest(colour: Hex, entries: readonly PaletteEntry[]): Nearest | null {
  let best: Nearest | null = null
  for (const entry of entries) {
    const off = apart(colour, entry.colour)
    if (best === null || off < best.off) best = { entry, off }
  }
  return best
}

/** Below this a colour is grey to the eye. */
const GREY = 0.03

/** Can a light show colours, or only how bright it is? */
export const knowsColours = memoOf((entries: readonly PaletteEntry[]): boolean =>
  entries.some(({ colour }) => colourfulness(colour) > GREY),
)

/**
 * What a light makes of a state of a role: the nearest colour; on a light that knows no colours, dim (or dark) for the first
 * state and bright for the others, whatever their colours.
 */
export function shownAs(
  colour: Hex,
  stateIndex: number,
  entries: readonly PaletteEntry[],
): { entry: PaletteEntry; off: number } | null {
  if (knowsColours(entries)) return nearestEntry(colour, entries)
  const entry = entries.at(stateIndex === 0 ? -2 : -1) ?? entries.at(-1)
  return entry ? { entry, off: apart(colour, entry.colour) } : null
}

/** One state of one role, as a light shows it. */
export interface Resolved {
  role: LightRole
  state: string
  wanted: Hex
  entry: PaletteEntry
  off: number
}

/** What every state of some roles looks like on a light. */
export const resolve = (roles: readonly LightRole[], entries: readonly PaletteEntry[]): Resolved[] =>
  roles.flatMap((role) =>
    role.states.flatMap(({ name, colour }, index): Resolved[] => {
      const found = shownAs(colour, index, entries)
      return found ? [{ role, state: name, wanted: colour, ...found }] : []
    }),
  )

/** Two states that can hardly be told apart on a light, and in which way of seeing. */
export interface Alike {
  a: Resolved
  b: Resolved
  apart: number
  vision: Vision
}

/** Colours that are less apart than this in OKLab are taken for one another in passing. */
export const HARDLY_APART = 0.08

/**
 * Pairs that come out alike: two states of one role, or states of the same name of two roles (what is lit
 * beside what is lit). Each pair once, in the way of seeing in which it is worst; as most people see it where that is too near already.
 */
export function alikes(resolved: readonly Resolved[]): Alike[] {
  // Without colours every role looks like every other; their letters tell them apart.
  if (!knowsColours(resolved.map(({ entry }) => entry))) return []
  return resolved.flatMap((a, index) =>
    resolved.slice(index + 1).flatMap((b): Alike[] => {
      if (a.role.id !== b.role.id && a.state !== b.state) return []
      const common = apart(a.entry.colour, b.entry.colour)
      if (common < HARDLY_APART) return [{ a, b, apart: common, vision: 'common' }]
      const [worst] = VISIONS.slice(1)
        .map((vision) => ({ vision, apart: apart(a.entry.colour, b.entry.colour, vision) }))
        .sort((one, other) => one.apart - other.apart)
      return worst && worst.apart < HARDLY_APART ? [{ a, b, ...worst }] : []
    }),
  )
}
