/** Each value of a record as something else. */
export const mapped = <A, B>(
  record: Readonly<Record<string, A>> | undefined,
  make: (value: A) => B,
): Record<string, B> =>
  Object.fromEntries(Object.entries(record ?? {}).map(([key, value]) => [key, make(value)]))

/** The record from before where the new one holds the very same, so that what rests on it is not worked out again. */
export function sameOr<T>(
  before: Readonly<Record<string, T>> | undefined,
  now: Readonly<Record<string, T>>,
): Readonly<Record<string, T>> {
  const keys = Object.keys(now)
  const isSame =
    before !== undefined &&
    keys.length === Object.keys(before).length &&
    keys.every((key) => key in before && before[key] === now[key])
  return isSame ? before : now
}
