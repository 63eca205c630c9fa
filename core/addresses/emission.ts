import { printTag, type Channel } from '../midi'
import {
  assignmentsOf,
  channelOf,
  placeKey,
  placeRef,
  sentAddress,
  withChannel,
  type ChannelMessage,
  type Controller,
  type GestureRef,
  type Message,
  type Place,
  type Rig,
  isChannelMessage,
} from '../rig'
import { busesOf, type Bus } from './buses'
import { cellKey, cellsOf, type Cell } from './cells'
import { reachOf, type Reach } from './routes'

/** One message of one assignment, as it leaves its controller. */
export interface Sender {
  place: Place
  /** `placeKey` and message number: unique in the rig. */
  key: string
  gesture: GestureRef
  messageIndex: number
  message: ChannelMessage
  channel: Channel
  /** The sent address as a tag, or null while a number is wanted. */
  tag: string | null
  pinned: boolean
  /** Position in the rig, for a stable order. */
  order: number
}

/** The cells that a sender occupies at one destination. */
export interface Emission {
  sender: Sender
  bus: Bus
  cells: readonly Cell[]
}

/** Every message of every controller in use that travels on a channel, in the order of the rig. */
export function sendersOf(rig: Rig): Sender[] {
  const senders: Sender[] = []
  for (const controller of rig.controllers) {
    if (controller.inUse) addSenders(controller, senders)
  }
  return senders
}

function addSenders(controller: Controller, senders: Sender[]): void {
  for (const { place, assignment } of assignmentsOf(controller)) {
    assignment.messages.forEach((message, messageIndex) => {
      if (!isChannelMessage(message)) return
      senders.push(makeSender(controller, place, message, messageIndex, assignment.pinned, senders.length))
    })
  }
}

function makeSender(
  controller: Controller,
  place: Place,
  message: ChannelMessage,
  messageIndex: number,
  pinned: boolean,
  order: number,
): Sender {
  const address = sentAddress(message, controller.homeChannel)
  return {
    place,
    key: `${placeKey(place)}#${messageIndex}`,
    gesture: placeRef(place),
    messageIndex,
    message,
    channel: channelOf(message, controller.homeChannel) ?? controller.homeChannel,
    tag: address === null ? null : printTag(address),
    pinned,
    order,
  }
}

/** What `message` would occupy at every destination it would reach if `controller` sent it. */
export function emissionCells(
  reach: Reach,
  controller: Pick<Controller, 'id' | 'homeChannel'>,
  message: Message,
): Array<{ bus: Bus; cells: Cell[] }> {
  const channel = channelOf(message, controller.homeChannel)
  if (channel === null) return []
  const sent = withChannel(message, channel)
  return reach(controller.id, sent)
    .map(({ bus, messages }) => ({
      bus,
      cells: distinct(messages.flatMap((arrived) => cellsOf(arrived, channel))).filter(bus.hears),
    }))
    .filter((arrival) => arrival.cells.length > 0)
}

/** Cells each once: two ways to one destination do not make two of one. */
function distinct(cells: Cell[]): Cell[] {
  if (cells.length < 2) return cells
  const seen = new Set<string>()
  return cells.filter((cell) => {
    const key = `${cellKey(cell)} ${cell.role} ${cell.part}`
    return !seen.has(key) && seen.add(key)
  })
}

/**
 * For every message of every controller in use, the cells it occupies at every destination it
 * reaches, after cables, boxes and their rules, rewrites included.
 */
export function emit(rig: Rig, buses = busesOf(rig), reach = reachOf(rig, buses)): Emission[] {
  const controllers = new Map(rig.controllers.map((controller) => [controller.id, controller]))
  return sendersOf(rig).flatMap((sender) => {
    const controller = controllers.get(sender.place.controller)
    if (!controller) return []
    return emissionCells(reach, controller, sender.message).map((arrival) => ({ sender, ...arrival }))
  })
}
