import * as z from 'zod/mini'
import { problemsOf, type PathStep, type Problem } from './problems'

/** How much is read of a document before it is refused. */
export const MOST_PROBLEMS = 20
/** No field that is not a list of its own holds more values than this. */
const MOST_VALUES = 20_000
/** What holds no more is read at once, which is quicker. */
const FEW_VALUES = 500
/** Zod passes over this name in silence. */
const FORBIDDEN = '__proto__'

export type BoundedResult<T> = { ok: true; value: T } | { ok: false; problems: Problem[] }

type Schema = z.core.$ZodType

/** So many entries are read between two reports. */
const REPORT_EVERY = 2000

/** Told how much of a document has been read, 0–1. */
export type OnRead = (done: number) => void

/** How many lists, tables and single things a value holds. */
function countOf(value: unknown): number {
  let count = 1
  const open: unknown[] = [value]
  while (open.length > 0) {
    const each = open.pop()
    if (typeof each !== 'object' || each === null) continue
    for (const one of Object.values(each)) {
      count++
      if (typeof one === 'object' && one !== null) open.push(one)
    }
  }
  return count
}

const isPlain = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

interface Extent {
  size: 'few' | 'more' | 'too-many' | 'forbidden'
  count: number
}

/** How much a value holds within it: few values, more, or more than belongs in one field; or a name that no object can hold. */
function extentOf(value: unknown): Extent {
  let count = 0
  const open: unknown[] = [value]
  while (open.length > 0) {
    const each = open.pop()
    if (typeof each !== 'object' || each === null) continue
    if (!Array.isArray(each) && Object.hasOwn(each, FORBIDDEN)) return { size: 'forbidden', count }
    const inside = Array.isArray(each) ? each : Object.values(each)
    count += inside.length
    if (count > MOST_VALUES) return { size: 'too-many', count }
    for (const one of inside) if (typeof one === 'object' && one !== null) open.push(one)
  }
  return { size: count > FEW_VALUES ? 'more' : 'few', count }
}

/** The bounds on the length of a list, and whether something else is asked of it too. */
function boundsOf(schema: Schema): { least: number; most: number; isOnlyLength: boolean } {
  const bounds = { least: 0, most: MOST_VALUES, isOnlyLength: true }
  for (const { _zod } of schema._zod.def.checks ?? []) {
    const def = _zod.def as unknown as z.core.$ZodChecks['_zod']['def']
    if (def.check === 'min_length') bounds.least = def.minimum
    else if (def.check === 'max_length') bounds.most = def.maximum
    else bounds.isOnlyLength = false
  }
  return bounds
}

/**
 * Read a value by a schema as `safeParse` does, but lists and tables entry by entry: the length of a list counts before its
 * entries are looked at, and after `MOST_PROBLEMS` problems nothing more is. So what is refused is refused soon, however
 * large it is.
 *
 * @param mostEntries How many entries a table may have.
 * @param onRead Told now and then how far it is.
 */
export function readWithin<T>(
  schema: z.ZodMiniType<T>,
  value: unknown,
  mostEntries: number,
  onRead: OnRead | null = null,
): BoundedResult<T> {
  const problems: Problem[] = []
  const all = onRead ? countOf(value) : 0
  let done = 0
  let told = 0
  const count = (entries: number): void => {
    done += entries
    if (!onRead || done - told < REPORT_EVERY) return
    told = done
    onRead(Math.min(1, done / all))
  }
  const report = (error: z.core.$ZodError, path: readonly PathStep[]): void => {
    problems.push(...problemsOf(error, MOST_PROBLEMS - problems.length, path))
  }
  const custom = (path: readonly PathStep[], message: string, input: unknown): undefined => {
    report(new z.core.$ZodError([{ code: 'custom', path: [], message, input }]), path)
    return undefined
  }
  const isFull = (): boolean => problems.length >= MOST_PROBLEMS

  function leaf(own: Schema, input: unknown, path: readonly PathStep[], extent = extentOf(input)): unknown {
    count(extent.count + 1)
    if (extent.size === 'too-many')
      return custom(path, 'is far larger than anything that belongs here', input)
    if (extent.size === 'forbidden')
      return custom(path, `has an entry that is not allowed: “${FORBIDDEN}”`, input)
    const read = z.safeParse(own, input, { reportInput: true })
    if (read.success) return read.data
    report(read.error, path)
    return undefined
  }

  function walk(own: Schema, input: unknown, path: readonly PathStep[]): unknown {
    if (isFull()) return undefined
    const extent = extentOf(input)
    if (extent.size === 'few') return leaf(own, input, path, extent)
    const { def } = own._zod as { def: z.core.$ZodTypes['_zod']['def'] }
    switch (def.type) {
      case 'default':
      case 'prefault':
      case 'optional':
        return input === undefined ? leaf(own, input, path) : walk(def.innerType, input, path)
      case 'nullable':
        return input === null ? null : walk(def.innerType, input, path)
      case 'object':
        return isPlain(input) && (def.checks ?? []).length === 0
          ? fields(def, input, path)
          : leaf(own, input, path)
      case 'array':
        return Array.isArray(input) ? entries(own, def.element, input, path) : leaf(own, input, path)
      case 'record':
        return isPlain(input) && (def.checks ?? []).length === 0
          ? table(own, def, input, path)
          : leaf(own, input, path)
      default:
        return leaf(own, input, path)
    }
  }

  function fields(
    { shape, catchall }: z.core.$ZodObjectDef,
    input: Record<string, unknown>,
    path: readonly PathStep[],
  ): unknown {
    const found: Record<string, unknown> = {}
    for (const [key, own] of Object.entries(shape)) {
      const value = walk(own, input[key], [...path, key])
      if (value !== undefined || key in input) found[key] = value
    }
    if (catchall?._zod.def.type === 'never') {
      const keys = Object.keys(input).filter((key) => !Object.hasOwn(shape, key))
      if (keys.length > 0)
        report(
          new z.core.$ZodError([{ code: 'unrecognized_keys', path: [], message: '', keys, input }]),
          path,
        )
    }
    return found
  }

  function entries(
    own: Schema,
    element: Schema,
    input: readonly unknown[],
    path: readonly PathStep[],
  ): unknown {
    const { least, most, isOnlyLength } = boundsOf(own)
    if (input.length > most) {
      const tooBig = { code: 'too_big', origin: 'array', maximum: most, inclusive: true } as const
      report(new z.core.$ZodError([{ ...tooBig, path: [], message: '', input }]), path)
      return undefined
    }
    if (!isOnlyLength || input.length < least) return leaf(own, input, path)
    const found: unknown[] = []
    for (const [index, each] of input.entries()) {
      if (isFull()) break
      found.push(walk(element, each, [...path, index]))
    }
    return found
  }

  function table(
    own: Schema,
    { keyType, valueType }: z.core.$ZodRecordDef,
    input: Record<string, unknown>,
    path: readonly PathStep[],
  ): unknown {
    const keys = Object.keys(input)
    if (keys.length > mostEntries)
      return custom(path, `has ${keys.length} entries; ${mostEntries} at most`, input)
    const found: Record<string, unknown> = {}
    for (const key of keys) {
      if (isFull()) break
      if (key === FORBIDDEN) custom(path, `has an entry that is not allowed: “${FORBIDDEN}”`, key)
      else if (z.safeParse(keyType, key).success) found[key] = walk(valueType, input[key], [...path, key])
      else leaf(own, { [key]: input[key] }, path)
    }
    return found
  }

  const read = walk(schema, value, [])
  return problems.length > 0 ? { ok: false, problems } : { ok: true, value: read as T }
}
