import { fromVersion1 } from './migrations/from-1'
import { fromVersion3 } from './migrations/from-3'
import { RIG_VERSION } from './schema/version'

/** A rig as JSON holds it, of any version, not yet checked. */
export type RigDocument = Record<string, unknown>

/**
 * Steps from one version of the format to the next: the entry for n turns a document of version n
 * into one of version n + 1. To change the format: raise RIG_VERSION, add the step here, and keep a
 * file of the old version among the tests.
 */
const STEPS: Readonly<Record<number, (document: RigDocument) => RigDocument>> = {
  1: fromVersion1,
  // Version 3 adds the key of a mapping, which older files do not have: nothing is to be changed.
  2: (document) => document,
  3: fromVersion3,
  // Version 5 adds the checklist, which older files do not have: nothing is to be changed.
  4: (document) => document,
  // Version 6 adds what was proven: rehearsal, line checks, when slots were stored, and what they held before.
  5: (document) => document,
  // Version 7 adds how a recipe asks the hardware for what it holds: nothing is to be changed.
  6: (document) => document,
}

/** Bring a document of an older version up to `target`, step by step. Throws a RangeError where a step is missing. */
export function migrate(
  document: RigDocument,
  target: number = RIG_VERSION,
  steps: Readonly<Record<number, (document: RigDocument) => RigDocument>> = STEPS,
): RigDocument {
  let current = document
  while (typeof current.version === 'number' && current.version < target) {
    const version = current.version
    const step = steps[version]
    if (!step) throw new RangeError(`No way is known from version ${version} of the format.`)
    current = { ...step(current), version: version + 1 }
  }
  return current
}
