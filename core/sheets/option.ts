/** A way in which a sheet can be made; the first choice is the usual one. */
export interface SheetOption {
  id: string
  label: string
  choices: ReadonlyArray<{ id: string; name: string }>
}

/** What is chosen, by option; what is left out is as usual. */
export type Chosen = Readonly<Record<string, string>>

/** An option of which one of some words is chosen. `of` reads what is chosen; it gives the usual one for what is left out. */
export interface OptionOf<T extends string> extends SheetOption {
  of: (chosen: Chosen) => T
}

/** Make an option from the words of its choices. */
export function option<T extends string>(
  id: string,
  label: string,
  names: Readonly<Record<T, string>>,
): OptionOf<T> {
  const choices = (Object.keys(names) as T[]).map((each) => ({ id: each, name: names[each] }))
  const [usual] = choices
  if (!usual) throw new RangeError(`The option “${label}” has no choice.`)
  return {
    id,
    label,
    choices,
    of: (chosen) => choices.find((each) => each.id === chosen[id])?.id ?? usual.id,
  }
}

/** What is wrong with what is chosen, as a sentence; null where nothing is. */
export function chosenProblem(options: readonly SheetOption[], chosen: Chosen): string | null {
  for (const [id, value] of Object.entries(chosen)) {
    const found = options.find((each) => each.id === id)
    if (!found)
      return options.length === 0
        ? `This sheet has no options, so “${id}” cannot be chosen.`
        : `This sheet has no option “${id}”: it has ${options.map((each) => each.id).join(', ')}.`
    if (!found.choices.some((each) => each.id === value))
      return `“${value}” cannot be chosen for ${id}: use ${found.choices.map((each) => each.id).join(', ')}.`
  }
  return null
}
