import { printTag } from '../midi'
import { placeKey } from '../rig'
import type { Finding } from './finding'

const PRIME = 16_777_619
const SEEDS = [2_166_136_261, 3_735_928_559] as const

/** FNV-1a, 32 bits, of a text. */
function hash(text: string, seed: number): string {
  let value = seed
  for (let index = 0; index < text.length; index++) value = Math.imul(value ^ text.charCodeAt(index), PRIME)
  return (value >>> 0).toString(16).padStart(8, '0')
}

/** A text of any length as sixteen letters and figures. */
export const digest = (text: string): string => SEEDS.map((seed) => hash(text, seed)).join('')

/**
 * What a finding rests on, as a short text that is the same as long as nothing of it changes: its weight,
 * the places, addresses and destinations. Names are not among it: a renamed control is the same control.
 */
export function factsOf({ severity, at, addresses, destinations, things }: Finding): string {
  const places = at.map((place) => `${placeKey(place)}#${place.message}`).toSorted()
  const about = things.map(({ kind, id }) => `${kind} ${id}`).toSorted()
  const text = [
    severity,
    ...places,
    ...addresses.map(printTag).toSorted(),
    ...destinations.toSorted(),
    ...about,
  ].join('|')
  return digest(text)
}
