/**
 * The value of before where the next one says the same: what is drawn from it is then left alone. For small plain
 * data, to be used in a computed that is given its last value.
 */
export const kept = <T>(before: T | undefined, next: T): T =>
  before !== undefined && JSON.stringify(before) === JSON.stringify(next) ? before : next
