import { rigIndex, type Rig } from '../../rig'
import { matchIn, type Matched } from './match'
import type { Observation } from './observe'
import { goesWith, worldOf, type Cause, type Listened, type World } from './worlds'

/** A world with what it explains of what was heard. */
export interface Judged {
  world: World
  matches: ReadonlyMap<string, Matched>
  /** How many observations it explains. */
  explained: number
}

/** Does a world explain an observation? */
export const isExplained = (matched: Matched | undefined): boolean => (matched?.all.length ?? 0) > 0

const OCTAVES = [-4, -3, -2, -1, 1, 2, 3, 4].map((octaves) => octaves * 12)
const TRANSPOSES = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11].flatMap((by) => [by, -by])

/** Everything that may be the cause of what no world so far explains. */
function suspects(
  { rig, controller: id, behind }: Listened,
  { controller, showing }: World,
  left: readonly Observation[],
): Cause[] {
  const template = controller.templates.find((each) => each.id === showing.template)
  const channels = new Set(
    left.flatMap(({ address }) =>
      address.scope === 'channel' && typeof address.channel === 'number' ? [address.channel] : [],
    ),
  )
  const hasNotes = left.some(({ address }) => address.target.kind === 'note')
  return [
    ...(template?.stacks ?? []).flatMap(({ id: stack, layers }): Cause[] =>
      layers.flatMap((layer): Cause[] =>
        layer.id === showing.layers[stack] ? [] : [{ kind: 'layer', stack, layer: layer.id }],
      ),
    ),
    ...[...channels].flatMap((channel): Cause[] =>
      channel === controller.homeChannel ? [] : [{ kind: 'home', channel }],
    ),
    ...controller.templates.flatMap((each): Cause[] =>
      each.id === showing.template ? [] : [{ kind: 'slot', template: each.id }],
    ),
    ...rig.controllers.flatMap((each): Cause[] =>
      each.inUse && each.id !== id ? [{ kind: 'port', owner: each.id }] : [],
    ),
    ...(hasNotes
      ? [...OCTAVES, ...TRANSPOSES].map((semitones): Cause => ({ kind: 'shift', semitones }))
      : []),
    { kind: 'inverted' },
    ...(behind !== null ? [{ kind: 'rule', cable: behind } as const] : []),
  ]
}

/** So many worlds are followed further at each step, and so many causes are taken together at most. */
const BEAM = 8
const MOST_CAUSES = 3

interface Known {
  count: number
  touched: string | null
  match: Matched
}

/** What many worlds have in common is worked out once: whose each observation is in each of them. */
export function createJudge(listened: Listened) {
  const { rig } = listened
  const worlds = new Map<string, World | null>()
  const matches = new Map<World, Map<string, Known>>()

  function worldFor(causes: readonly Cause[]): World | null {
    const key = JSON.stringify(causes)
    if (!worlds.has(key)) worlds.set(key, worldOf(listened, causes))
    return worlds.get(key) ?? null
  }
  function matchFor(world: World, seen: Observation): Matched {
    const known = matches.get(world) ?? new Map<string, Known>()
    matches.set(world, known)
    const before = known.get(seen.key)
    // Whose it is does not change; whether its values fit may with each that comes.
    if (before && before.count === seen.count && before.touched === seen.touched) return before.match
    const match = matchIn(rig, world, seen)
    known.set(seen.key, { count: seen.count, touched: seen.touched, match })
    return match
  }
  function judged(causes: readonly Cause[], observations: readonly Observation[]): Judged | null {
    const world = worldFor(causes)
    if (!world) return null
    const found = new Map<string, Matched>()
    let explained = 0
    for (const seen of observations) {
      const match = matchFor(world, seen)
      found.set(seen.key, match)
      // A part of something longer needs no control of its own.
      if (match.all.length > 0 || seen.isPart) explained++
    }
    return { world, matches: found, explained }
  }

  /** What a world is worth: every observation counts one, every cause costs half of one. */
  const worth = ({ explained, world }: Judged): number => explained - world.causes.length / 2

  /**
   * The worlds that explain the most of what was heard with the fewest causes, best first: those that are equally good as the
   * best one all stand at the beginning, and `ties` says how many they are.
   */
  function best(observations: readonly Observation[]): { worlds: readonly Judged[]; ties: number } {
    const base = judged([], observations)
    if (!base) return { worlds: [], ties: 0 }
    const all: Judged[] = [base]
    let beam: Judged[] = [base]
    for (let depth = 0; depth < MOST_CAUSES; depth++) {
      if (beam.some(({ explained }) => explained === observations.length)) break
      const next = new Map<string, Judged>()
      for (const { world, matches: known } of beam) {
        const left = observations.filter(({ key, isPart }) => !isPart && !isExplained(known.get(key)))
        for (const cause of suspects(listened, world, left)) {
          if (!goesWith(world.causes, cause)) continue
          const causes = [...world.causes, cause]
          const key = causes
            .map((each) => JSON.stringify(each))
            .sort()
            .join()
          if (next.has(key)) continue
          // What explains nothing of what is left is not looked at further.
          const candidate = worldFor(causes)
          if (!candidate || !left.some((seen) => matchFor(candidate, seen).all.length > 0)) continue
          const found = judged(causes, observations)
          if (found && found.explained > 0) next.set(key, found)
        }
      }
      beam = [...next.values()].sort((a, b) => worth(b) - worth(a)).slice(0, BEAM)
      all.push(...beam)
    }
    const sorted = all.sort((a, b) => worth(b) - worth(a) || a.world.causes.length - b.world.causes.length)
    const top = sorted[0]
    const ties = top ? sorted.filter((each) => worth(each) === worth(top)).length : 0
    return { worlds: sorted, ties }
  }
  return { best, judged }
}

export type Judge = ReturnType<typeof createJudge>

/** The name of a controller. */
export const nameOf = (rig: Rig, id: string): string => rigIndex(rig).controllers.get(id)?.name ?? id
