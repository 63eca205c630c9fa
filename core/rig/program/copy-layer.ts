import { fitsNumber, isChannelMessage, numberOf, withChannel, withNumber } from '../messages'
import type { RigEdit } from '../edits'
import type { Assignment, ChannelOrHome, Id, Message, Template } from '../types'
import { stackOfLayer } from '../places'

/** What happens to addresses when a layer is copied to others. */
export type CopyRule =
  { kind: 'same' } | { kind: 'numbers'; plus: number } | { kind: 'channel'; channel: ChannelOrHome }

function copied(message: Message, rule: CopyRule, times: number): Message {
  switch (rule.kind) {
    case 'same':
      return message
    case 'channel':
      return isChannelMessage(message) ? withChannel(message, rule.channel) : message
    case 'numbers': {
      const number = numberOf(message)
      const next = number === null ? null : number + rule.plus * times
      return next === null || !fitsNumber(message.kind, next) ? message : withNumber(message, next)
    }
  }
}

/**
 * Edits that copy what a layer sends to other layers of its stack. With `numbers`, the first target is
 * n further on, the next twice n; a number that would leave its range stays as it is.
 */
export function copyLayer(
  controller: Id,
  template: Template,
  from: Id,
  to: readonly Id[],
  rule: CopyRule,
): RigEdit[] {
  const source = stackOfLayer(template, from)?.layers.find(({ id }) => id === from)
  if (!source) return []
  return to
    .filter((layer) => layer !== from)
    .map((layer, index): RigEdit => ({
      type: 'assignments',
      at: { controller, template: template.id, layer },
      assignments: Object.fromEntries(
        Object.entries(source.assignments).map(([gesture, assignment]): [string, Assignment] => [
          gesture,
          { ...assignment, messages: assignment.messages.map((message) => copied(message, rule, index + 1)) },
        ]),
      ),
    }))
}
