import type { Message, Moment } from '../midi'
import type { Assignment, LightRole } from './types'

/** When a message is sent, where that is not as the control moves. */
export const MOMENT_WORDS: Readonly<Record<Moment, string>> = {
  move: '',
  press: 'pressed',
  release: 'let go',
  'long-press': 'held long',
  'double-press': 'pressed twice',
  'layer-shown': 'when the layer shows',
}

/** How finely a message tells values apart: “14 bit”, “5 steps”. */
export function resolutionWords(message: Message): string {
  if ('resolution' in message && message.resolution.kind === 'steps')
    return `${message.resolution.count} steps`
  switch (message.kind) {
    case 'cc14':
    case 'pitchBend':
      return '14 bit'
    case 'nrpn':
    case 'rpn':
      return message.steps === 'increments' ? 'clicks' : message.sendsLsb ? '14 bit' : '7 bit'
    case 'cc':
      return message.behaviour.kind === 'absolute' ? '7 bit' : ''
    default:
      return ''
  }
}

/** What a light says, in words: its role with its letter, and who sets it. */
export function lightWords(roles: readonly LightRole[], { light }: Pick<Assignment, 'light'>): string {
  const role = light && roles.find(({ id }) => id === light.role)
  if (!light || !role) return ''
  const by = {
    press: 'as pressed',
    feedback: 'as sent back',
    'one-of-many': light.setBy.kind === 'one-of-many' ? `one of ${light.setBy.group}` : '',
    steady: light.setBy.kind === 'steady' ? `always ${light.setBy.state}` : '',
  }[light.setBy.kind]
  return `${role.letter} ${role.name}, ${by}`
}
