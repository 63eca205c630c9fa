import { controllerClass, type Seven } from '../../midi'

const RANK: Readonly<Record<string, number>> = {
  undefined: 0,
  'general-purpose': 1,
  'second-of-pair': 2,
  standard: 4,
}

/** How little a controller number 0–127 is wanted, by its class; null if it is never given. */
export const classRank = (number: Seven): number | null => RANK[controllerClass(number)] ?? null
