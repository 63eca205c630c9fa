/** The first of some names, so many at most, and how many more there are: “Fdbk, Drive and 3 more”. */
export function someOf(names: readonly string[], most: number): string {
  const first = names.slice(0, most).join(', ')
  return names.length > most ? `${first} and ${names.length - most} more` : first
}
