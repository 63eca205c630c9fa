import type { Address } from './addresses'
import { printTag } from './tags'

const isAddress = (value: unknown): value is Address =>
  typeof value === 'object' &&
  value !== null &&
  'scope' in value &&
  'target' in value &&
  (value.scope === 'channel' || value.scope === 'system') &&
  typeof value.target === 'object'

/** JSON text of plain data in which addresses are written as tags: for files and routes. `space` as in JSON.stringify. */
export const toJson = (value: unknown, space?: number): string =>
  JSON.stringify(value, (_, each: unknown) => (isAddress(each) ? printTag(each) : each), space)
