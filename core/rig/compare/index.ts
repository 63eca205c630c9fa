export { compareRigs, isSame } from './compare'
export { isWithin, whereKey, type Difference, type Where } from './difference'
export { bringBackOf, withDifferences, type BroughtBack } from './bring-back'
