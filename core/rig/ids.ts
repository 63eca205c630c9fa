/** The first `word-number` that nothing in the list is called yet. */
export function freeId(word: string, taken: Iterable<{ id: string }>): string {
  const ids = new Set([...taken].map(({ id }) => id))
  for (let number = 1; ; number++) {
    if (!ids.has(`${word}-${number}`)) return `${word}-${number}`
  }
}
