/** What the benchmarks measure of the core, built as the application builds it for its workers. */
export { cellKey, cellsOf } from '../core/addresses'
export { check, recheck } from '../core/conflicts'
export { assignmentsOf, perform } from '../core/rig'
export { classRank } from '../core/conflicts/free/rank'
export { seeded } from '../core/allocate/solver/seeded'
export { solve } from '../core/allocate/solver/solve'
export { problemOf } from '../core/testing/allocations'
export { stressRig } from '../core/testing/stress-rig'
