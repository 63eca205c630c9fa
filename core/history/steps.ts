import { undone, type Rig, type Step } from '../rig'
import { compareRigs } from '../rig/compare'
import { groupsOf, type LineKind } from './report'

/** What one edit did, in words. Plain data. */
export interface StepWords {
  /** The edit led from here to one more. */
  index: number
  /** The first of the things that it changed. */
  lines: Array<{ kind: LineKind; text: string }>
  /** How many there are. */
  count: number
}

/** So many lines of one edit are said. */
export const MOST_LINES = 40

function wordsOf(before: Rig, after: Rig): Pick<StepWords, 'lines' | 'count'> {
  const differences = compareRigs(before, after)
  const groups = groupsOf(before, after, differences.slice(0, MOST_LINES))
  const lines = groups.flatMap(({ name: owner, sections }) =>
    sections.flatMap(({ name: section, lines: own }) =>
      own.map(({ kind, name, was, is }) => {
        const values = was === null && is === null ? '' : `: ${was ?? 'nothing'} → ${is ?? 'nothing'}`
        return { kind, text: `${[owner, section, name].filter(Boolean).join(', ')}${values}` }
      }),
    ),
  )
  return { lines, count: differences.length }
}

/**
 * What each edit did, the last first, from a rig and the edits that led to it. Step by step, so that whoever asks can show what is
 * known and stop.
 */
export function* stepWords(rig: Rig, past: readonly Step[]): Generator<StepWords> {
  let after = rig
  for (let index = past.length - 1; index >= 0; index--) {
    const step = past[index]
    if (!step) return
    const before = undone(after, step)
    yield { index, ...wordsOf(before, after) }
    after = before
  }
}

/** Does an edit speak of all that is searched for, in whatever order? */
export function isSpokenOf(label: string, words: StepWords | undefined, search: string): boolean {
  const text = `${label} ${words?.lines.map((each) => each.text).join(' ') ?? ''}`.toLocaleLowerCase()
  return search
    .toLocaleLowerCase()
    .split(/\s+/)
    .every((each) => text.includes(each))
}

/** The rig as it was after so many of its past edits. */
export const rigAfter = (rig: Rig, past: readonly Step[], count: number): Rig =>
  past.slice(count).reduceRight((now, step) => undone(now, step), rig)
