import { fitsNumber, isChannelMessage, numberOf, resolveChannel, withChannel, withNumber } from '../messages'
import type { RigEdit } from '../edits'
import type { Assignment, ChannelOrHome, Controller, Id, Message, Rig, Template } from '../types'
import { assignmentsOf, stackOfLayer } from '../places'

/** What happens to addresses when a layer is copied to others. */
export type CopyRule =
  | { kind: 'same' }
  | { kind: 'numbers'; plus: number }
  | { kind: 'channel'; channel: ChannelOrHome }
  /** The next run of numbers, with the same gaps, that nothing in the rig sends yet. */
  | { kind: 'free' }

export type LayerCopy = { ok: true; edits: RigEdit[] } | { ok: false; message: string }

const PAIR = 32
const RESERVED_CC = 120

/** The cells that a message takes, as channel, kind and number; a 14-bit controller takes two of plain CC. */
function cellsTaken(message: Message, controller: Controller): string[] {
  const number = numberOf(message)
  if (number === null || !isChannelMessage(message)) return []
  const channel = resolveChannel(message.channel, controller.homeChannel)
  if (message.kind === 'cc14') return [`${channel}:cc:${number}`, `${channel}:cc:${number + PAIR}`]
  return [`${channel}:${message.kind}:${number}`]
}

const isReserved = (message: Message): boolean =>
  message.kind === 'cc' && (numberOf(message) ?? 0) >= RESERVED_CC

function shifted(message: Message, by: number): Message | null {
  const number = numberOf(message)
  if (number === null) return message
  return fitsNumber(message.kind, number + by) ? withNumber(message, number + by) : null
}

/** Every message of a list moved by the least distance, upwards first, at which all of them are free. */
function movedToFree(
  messages: readonly Message[],
  controller: Controller,
  taken: ReadonlySet<string>,
): { by: number; cells: string[] } | null {
  const numbers = messages.flatMap((message) => numberOf(message) ?? [])
  if (numbers.length === 0) return { by: 0, cells: [] }
  const up = Array.from({ length: 128 }, (_, index) => index + 1)
  for (const by of [...up, ...up.map((step) => -step)]) {
    const moved = messages.map((message) => shifted(message, by))
    if (!moved.every((message) => message !== null && !isReserved(message))) continue
    const cells = moved.flatMap((message) => (message ? cellsTaken(message, controller) : []))
    if (cells.every((cell) => !taken.has(cell))) return { by, cells }
  }
  return null
}

function copied(message: Message, rule: CopyRule, times: number): Message {
  switch (rule.kind) {
    case 'same':
    case 'free':
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
 * n further on, the next twice n; a number that would leave its range stays as it is. With `free`,
 * each target gets the next run that nothing in the rig sends; refused if there are not enough.
 */
export function copyLayer(
  rig: Rig,
  controller: Controller,
  template: Template,
  from: Id,
  to: readonly Id[],
  rule: CopyRule,
): LayerCopy {
  const source = stackOfLayer(template, from)?.layers.find(({ id }) => id === from)
  if (!source) return { ok: true, edits: [] }
  const targets = to.filter((layer) => layer !== from)
  const write = (layer: Id, change: (message: Message) => Message): RigEdit => ({
    type: 'assignments',
    at: { controller: controller.id, template: template.id, layer },
    assignments: Object.fromEntries(
      Object.entries(source.assignments).map(([gesture, assignment]): [string, Assignment] => [
        gesture,
        { ...assignment, messages: assignment.messages.map(change) },
      ]),
    ),
  })
  if (rule.kind !== 'free') {
    return {
      ok: true,
      edits: targets.map((layer, index) => write(layer, (message) => copied(message, rule, index + 1))),
    }
  }
  const overwritten = new Set<string>(targets)
  const taken = new Set(
    rig.controllers.flatMap((other) =>
      [...assignmentsOf(other)].flatMap(({ place, assignment }) =>
        other.id === controller.id && place.template === template.id && overwritten.has(place.layer ?? '')
          ? []
          : assignment.messages.flatMap((message) => cellsTaken(message, other)),
      ),
    ),
  )
  const messages = Object.values(source.assignments).flatMap((assignment) => assignment.messages)
  const edits: RigEdit[] = []
  for (const layer of targets) {
    const found = movedToFree(messages, controller, taken)
    if (!found) {
      const free =
        edits.length === 0 ? 'No run of free numbers is' : `Only ${edits.length} runs of free numbers are`
      return {
        ok: false,
        message: `${free} left on the channel of ${source.name}. Copy it to another channel, or free some numbers first.`,
      }
    }
    for (const cell of found.cells) taken.add(cell)
    edits.push(write(layer, (message) => shifted(message, found.by) ?? message))
  }
  return { ok: true, edits }
}
