import { standsFor } from '../mappings'
import { memoOf, type Destination, type Parameter } from '../rig'

/** Where a parameter belongs, as one name: its groups from the outside in. */
const placeIn = ({ path }: Parameter): string => path.join(' / ')

/**
 * What of a destination can be selected, in its own order: every group that holds something which a parameter relative to a
 * selection can stand for. Tracks, as a rule.
 */
export const selectionsOf = memoOf((destination: Destination): readonly string[] => {
  const relative = destination.parameters.filter(({ kind }) => kind === 'relative')
  return [
    ...new Set(
      destination.parameters
        .filter((other) => relative.some((each) => standsFor(each, other)))
        .map((other) => placeIn(other)),
    ),
  ]
})

/** What is selected: the first where nothing was chosen, or what was chosen is gone. Null where nothing can be. */
export const selectedIn = (destination: Destination, chosen: string | null): string | null => {
  const all = selectionsOf(destination)
  return chosen !== null && all.includes(chosen) ? chosen : (all[0] ?? null)
}

/** The parameter that is meant: of one relative to a selection what it stands for there, if anything; else itself. */
export function meantBy(destination: Destination, parameter: Parameter, chosen: string | null): Parameter {
  if (parameter.kind !== 'relative' || parameter.standsFor === null) return parameter
  const selected = selectedIn(destination, chosen)
  return (
    destination.parameters.find((other) => standsFor(parameter, other) && placeIn(other) === selected) ??
    parameter
  )
}
