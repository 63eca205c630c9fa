import type { MappingFacts } from '#core/mappings'
import { ENCODING_WORDS, type Mapping, type Parameter } from '#core/rig'
import { plainNumber, valueText, type RealSteps, type WholeSteps } from '#core/values'
import { atRest } from './charts'

export const CURVE_NAMES: Readonly<Record<Mapping['curve'], string>> = {
  linear: 'straight',
  exponential: 'fine at the low end',
  logarithmic: 'fine at the high end',
  s: 'fine at both ends',
}

/** Ways in which a destination takes what arrives, as the values of a field. */
export const MANNERS = [
  { value: 'absolute', label: 'positions' },
  { value: 'press', label: 'presses, each flips it' },
  { value: 'twos-complement', label: `clicks, ${ENCODING_WORDS['twos-complement']}` },
  { value: 'offset-binary', label: `clicks, ${ENCODING_WORDS['offset-binary']}` },
  { value: 'sign-magnitude', label: `clicks, ${ENCODING_WORDS['sign-magnitude']}` },
] as const
export type Manner = (typeof MANNERS)[number]['value']

/** How a mapping takes what arrives, as a value of `MANNERS`. */
export const mannerOf = ({ expects }: Mapping): Manner =>
  expects.kind === 'relative' ? expects.encoding : expects.kind

/** A value of `MANNERS` as a mapping keeps it. */
export const expectsOf = (manner: Manner): Mapping['expects'] =>
  manner === 'absolute' || manner === 'press' ? { kind: manner } : { kind: 'relative', encoding: manner }

const count = (number: number, word: string): string => `${number} ${word}${number === 1 ? '' : 's'}`

function sweepWords({ travel, coverage, turns }: MappingFacts, parameter: Parameter): string[] {
  if (travel.kind !== 'sweep' || !coverage) return []
  const text = (value: number): string => valueText(parameter, value)
  const { lowest, highest, smallestStep, largestStep, missed } = coverage
  const words = [`${count(travel.count, 'value')} bring it from ${text(lowest)} to ${text(highest)}.`]
  if (smallestStep !== null && largestStep !== null) {
    const isEven = largestStep - smallestStep < smallestStep * 0.01
    words.push(
      isEven
        ? `The smallest step is ${plainNumber(smallestStep)}.`
        : `Steps are between ${plainNumber(smallestStep)} and ${plainNumber(largestStep)}.`,
    )
  }
  if (missed && missed.count > 0)
    words.push(
      `${missed.count} of its ${missed.of} values are never taken, ${text(missed.first[0] ?? 0)} for one.`,
    )
  else if (missed) words.push(`Each of its ${missed.of} values can be set.`)
  if (turns !== null) words.push(`${plainNumber(turns)} turns from end to end.`)
  return words
}

function clickWords({ click, clicks, turns, range }: MappingFacts): string[] {
  if (click === null || clicks === null)
    return [
      'Nothing says how far a click moves it: give the destination a step rule, or the parameter a step.',
    ]
  const { unit } = range.span
  const far = [plainNumber(click), unit].filter(Boolean).join(' ')
  return [
    `One click moves it by ${far}.`,
    `${count(clicks, 'click')} from end to end${turns === null ? '' : `, ${plainNumber(turns)} turns`}.`,
  ]
}

/** What a mapping does, in a few sentences. */
export function factWords(facts: MappingFacts, parameter: Parameter): string[] {
  const { travel, coverage } = facts
  const text = (value: number): string => valueText(parameter, value)
  switch (travel.kind) {
    case 'sweep':
      return sweepWords(facts, parameter)
    case 'clicks':
      return clickWords(facts)
    case 'points':
      return coverage
        ? [
            coverage.lowest === coverage.highest
              ? `It is set to ${text(coverage.lowest)}.`
              : `It is set to ${text(coverage.lowest)} or ${text(coverage.highest)}.`,
          ]
        : []
    case 'strike':
      return ['A note sets it off, harder or softer.']
    case 'signal':
      return ['It happens when the message arrives: there is no value.']
    case 'nothing':
      return ['The control sends nothing, so nothing moves.']
  }
}

/** What the parameter is while its control rests in its centre. */
export function restWords(facts: MappingFacts, parameter: Parameter): string[] {
  const rest = atRest(facts)
  return rest ? [`At rest it sends ${rest.sent}: ${valueText(parameter, rest.becomes)}.`] : []
}

/** Why a range steps as it does, in one sentence. */
export function realStepWords({ each, still, skipped, shown }: RealSteps): string {
  const way = shown.slice(0, 5).map(plainNumber).join(', ')
  if (still > 0)
    return `A step is ${plainNumber(each)}, so ${still} steps of a full sweep change nothing that is shown (${way} …).`
  if (skipped > 0) return `A step is ${plainNumber(each)}, so ${skipped} whole units are skipped (${way} …).`
  return `A step is exactly ${plainNumber(each)}: ${way} …`
}

/** Why there is no range of whole steps, and what to ask for instead. */
export function wholeStepRefusal(found: Exclude<WholeSteps, { kind: 'found' }>): string {
  switch (found.kind) {
    case 'too-narrow':
      return `Whole steps of that size cover only ${plainNumber(found.width)}. Ask for ${found.try} a step, or less to cover.`
    case 'too-wide':
      return `Whole steps of that size need a range ${plainNumber(found.width)} wide, and the parameter has ${plainNumber(found.room)}. Ask for less a step.`
    case 'no-place':
      return `A range ${plainNumber(found.width)} wide fits, but not so that it covers this in whole steps. Cover a little less.`
  }
}
