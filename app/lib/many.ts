import { inCommon, type Message } from '#core/rig'
import {
  sentenceOf,
  type ChoiceWord,
  type FieldWord,
  type NumberWord,
  type SentenceContext,
  type WordOption,
} from './sentence'

/** A field over several messages: what they have in common or *mixed*; setting it sets it in each that has it. */
export type ManyField = FieldWord<readonly Message[]>

const MIXED = 'mixed'

type Fields = ReadonlyMap<string, FieldWord>
const known = new WeakMap<Message, { context: SentenceContext; fields: Fields }>()

/** Would a message have the same fields in both contexts? */
export const isSameContext = (a: SentenceContext, b: SentenceContext): boolean =>
  a.control === b.control &&
  a.gesture === b.gesture &&
  a.homeChannel === b.homeChannel &&
  a.abilities === b.abilities &&
  a.rig.middleC === b.rig.middleC &&
  a.rig.programsFrom === b.rig.programsFrom

/** The fields of one message, kept as long as nothing they depend on changes. */
function fieldsOf(context: SentenceContext): Fields {
  const before = known.get(context.message)
  if (before && isSameContext(before.context, context)) return before.fields
  const fields = new Map(
    sentenceOf(context)
      .filter((word): word is FieldWord => word.type !== 'plain')
      .map((word) => [word.id, word]),
  )
  known.set(context.message, { context, fields })
  return fields
}

/** Options that any of the messages has; to be had if any of them can have it. */
function optionsOf(words: readonly ChoiceWord[]): WordOption[] {
  const options = new Map<string, WordOption>()
  for (const option of [...new Set(words.map((word) => word.options))].flat()) {
    const before = options.get(option.value)
    if (!before || before.reason !== null) options.set(option.value, option)
  }
  return [...options.values()]
}

function choiceOver(words: readonly ChoiceWord[], all: readonly Message[], apply: Apply): ManyField {
  const [first] = words
  const common = inCommon(words.map(({ value }) => value))
  const isMixed = common?.kind !== 'same' || words.length < all.length
  return {
    type: 'choice',
    id: first?.id ?? '',
    label: first?.label ?? '',
    text: isMixed ? MIXED : (first?.text ?? ''),
    value: isMixed ? MIXED : (first?.value ?? ''),
    options: optionsOf(words),
    set: (value) => apply((word) => (word.type === 'choice' && canBe(word, value) ? word.set(value) : null)),
  }
}

const canBe = (word: ChoiceWord, value: string): boolean =>
  word.options.some((option) => option.value === value && option.reason === null)

function numberOver(words: readonly NumberWord[], all: readonly Message[], apply: Apply): ManyField {
  const [first] = words
  const common = inCommon(words.map(({ value }) => value))
  const isMixed = common?.kind !== 'same' || words.length < all.length
  return {
    type: 'number',
    id: first?.id ?? '',
    label: first?.label ?? '',
    text: isMixed ? MIXED : (first?.text ?? ''),
    value: isMixed ? null : (first?.value ?? null),
    low: words.reduce((least, { low }) => Math.min(least, low), Infinity),
    high: words.reduce((most, { high }) => Math.max(most, high), -Infinity),
    set: (value) =>
      apply((word) =>
        word.type === 'number' && value >= word.low && value <= word.high ? word.set(value) : null,
      ),
  }
}

type Apply = (set: (word: FieldWord) => Message | null) => readonly Message[]

/**
 * The fields of several messages together, in the order of the sentence. A message that does not have
 * a field, or cannot take the value, stays as it is.
 */
export function manyFields(contexts: readonly SentenceContext[]): ManyField[] {
  const fields = contexts.map(fieldsOf)
  const messages = contexts.map(({ message }) => message)
  const ids = [...new Set(fields.flatMap((map) => [...map.keys()]))]
  return ids.flatMap((id): ManyField[] => {
    const words = fields.flatMap((map) => map.get(id) ?? [])
    const apply: Apply = (set) =>
      messages.map((message, index) => {
        const word = fields[index]?.get(id)
        return (word && set(word)) ?? message
      })
    const choices = words.filter((word): word is ChoiceWord => word.type === 'choice')
    if (choices.length > 0) return [choiceOver(choices, messages, apply)]
    const numbers = words.filter((word): word is NumberWord => word.type === 'number')
    return numbers.length > 0 ? [numberOver(numbers, messages, apply)] : []
  })
}
