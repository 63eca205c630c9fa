import type { Theory } from '../types'
import { list } from './list'
import { momentary } from './momentary'
import { relativeIn } from './relative'
import { swept } from './swept'
import { toggle } from './toggle'
import { trigger } from './trigger'

/** How what says values may work: one file each, and one line here. */
export const VALUE_THEORIES: readonly Theory[] = [
  swept,
  momentary,
  toggle,
  trigger,
  list,
  relativeIn('twos-complement'),
  relativeIn('offset-binary'),
  relativeIn('sign-magnitude'),
]
/** The same of programs, which have no clicks. */
export const PROGRAM_THEORIES: readonly Theory[] = [swept, momentary, toggle, trigger, list]
/** The same of what is struck: it begins and ends. */
export const STRUCK_THEORIES: readonly Theory[] = [momentary, toggle, trigger]
