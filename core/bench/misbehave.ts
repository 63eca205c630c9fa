/** What a destination can be asked to do wrong, to see what comes of it. */
export const MISBEHAVIOURS = [
  'merges-channels',
  'drops',
  'doubles',
  'jumps',
  'old-mappings',
  'no-feedback',
] as const

export type Misbehaviour = (typeof MISBEHAVIOURS)[number]

/** Each in plain words, as the destination's doing. */
export const MISBEHAVIOUR_WORDS: Readonly<Record<Misbehaviour, string>> = {
  'merges-channels': 'takes all channels for one',
  drops: 'loses one message in five',
  doubles: 'takes one message in five twice',
  jumps: 'jumps at once, whatever takeover it has',
  'old-mappings': 'answers to mappings that are gone from the rig',
  'no-feedback': 'sends nothing back',
}

/** One message in so many is lost, or taken twice. */
const ONE_IN = 5

/** How often a destination takes the message that is its `count`th, from 0 on: always the same for the same count. */
export const timesTaken = (does: readonly Misbehaviour[], count: number): number => {
  const isIt = count % ONE_IN === ONE_IN - 1
  if (isIt && does.includes('drops')) return 0
  return isIt && does.includes('doubles') ? 2 : 1
}
