/** A stretch of a text that stays on one line, and what stands before it where the line goes on. */
export interface Piece {
  before: '' | ' '
  text: string
}

/** Ideographs, kana and what goes with them: written without spaces, a line may end between any two of them. */
const UNSPACED = /[\u3001-\u30ff\u4e00-\u9fff\uff01-\uff9f]/
/** What begins no line, and what ends none (Unicode Standard Annex 14: CL, EX, IS, NS and OP). */
const NEVER_FIRST = /[、。，．・：；？！…）」』】〕〉》々ーぁぃぅぇぉっゃゅょァィゥェォッャュョ)\],.:;?!'"’”]/
const NEVER_LAST = /[（「『【〔〈《([‘“]/

const mayEndBetween = (before: string, after: string): boolean =>
  (UNSPACED.test(before) || UNSPACED.test(after)) && !NEVER_FIRST.test(after) && !NEVER_LAST.test(before)

/** A text in the stretches between which a line may end: at spaces, and within scripts that have none. */
export function piecesOf(text: string): Piece[] {
  const words = text.split(' ')
  if (!UNSPACED.test(text)) return words.map((word) => ({ before: ' ', text: word }))
  return words.flatMap((word) => {
    const pieces: Piece[] = [{ before: ' ', text: '' }]
    let last = ''
    for (const character of word) {
      const piece = pieces.at(-1)
      if (piece && !(last !== '' && mayEndBetween(last, character))) piece.text += character
      else pieces.push({ before: '', text: character })
      last = character
    }
    return pieces
  })
}
