export { learnedFrom } from './learn'
export { showingFor } from '../showing'
export { sittingOf, type SittingLine } from './sitting'
export { soloSteps, type SoloStep } from './solo'
