import { addressOf, comparePlaced, compareScores, scoreOf, type Choice, type Problem } from './problem'
import { onlyFree } from './reduce'
import { seeded } from './seeded'

/** The fewest and the most chains that are looked at together. */
const FEWEST = 4
const MOST = 6
/** How likely it is that neighbours by address are looked at together, and that the next of them is taken in. */
const NEAR = 0.6
const NEXT = 0.7

/** Some chains: often such as lie near each other, or they would have little to give each other. */
function someChains(problem: Problem, choice: Choice, random: () => number): number[] {
  const { chains } = problem
  const size = Math.min(chains.length, FEWEST + Math.floor(random() * (MOST - FEWEST + 1)))
  const firsts = chains.map(([first = 0]) => addressOf(problem, first, choice))
  const lying = chains.map((_, index) => index).toSorted((a, b) => (firsts[a] ?? 0) - (firsts[b] ?? 0))
  const at = Math.floor(random() * chains.length)
  const some = new Set([lying[at] ?? 0])
  if (random() < NEAR) {
    for (let away = 1; away < chains.length && some.size < size; away++) {
      for (const near of [lying[at - away], lying[at + away]])
        if (near !== undefined && some.size < size && random() < NEXT) some.add(near)
    }
  }
  while (some.size < size) some.add(Math.floor(random() * chains.length))
  return [...some].toSorted((a, b) => a - b)
}

/**
 * Take a few chains up at a time and let `solveFew` lay them as well as they can be beside the rest, `times` times.
 * What comes out as good as it was is taken too: it may open a way.
 */
export function laidAnew(
  problem: Problem,
  start: Choice,
  {
    times,
    seed,
    solveFew,
  }: { times: number; seed: number; solveFew: (few: Problem, start: Choice) => Choice },
): Choice {
  const random = seeded(seed)
  const { chains, items, resources } = problem
  let now = [...start]
  let best: Choice = start
  for (let time = 0; time < times; time++) {
    const some = someChains(problem, now, random)
    const lists = some.flatMap((index) => (chains[index] ? [chains[index]] : []))
    const mine = lists.flat()
    const isMine = new Set(mine)
    const taken = new Uint8Array(resources)
    now.forEach((candidate, item) => {
      if (!isMine.has(item)) for (const resource of items[item]?.takes[candidate] ?? []) taken[resource] = 1
    })
    const numberOf = new Map(mine.map((item, index) => [item, index]))
    const few = onlyFree(
      {
        items: mine.flatMap((item) => items[item] ?? []),
        chains: lists.map((list) => list.map((item) => numberOf.get(item) ?? 0)),
        resources,
      },
      taken,
    )
    const found = solveFew(
      few.problem,
      mine.map((item, index) => few.kept[index]?.indexOf(now[item] ?? 0) ?? 0),
    )
    const next = [...now]
    mine.forEach((item, index) => {
      next[item] = few.kept[index]?.[found[index] ?? 0] ?? 0
    })
    if (compareScores(scoreOf(problem, next, lists), scoreOf(problem, now, lists)) > 0) continue
    now = next
    if (comparePlaced(problem, now, best) < 0) best = now
  }
  return best
}
