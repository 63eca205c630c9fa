import { rigJsonSchema } from '#core/rig'
import { defineApi } from '../lib/api'

export default defineApi(() => rigJsonSchema())
