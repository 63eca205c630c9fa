export type { DemoState } from './kit'
export { nineRings, nineRingsRig } from './nine-rings'
