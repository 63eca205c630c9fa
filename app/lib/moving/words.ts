import { ASK_WORDS, missingOf, type Known, type Manner, type Walk } from '#core/listen'
import { gestureVerb } from '~/lib/sentence'
import { guessTag } from '~/lib/bench/find-out'
import type { Control, GestureKind } from '#core/rig'

const MOVE = 'Move it slowly from one end to the other, and back.'

/** What a player does with a gesture of a control, so that it can be told what it is. */
function gestureWords({ kind }: Control, gesture: GestureKind): string {
  switch (gesture) {
    case 'press':
      return kind === 'pedal'
        ? 'Push it slowly down to its end and let it come back; if it is a switch, press it 6 times.'
        : ASK_WORDS.press
    case 'push':
      return `Push it down. ${ASK_WORDS.press}`
    case 'strike':
      return kind === 'keybed'
        ? 'Play its lowest key, then its highest.'
        : 'Strike it 6 times, about once a second, softly and hard.'
    case 'turn':
      return kind === 'encoder' ? ASK_WORDS.clicks : MOVE
    case 'x':
      return 'Move it across first, from left to right, then up and down.'
    case 'y':
      return 'Move it up and down.'
    case 'slide':
    case 'tilt':
    case 'pressure':
    case 'touch':
      return MOVE
  }
}

/** What is to be done now with the control that is next; null when all is done. */
export function nextWords(walk: Walk): string | null {
  const control = walk.steps[walk.next]
  const [gesture] = control ? missingOf(walk.belongs, control) : []
  return control && gesture ? gestureWords(control, gesture) : null
}

/** What is known of one gesture, as a player reads it. */
export interface KnownWords {
  gesture: GestureKind
  verb: string
  tag: string
  /** What it is, or what it may be. */
  words: string
  state: Known['state']
  /** What would settle it; null where nothing has to be. */
  todo: string | null
}

const isStruck = ({ guess: { address } }: Known): boolean =>
  address?.scope === 'channel' && address.target.kind === 'note'

const ENCODING = {
  'twos-complement': 'two’s complement',
  'offset-binary': 'offset binary',
  'sign-magnitude': 'sign and magnitude',
} as const

/** How something works, in few words. */
function shortWords(known: Known, manner: Manner): string {
  switch (manner.kind) {
    case 'swept':
      return `from ${known.guess.low} to ${known.guess.high}`
    case 'momentary':
      return isStruck(known) ? 'held' : `held, ${manner.pressed} and ${manner.released}`
    case 'toggle':
      return isStruck(known) ? 'on and off by turns' : `by turns ${manner.on} and ${manner.off}`
    case 'trigger':
      return isStruck(known) ? 'once a press' : `${manner.value} at every press`
    case 'list':
      return `${manner.values.join(', ')} by turns`
    case 'relative':
      return `clicks, ${ENCODING[manner.encoding]}`
    case 'steps':
      return 'clicks, increment and decrement'
    case 'signal':
      return 'set off'
  }
}

export function knownWords(known: Known): KnownWords {
  const { gesture, manner, others, state, ask, keys, program } = known
  const open = state === 'open' ? others.map((each) => `or ${shortWords(known, each)}`) : []
  const words = manner ? [shortWords(known, manner), ...open].join(', ') : 'not yet to be told'
  return {
    gesture,
    verb: gestureVerb(gesture),
    tag: tagOf(known),
    words: keys ? keyWords(known) : program === null ? words : 'set off',
    state: keys || program !== null ? 'along' : state,
    todo: ask && !keys && program === null ? ASK_WORDS[ask] : null,
  }
}

/** What is to be said of keys besides which they are. */
const keyWords = ({ zone }: Known): string =>
  zone
    ? `keys, a channel for each: manager ${zone.manager}, ${zone.isTold ? '' : 'at least '}${zone.members} members`
    : 'keys'

/** Where it lands, in writing: of keys from the lowest to the highest, of a program with its number. */
function tagOf({ guess, keys, program }: Known): string {
  const withNumber = (number: number): string => guessTag(guess).replace(/\d+$/, String(number))
  if (program !== null) return withNumber(program)
  if (!keys) return guessTag(guess)
  return keys.low === keys.high ? withNumber(keys.low) : `${withNumber(keys.low)}–${keys.high}`
}
