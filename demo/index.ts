export { nineRings, nineRingsRig, type DemoState } from './nine-rings'
