import type { Mapping, Parameter } from './types'

/**
 * What makes a mapping impossible to follow, in words that go on from its name; null where nothing does: its
 * ends the wrong way round or outside its parameter, or a curve where there is no position to bend.
 */
export function mappingProblem(mapping: Mapping, parameter: Parameter): string | null {
  const { min, max, curve, expects } = mapping
  const { range, kind } = parameter
  const [low, high] = [min ?? range?.min ?? null, max ?? range?.max ?? null]
  if (low !== null && high !== null && low >= high)
    return `runs from ${low} to ${high}: the first must be below the second; invert it to turn it round`
  const outside = [min, max].find(
    (value) => value !== null && range !== null && (value < range.min || value > range.max),
  )
  if (outside !== undefined && range)
    return `runs to ${outside}, but its parameter only goes from ${range.min} to ${range.max}`
  if (curve === 'linear') return null
  if (expects.kind !== 'absolute')
    return 'has a curve, but clicks and presses have no position to bend: let it be linear'
  return kind === 'switch' || kind === 'action' || kind === 'note'
    ? 'has a curve, but its parameter is only on or off: let it be linear'
    : null
}

/** What makes a parameter impossible, in words that go on from its name, or null. */
export function parameterProblem({ kind, choices, steps, standsFor }: Parameter): string | null {
  if (choices.length === 1) return 'has one choice only: give it two at least, or none'
  if (choices.length > 0 && kind !== 'choice') return 'has names for its values, but is no choice'
  if (choices.length > 0 && steps !== null && steps !== choices.length)
    return `has ${choices.length} named values, but says it has ${steps}`
  return standsFor !== null && kind !== 'relative'
    ? 'stands for others, but is not relative to a selection'
    : null
}
