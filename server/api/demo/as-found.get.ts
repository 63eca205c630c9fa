import { nineRingsRig } from '#demo'
import { defineApi } from '../../lib/api'

export default defineApi(() => nineRingsRig('as-found'))
