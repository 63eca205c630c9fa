export { learnedFrom } from './learn'
export { showingFor, sittingOf, type SittingLine } from './sitting'
export { soloSteps, type SoloStep } from './solo'
