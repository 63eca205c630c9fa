import { deliveryOf, lossOf, waysTo, type Bus, type FlowEdge, type Loss } from '../../addresses'
import { lossWords, portWords } from '../../conflicts/words'
import type { SentMessage } from '../../midi'
import type { Controller, Destination } from '../../rig'
import { pass, lose, tagsOf, type Walk } from './walk'

/** The stations of one way along cables, boxes and computers. */
function along(walk: Walk, sent: SentMessage, way: readonly FlowEdge[]): void {
  const { rig } = walk
  let now = sent
  for (const { cable, to } of way) {
    if (cable) {
      const isChanged = to.message !== now
      const how = isChanged ? `changes it to ${tagsOf(to.message)}` : 'as it is'
      pass(walk, 'cable', `${portWords(rig, cable.from)} → ${portWords(rig, cable.to)}`, how)
    } else pass(walk, 'port', portWords(rig, to.port), 'opened by the program')
    now = to.message
  }
}

/** What to do about a message that is lost on its way. */
function lossCure(loss: Loss): string {
  switch (loss.kind) {
    case 'no-cable':
      return 'Draw a cable in Rig.'
    case 'stopped':
      return 'Let the cable pass it: its rules are in Rig.'
    case 'port-held':
      return 'Let the other program go of the port, or share it.'
    case 'not-heard':
      return `Send on a channel that ${loss.by.name} hears, or let it hear this one.`
    case 'kept':
      return `Move the control to another number, or take the claim away from ${loss.by.name}.`
  }
}

/** What arrives at one bus of a destination. */
export interface Arrival {
  bus: Bus
  message: SentMessage
}

/** From the out of a controller to what a destination hears; null where nothing of it does. */
export function delivered(
  walk: Walk,
  controller: Controller,
  message: SentMessage,
  destination: Destination,
): Arrival[] | null {
  const { rig } = walk
  const delivery = deliveryOf(rig)
  const isThere = (bus: Bus): boolean => bus.destination === destination.id
  const loss = lossOf(rig, controller, message, destination.id)
  const [flow] = delivery
    .flows(controller.id, message)
    .map(({ starts, message: leaving }) => ({
      leaving,
      way: waysTo(starts, ({ port }) => delivery.busesAt(port).some(isThere), destination.id)[0],
    }))
    .filter(({ way }) => way !== undefined)
  if (flow?.way) along(walk, flow.leaving, flow.way)
  if (loss) {
    const why = lossWords(rig, controller.id, destination.id, loss)
    if (loss.kind === 'stopped')
      pass(walk, 'cable', `${portWords(rig, loss.cable.from)} → ${portWords(rig, loss.cable.to)}`, 'stops it')
    else if (loss.kind === 'not-heard' || loss.kind === 'kept')
      pass(walk, 'destination', loss.by.name, 'does not take it')
    else pass(walk, 'port', destination.name, 'is not reached')
    return lose(walk, `${why.slice(0, 1).toUpperCase()}${why.slice(1)}.`, lossCure(loss))
  }
  const arrivals = delivery
    .arrivals(controller.id, message)
    .filter(({ bus }) => isThere(bus))
    .flatMap(({ bus, messages }) => messages.map((each): Arrival => ({ bus, message: each })))
  const heard = arrivals.map(({ message: each }) => tagsOf(each)).join(', ')
  pass(walk, 'destination', destination.name, `hears ${heard}`)
  return arrivals
}
