import bidiFactory from 'bidi-js'
import { attachUnseen, composed, settable, type Face, type Run } from '../scripts'

/** Letters that run from right to left. */
const RIGHT_TO_LEFT = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]/
/** The faces whose words are turned around when they are set. */
const TURNED: ReadonlySet<Face> = new Set(['hebrew', 'arabic'])
/** What belongs to the character before it. */
const ATTACHED = /^\p{M}$/u

let bidi: ReturnType<typeof bidiFactory> | null = null

export const runsFromRight = (text: string): boolean => RIGHT_TO_LEFT.test(text)

/** A word of a face that is turned, or a character of another. */
interface Unit extends Run {
  level: number
}

function unitsOf(text: string): Unit[] {
  bidi ??= bidiFactory()
  const line = composed(text)
  const { levels } = bidi.getEmbeddingLevels(line, 'ltr')
  const units: Unit[] = []
  let at = 0
  for (const character of line) {
    const level = levels[at] ?? 0
    at += character.length
    if (attachUnseen(units.at(-1), character)) continue
    const mirrored = level % 2 === 1 ? (bidi.getMirroredCharacter(character) ?? character) : character
    for (const run of settable(mirrored)) {
      const last = units.at(-1)
      const isWithLast =
        last !== undefined &&
        (ATTACHED.test(character) || (TURNED.has(run.face) && last.face === run.face && last.level === level))
      if (isWithLast) last.text += run.text
      else units.push({ ...run, level })
    }
  }
  return units
}

/** Turn around every stretch of a level or above, from the highest level down to 1 (Unicode Standard Annex 9, rule L2). */
function inOrder(units: Unit[]): Unit[] {
  const ordered = [...units]
  const highest = units.reduce((most, { level }) => Math.max(most, level), 0)
  for (let level = highest; level >= 1; level--) {
    let from = 0
    while (from < ordered.length) {
      let to = from
      while ((ordered[to]?.level ?? -1) >= level) to++
      if (to > from) ordered.splice(from, to - from, ...ordered.slice(from, to).reverse())
      from = Math.max(to, from + 1)
    }
  }
  return ordered
}

/**
 * One line of text as pieces from left to right, in a document that runs from left to right (Unicode Standard Annex 9). Words
 * that run from right to left are pieces of their own, as they are written: setting turns their letters around.
 */
export function fromLeft(line: string): Run[] {
  const runs: Run[] = []
  for (const { face, text } of inOrder(unitsOf(line))) {
    const last = runs.at(-1)
    if (last && last.face === face && !TURNED.has(face)) last.text += text
    else runs.push({ face, text })
  }
  return runs
}
