import { SENDING_KINDS, BEHAVIOUR_KINDS } from './words'
import type { Part, PlacePart, ReadRecipe } from './notation'

const placesIn = (parts: readonly Part[]): PlacePart[] =>
  parts.flatMap((part): PlacePart[] =>
    part.kind === 'place'
      ? [part]
      : part.kind === 'each'
        ? part.parts.flatMap((each) => (each.kind === 'place' ? [each] : []))
        : [],
  )

/** What is wrong with a recipe, as sentences: why it could not be written, or not be read back. Empty where nothing is. */
export function recipeProblems(recipe: ReadRecipe): string[] {
  const { parts, kinds, behaviours } = recipe
  const runs = parts.filter((part) => part.kind === 'each')
  const places = placesIn(parts)
  const has = (place: PlacePart['place']): boolean => places.some((each) => each.place === place)
  const outside = placesIn(parts.filter(({ kind }) => kind !== 'each'))
  const problems: string[] = []
  if (runs.length > 1)
    problems.push('It has two runs for each control: where the first ends could not be told.')
  if (!has('control')) problems.push('It never says which control is meant: add {control}.')
  if (runs.length > 0)
    for (const { place } of outside)
      if (place !== 'slot' && place !== 'device')
        problems.push(`{${place}} is of a control, and stands outside the run for each control.`)
  const counted = new Map<string, number>()
  for (const { place } of places) counted.set(place, (counted.get(place) ?? 0) + 1)
  for (const [place, count] of counted)
    if (count > 1 && place !== 'slot' && place !== 'device')
      problems.push(`{${place}} stands ${count} times: which one counts?`)
  if (has('kind') && kinds.length === 0)
    problems.push('It names the kind of message, and its table of kinds is empty.')
  if (has('behaviour') && behaviours.length === 0)
    problems.push('It names the behaviour, and its table of behaviours is empty.')
  for (const { word } of kinds)
    if (!SENDING_KINDS.has(word)) problems.push(`There is no kind of message “${word}”.`)
  for (const { word } of behaviours)
    if (!BEHAVIOUR_KINDS.has(word)) problems.push(`There is no behaviour “${word}”.`)
  let length = 0
  for (const part of parts) {
    if (part.kind === 'checksum' && part.from > length + 1)
      problems.push(`The checksum is of bytes from ${part.from} on, and stands at ${length + 1}.`)
    length +=
      part.kind === 'place' && part.place === 'name'
        ? part.letters
        : part.kind === 'place' && part.size !== 'byte'
          ? 2
          : 1
  }
  return problems
}
