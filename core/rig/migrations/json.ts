/** JSON that has not been checked. */
export type Json = unknown
export type Fields = Record<string, Json>

export const isFields = (value: Json): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** A list with each entry changed; anything else as it is, for the schema to refuse. */
export const each = (value: Json, change: (entry: Json) => Json): Json =>
  Array.isArray(value) ? value.map(change) : value

/** Fields with some of them changed, those that are there. */
export function changed(value: Json, changes: Readonly<Record<string, (field: Json) => Json>>): Json {
  if (!isFields(value)) return value
  const next = { ...value }
  for (const [name, change] of Object.entries(changes)) if (name in next) next[name] = change(next[name])
  return next
}

/** Every value of a table changed. */
export const everyValue = (value: Json, change: (entry: Json) => Json): Json =>
  isFields(value)
    ? Object.fromEntries(Object.entries(value).map(([key, entry]) => [key, change(entry)]))
    : value
