/** The same function, asked once of each key. */
export function rememberedBy<K, V>(ask: (key: K) => V): (key: K) => V {
  const known = new Map<K, V>()
  return (key) => {
    const before = known.get(key)
    if (before !== undefined) return before
    const answer = ask(key)
    known.set(key, answer)
    return answer
  }
}
