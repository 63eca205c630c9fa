import { FOURTEEN_MAX } from '../midi'
import type { Mapping, Parameter } from '../rig'

/** The values a parameter takes: from, to, in a unit, as `count` values evenly apart (null: without steps). */
export interface ValueSpan {
  min: number
  max: number
  unit: string
  count: number | null
}

/** Where a parameter says nothing of its values, they are counted in percent. */
const UNSAID = { min: 0, max: 100, unit: '%' }

/** The values of a parameter: as written, else from its kind (a switch has two, a choice as many as names). */
export function spanOf({ range, steps, kind, choices }: Parameter): ValueSpan {
  const counted =
    kind === 'switch' || kind === 'action' || kind === 'note' ? 2 : kind === 'choice' ? choices.length : 0
  const count = steps ?? (counted >= 2 ? counted : null)
  if (range) return { ...range, count }
  return count !== null && counted >= 2 ? { min: 0, max: count - 1, unit: '', count } : { ...UNSAID, count }
}

/** The distance between neighbouring values, or null where there are no steps. */
export const stepSize = ({ min, max, count }: ValueSpan): number | null =>
  count === null ? null : (max - min) / (count - 1)

/** The value that a parameter takes when it is told `value`: the nearest that it has, within its ends. */
export function settled(span: ValueSpan, value: number): number {
  const within = Math.min(span.max, Math.max(span.min, value))
  const step = stepSize(span)
  return step === null ? within : span.min + Math.round((within - span.min) / step) * step
}

/** The part of a parameter's values that a mapping moves it through; `min` is below `max`. */
export interface MappedRange {
  span: ValueSpan
  min: number
  max: number
  inverted: boolean
  curve: Mapping['curve']
  /** The sent value that stands for the upper end, where the destination counts in values of its own chart. */
  rawTop: number | null
}

/** By a chart of NRPN or RPN, a parameter of whole numbers takes the value itself, counted from its lower end. */
function rawTopOf({ fixed, range }: Parameter): number | null {
  if (range === null || (fixed?.kind !== 'nrpn' && fixed?.kind !== 'rpn')) return null
  const width = range.max - range.min
  return Number.isInteger(range.min) && Number.isInteger(width) && width <= FOURTEEN_MAX ? width : null
}

/** What a mapping moves its parameter through: its own ends where it has them, else the parameter's. */
export function mappedRange(
  mapping: Pick<Mapping, 'min' | 'max' | 'inverted' | 'curve'>,
  parameter: Parameter,
): MappedRange {
  const span = spanOf(parameter)
  return {
    span,
    min: mapping.min ?? span.min,
    max: mapping.max ?? span.max,
    inverted: mapping.inverted,
    curve: mapping.curve,
    rawTop: rawTopOf(parameter),
  }
}

/**
 * Why a mapping cannot have `value` at one of its ends (null: the parameter's own), as a sentence; null where it can. The
 * lower end stays below the upper one: to turn a mapping round there is `inverted`.
 */
export function endProblem(
  mapping: Pick<Mapping, 'min' | 'max'>,
  parameter: Parameter,
  end: 'min' | 'max',
  value: number | null,
): string | null {
  const span = spanOf(parameter)
  const at = (which: 'min' | 'max'): number => (which === end ? value : mapping[which]) ?? span[which]
  const [min, max, here] = [at('min'), at('max'), at(end)]
  if (here < span.min || here > span.max) return `The parameter goes from ${span.min} to ${span.max}.`
  if (min === max) return 'From and to must differ, or nothing moves.'
  return min > max ? 'From must be below to: turn it round with “inverted”.' : null
}

/** The choices of a parameter as the player reads them, or the number with its unit. */
export function valueText(parameter: Parameter, value: number): string {
  const { unit, min } = spanOf(parameter)
  if (parameter.kind === 'switch' && parameter.range === null) return value > 0 ? 'on' : 'off'
  const choice = parameter.kind === 'choice' ? parameter.choices[Math.round(value - min)] : undefined
  return choice ?? [plainNumber(value), unit].filter(Boolean).join(' ')
}

/** A number with as many figures as matter to a player: 0.85, 104.2, -12.3. */
export function plainNumber(value: number): string {
  const size = Math.abs(value)
  const digits = size >= 100 ? 1 : size >= 10 ? 2 : 3
  return String(Number(value.toFixed(digits)))
}
