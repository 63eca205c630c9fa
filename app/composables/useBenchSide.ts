/** What is shown beside the surface of the Bench. */
export type BenchSide = 'moves' | 'listen' | 'prove' | 'destinations' | 'ports'

/** The same for whoever leads there. */
export const useBenchSide = () => useState<BenchSide>('bench-side', () => 'moves')
