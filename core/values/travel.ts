export { travelOf, valuesOf, type Travel } from '../midi'
