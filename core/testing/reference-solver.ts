import loadHighs from 'highs'
import { TERMS, type Problem, type Term } from '../allocate/solver/problem'

/** A stretch of a chain that runs on without a break, laid at one place; or one item left without. */
interface Segment {
  name: string
  items: readonly number[]
  takes: readonly number[]
  costs: Readonly<Record<Term, number>>
}

function segmentsOf(problem: Problem): Segment[] {
  const segments: Segment[] = []
  for (const chain of problem.chains) {
    chain.forEach((first, index) => {
      problem.items[first]?.addresses.forEach((start, at) => {
        const costs = Object.fromEntries(TERMS.map((term) => [term, 0])) as Record<Term, number>
        const items: number[] = []
        const takes: number[] = []
        for (let offset = 0; index + offset < chain.length; offset++) {
          const item = chain[index + offset] ?? 0
          const shape = problem.items[item]
          const candidate =
            offset === 0 ? at : start < 0 ? -1 : (shape?.addresses.indexOf(start + offset) ?? -1)
          if (!shape || candidate < 0) break
          const own = [...(shape.takes[candidate] ?? [])]
          if (own.some((resource) => takes.includes(resource))) break
          takes.push(...own)
          items.push(item)
          for (const term of TERMS) if (term !== 'breaks') costs[term] += shape.costs[term][candidate] ?? 0
          segments.push({
            name: `s${segments.length}`,
            items: [...items],
            takes: [...takes],
            costs: { ...costs, breaks: index === 0 ? 0 : 1 },
          })
        }
      })
    })
  }
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
    held.push(` h${term}: ${sum(parts)} = ${score[term]}`)
  }
  return { score, ms }
}
