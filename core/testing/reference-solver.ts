import loadHighs from 'highs'
import { noScore, TERMS, type Problem, type Term } from '../allocate/solver/problem'

/** A stretch of a chain that runs on without a break, laid at one place; or one item left without. */
interface Segment {
  name: string
  items: readonly number[]
  takes: readonly number[]
  costs: Readonly<Record<Term, number>>
}

function segmentsOf(problem: Problem): Segment[] {
  const segments: Segment[] = []
  /** Lay the next item of a chain at an address, in each way there is, and go on from there. */
  const lay = (chain: readonly number[], index: number, address: number | null, before: Segment): void => {
    const item = chain[index]
    const shape = item === undefined ? undefined : problem.items[item]
    if (item === undefined || !shape) return
    shape.addresses.forEach((at, candidate) => {
      if (address !== null && at !== address) return
      const own = [...(shape.takes[candidate] ?? [])]
      if (own.some((resource) => before.takes.includes(resource))) return
      const costs = { ...before.costs }
      for (const term of TERMS) if (term !== 'breaks') costs[term] += shape.costs[term][candidate] ?? 0
      const segment = {
        name: `s${segments.length}`,
        items: [...before.items, item],
        takes: [...before.takes, ...own],
        costs,
      }
      segments.push(segment)
      if (at >= 0) lay(chain, index + 1, at + 1, segment)
    })
  }
  for (const chain of problem.chains)
    chain.forEach((_, index) => {
      const costs = { ...noScore(), breaks: index === 0 ? 0 : 1 }
      lay(chain, index, null, { name: '', items: [], takes: [], costs })
    })
  return segments
}

const sum = (parts: readonly string[]): string => (parts.length === 0 ? '0 s0' : parts.join(' + '))

/**
 * The optimum by integer programming, one term after the other: each solved to its end and then held. One
 * variable for each stretch of a chain at each place. Gives the terms, and how long solving took, in ms,
 * without the reading of the model.
 */
export async function referenceOptimum(
  problem: Problem,
): Promise<{ score: Record<Term, number>; ms: number }> {
  const log: string[] = []
  const highs = await loadHighs({ print: (line: string) => log.push(line) } as Parameters<
    typeof loadHighs
  >[0])
  const segments = segmentsOf(problem)
  const covering = problem.items.map((): string[] => [])
  const using = new Map<number, string[]>()
  for (const { name, items, takes } of segments) {
    for (const item of items) covering[item]?.push(name)
    for (const resource of takes) using.set(resource, [...(using.get(resource) ?? []), name])
  }
  const amount = (term: Term): string[] =>
    segments.flatMap(({ name, costs }) => (costs[term] > 0 ? [`${costs[term]} ${name}`] : []))
  const score = {} as Record<Term, number>
  const held: string[] = []
  let ms = 0
  for (const term of TERMS) {
    const parts = amount(term)
    if (parts.length === 0) {
      score[term] = 0
      continue
    }
    const model = [
      'Minimize',
      ` obj: ${sum(parts)}`,
      'Subject To',
      ...covering.map((names, item) => ` c${item}: ${sum(names)} = 1`),
      ...[...using]
        .filter(([, names]) => names.length > 1)
        .map(([id, names]) => ` u${id}: ${sum(names)} <= 1`),
      ...held,
      'Binary',
      ` ${segments.map(({ name }) => name).join(' ')}`,
      'End',
    ].join('\n')
    log.length = 0
    const solved = highs.solve(model, { output_flag: true, mip_rel_gap: 0, mip_abs_gap: 0.5 })
    if (solved.Status !== 'Optimal') throw new Error(`The reference solver ended with ${solved.Status}.`)
    const timing = log.map(
      (line) => /Timing\s+([\d.]+)/.exec(line)?.[1] ?? /HiGHS run time\s*:\s*([\d.]+)/.exec(line)?.[1],
    )
    ms += 1000 * Number(timing.findLast((found) => found !== undefined) ?? 0)
    score[term] = Math.round(solved.ObjectiveValue)
    // At most, as it cannot be less: held to be equal, the solver now and then finds nothing where there is a plan.
    held.push(` h${term}: ${sum(parts)} <= ${score[term]}`)
  }
  return { score, ms }
}
