import * as fc from 'fast-check'

/** `npm run prove` draws so many times the cases that `npm test` does. */
const TIMES_MORE = 20
const isLong = process.env.PROVE !== undefined

/** How many cases a property draws: so many in `npm test`, many more in `npm run prove`. */
export const cases = (quick: number): { numRuns: number } => ({
  numRuns: isLong ? quick * TIMES_MORE : quick,
})

/** The same cases in every run, unless another seed is asked for; a failure prints the seed that it was drawn with. */
export function seedProperties(): void {
  fc.configureGlobal({ ...cases(60), seed: Number(process.env.PROVE_SEED ?? 4711) })
}
