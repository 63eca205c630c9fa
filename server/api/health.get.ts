import { RIG_VERSION } from '#core/rig'
import { defineApi } from '../lib/api'

export default defineApi(() => ({ status: 'ok', format: RIG_VERSION }))
