import { placeName, type Id, type RigEdit } from '../../rig'
import type { CheckContext } from '../context'
import type { Draft, Fix, FixKind } from '../finding'

/** In rigs larger than this (messages) only cures that touch mappings are tried out. */
const TRIED_UP_TO = 20_000
const TRIED: ReadonlySet<FixKind> = new Set([
  'clear',
  'teach',
  'follow',
  'soften',
  'withdraw',
  'expect',
  'feed-back',
])

/** Whether a change removes a finding without a new error, and which mappings have to be taught again for that. */
export type Trial = { holds: false } | { holds: true; teach: readonly Id[] }

/**
 * Every cure of a draft that can be offered: each removes the finding and makes no new error, once what it makes unheard
 * has been taught again; `tryOut` tells.
 */
export function offeredFixes(
  context: CheckContext,
  draft: Draft,
  tryOut: (edits: readonly RigEdit[]) => Trial,
): Fix[] {
  const isSmall = context.occupancy.senders.length <= TRIED_UP_TO
  const isTried = ({ kind }: Fix): boolean => isSmall || TRIED.has(kind)
  const offers = draft.cures?.() ?? []
  return toldApart(
    context,
    offers.flatMap((fix): Fix[] => {
      if (fix.edits.length === 0) return []
      const trial = isTried(fix) ? tryOut(fix.edits) : { holds: true as const, teach: [] }
      if (!trial.holds) return []
      if (trial.teach.length === 0) return [fix]
      return [{ ...fix, label: `${fix.label}, then teach again`, teach: trial.teach }]
    }),
  )
}

/** Cures of the same name are told apart by the layer they change. */
function toldApart({ rig }: CheckContext, fixes: readonly Fix[]): Fix[] {
  return fixes.map((fix) => {
    const [edit] = fix.edits
    const isTwin = fixes.some((other) => other !== fix && other.label === fix.label)
    if (!isTwin || edit?.type !== 'message') return fix
    const { layer } = placeName(rig, edit.at)
    return layer === null
      ? fix
      : { ...fix, id: `${fix.id}-${edit.at.layer}`, label: `${fix.label} in ${layer}` }
  })
}
