import { RIG_VERSION } from './schema'

type Document = Record<string, unknown>

/**
 * Steps from one version of the format to the next: the entry for n turns a document of version n
 * into one of version n + 1. To change the format: raise RIG_VERSION, add the step here, and keep a
 * file of the old version among the tests.
 */
const STEPS: Readonly<Record<number, (document: Document) => Document>> = {}

/** Bring a document of an older version up to `target`, step by step. Throws a RangeError where a step is missing. */
export function migrate(
  document: Document,
  target: number = RIG_VERSION,
  steps: Readonly<Record<number, (document: Document) => Document>> = STEPS,
): Document {
  let current = document
  while (typeof current.version === 'number' && current.version < target) {
    const version = current.version
    const step = steps[version]
    if (!step) throw new RangeError(`No way is known from version ${version} of the format.`)
    current = { ...step(current), version: version + 1 }
  }
  return current
}
