import type { Step } from '#core/rig'
import type { VersionEntry } from '~/storage/versions'

/** Edits that are further apart, in ms, are of two sittings. */
export const SITTING_GAP_MS = 30 * 60_000

/** One line of the history, the latest first. */
export type HistoryRow =
  /** Edits made at one go; times in ms since 1970, null where they are not known. */
  | { kind: 'sitting'; key: string; from: number | null; to: number | null; count: number }
  /** The edit that led to the rig after `index + 1` edits. */
  | { kind: 'step'; key: string; index: number; label: string; at: number | null }
  | { kind: 'version'; key: string; version: VersionEntry }

type Made = Pick<Step, 'label' | 'at'>

/** Is an edit the first of a sitting? One of unknown time goes with others of unknown time. */
export function beginsSitting(step: Made, before: Made | undefined): boolean {
  if (!before) return true
  if (step.at === undefined || before.at === undefined) return step.at !== before.at
  return step.at - before.at > SITTING_GAP_MS
}

/** The edits by sitting, with the versions between them where they belong. */
export function historyRows(
  past: readonly Made[],
  versions: readonly VersionEntry[],
  isShown: (index: number) => boolean = () => true,
): HistoryRow[] {
  const rows: HistoryRow[] = []
  const waiting = versions.toSorted((a, b) => b.at - a.at)
  const place = (from: number): void => {
    for (let next = waiting[0]; next && next.at >= from; next = waiting[0]) {
      rows.push({ kind: 'version', key: next.id, version: next })
      waiting.shift()
    }
  }
  let end = past.length
  while (end > 0) {
    let start = end - 1
    while (start > 0 && !beginsSitting(past[start] as Made, past[start - 1])) start--
    const shown = past
      .slice(start, end)
      .flatMap((step, at) => (isShown(start + at) ? [{ step, index: start + at }] : []))
    const [first, last] = [past[start], past[end - 1]]
    place((last?.at ?? -Infinity) + 1)
    if (shown.length > 0)
      rows.push({
        kind: 'sitting',
        key: `sitting ${start}`,
        from: first?.at ?? null,
        to: last?.at ?? null,
        count: shown.length,
      })
    for (const { step, index } of shown.toReversed()) {
      place(step.at ?? -Infinity)
      rows.push({ kind: 'step', key: `step ${index}`, index, label: step.label, at: step.at ?? null })
    }
    end = start
  }
  place(-Infinity)
  return rows
}
