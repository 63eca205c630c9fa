import type { Check } from '../told'
import { ends } from './ends'
import { idle } from './idle'
import { late } from './late'
import { light } from './light'
import { lost } from './lost'
import { others } from './others'
import { takeover } from './takeover'

/** Everything that is asked of one gesture in one scene. To ask more: write its file, and name it here. */
export const CHECKS: readonly Check[] = [ends, others, idle, light, takeover, late, lost]
