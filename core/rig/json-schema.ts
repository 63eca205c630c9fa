import { toJSONSchema } from 'zod/mini'
import { RIG_VERSION, RigSchema } from './schema'

/**
 * The rig format as JSON Schema (draft 2020-12), for files as they may be written: fields with a
 * default may be left out. References between ids are beyond it; `parseRig` checks those too.
 */
export const rigJsonSchema = (): Record<string, unknown> => ({
  title: `Deft Lattice rig, format version ${RIG_VERSION}`,
  ...toJSONSchema(RigSchema, { io: 'input', target: 'draft-2020-12' }),
})
