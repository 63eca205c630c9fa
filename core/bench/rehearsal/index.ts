export { rehearse, rehearsing, type Finding, type Progress, type Rehearsal } from './rehearse'
export type { Misbehaving } from './scenes'
export { changedSince, rehearsedOf, scenesText, type Since } from './marks'
