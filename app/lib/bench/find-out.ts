import { ASK_WORDS, mannerWords, type Guess, type Point } from '#core/listen'
import { printTag } from '#core/midi'
import { isClose, sentenceOf, type SentenceContext } from '~/lib/sentence'

/** Where what was heard lands, in writing. */
export const guessTag = ({ address, sender }: Guess): string => (address ? printTag(address) : sender)

const isStruck = ({ address }: Guess): boolean =>
  address?.scope === 'channel' && address.target.kind === 'note'

/** What it most likely is, and what else it may be, in words. */
export function guessWords(guess: Guess): { best: string | null; others: string[]; next: string | null } {
  const [best, ...others] = guess.fitting.map((manner) => mannerWords(manner, isStruck(guess)))
  const [ask] = guess.asks
  return { best: best ?? null, others, next: ask ? ASK_WORDS[ask] : null }
}

/** The values one after the other as a line, `width` × `height` px. */
export function valueLine({ points, top }: Guess, width: number, height: number): string {
  const low = points.reduce((least, { value }) => Math.min(least, value), 0)
  const most = points.slice(-MOST_DRAWN)
  const x = (index: number): number => (most.length < 2 ? 0 : (index / (most.length - 1)) * width)
  const y = (value: number): number => height - ((value - low) / Math.max(1, top - low)) * height
  return most
    .map(
      ({ value }: Point, index) => `${index === 0 ? 'M' : 'L'}${x(index).toFixed(1)} ${y(value).toFixed(1)}`,
    )
    .join('')
}
const MOST_DRAWN = 300

/** A message as a sentence: "Turn sends CC 74 on channel 5, from 0 to 127." */
export const messageText = (context: SentenceContext): string =>
  sentenceOf(context).reduce(
    (text, word, index) => `${text}${index === 0 || isClose(word) ? '' : ' '}${word.text}`,
    '',
  )
