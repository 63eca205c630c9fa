import { ASK_WORDS, mannerWords, type Guess, type Point } from '#core/listen'
import { printTag } from '#core/midi'
import { isClose, sentenceOf, type SentenceContext } from '~/lib/sentence'

/** Where what was heard lands, in writing. */
export function guessTag({ address, sender, sysex }: Guess): string {
  if (address) return printTag(address)
  if (!sysex) return sender
  const bytes = sysex.map((byte) => (byte === 'value' ? '··' : byte.toString(16).padStart(2, '0')))
  return `SysEx ${bytes.join(' ')}`
}

const isStruck = ({ address }: Guess): boolean =>
  address?.scope === 'channel' && address.target.kind === 'note'

/** What it most likely is, and what else it may be, in words. */
export function guessWords(guess: Guess): { best: string | null; others: string[]; next: string | null } {
  const [best, ...others] = guess.fitting.map((manner) => mannerWords(manner, isStruck(guess)))
  const [ask] = guess.asks
  return { best: best ?? null, others, next: ask ? ASK_WORDS[ask] : null }
}

/** The values one after the other, `width` × `height` px: a line of what is moved, steps of what is pressed or clicked. */
export function valueLine({ points, top, fitting }: Guess, width: number, height: number): string {
  const low = points.reduce((least, { value }) => Math.min(least, value), 0)
  const drawn = points.slice(-MOST_DRAWN)
  const isMoved = fitting[0]?.kind === 'swept'
  const count = isMoved ? drawn.length - 1 : drawn.length
  const x = (index: number): string => ((index / Math.max(1, count)) * width).toFixed(1)
  const y = ({ value }: Point): string =>
    (height - ((value - low) / Math.max(1, top - low)) * height).toFixed(1)
  return drawn
    .map((point, index) => {
      if (isMoved) return `${index === 0 ? 'M' : 'L'}${x(index)} ${y(point)}`
      return `${index === 0 ? `M0 ${y(point)}` : `V${y(point)}`}H${x(index + 1)}`
    })
    .join('')
}
const MOST_DRAWN = 300

/** A message as a sentence: "Turn sends CC 74 on channel 5, from 0 to 127." */
export const messageText = (context: SentenceContext): string =>
  sentenceOf(context).reduce(
    (text, word, index) => `${text}${index === 0 || isClose(word) ? '' : ' '}${word.text}`,
    '',
  )
