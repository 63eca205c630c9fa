import { printTag, type Channel } from '../midi'
import {
  assignmentsOf,
  channelOf,
  placeKey,
  placeRef,
  sentAddress,
  stackOfLayer,
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
import type { Standing } from './live'
import { reachOf, type Reach } from './routes'

/** One message of one assignment, as it leaves its controller. */
export interface Sender {
  place: Place
  standing: Standing
  /** `placeKey` and message number: unique in the rig. */
  key: string
  gesture: GestureRef
  messageIndex: number
  message: ChannelMessage
  channel: Channel
  /** The sent address as a tag, or null while a number is wanted. */
  readonly tag: string | null
  /** The cells it occupies as it is sent, before any cable. */
  readonly cells: readonly Cell[]
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

const known = new WeakMap<Controller, { position: number; senders: readonly Sender[] }>()

/** More messages than one controller can hold, so that orders of two controllers do not mix. */
const ORDER_STRIDE = 2 ** 24

/** The senders of one controller; the same as before as long as neither it nor its position changes. */
function sendersIn(controller: Controller, position: number): readonly Sender[] {
  const before = known.get(controller)
  if (before?.position === position) return before.senders
  const senders: Sender[] = []
  const standings = new Map<string, Standing>()
  let standing: Standing | null = null
  for (const { place, assignment } of assignmentsOf(controller)) {
    if (standing?.template !== place.template || standing.layer !== place.layer) {
      const key: string = `${place.template}/${place.layer ?? ''}`
      standing = standings.get(key) ?? standingOf(controller, place)
      standings.set(key, standing)
    }
    const stands = standing
    assignment.messages.forEach((message, messageIndex) => {
      if (!isChannelMessage(message)) return
      const order = position * ORDER_STRIDE + senders.length
      senders.push(makeSender(controller, place, stands, message, messageIndex, assignment.pinned, order))
    })
  }
  known.set(controller, { position, senders })
  return senders
}

/** Every message of every controller in use that travels on a channel, in the order of the rig. */
export const sendersOf = (rig: Rig): Sender[] =>
  rig.controllers.flatMap((controller, position) => (controller.inUse ? sendersIn(controller, position) : []))

function standingOf(controller: Controller, { template: id, layer }: Place): Standing {
  const template = controller.templates.find((candidate) => candidate.id === id)
  const stack = template && layer !== null ? stackOfLayer(template, layer) : null
  return { controller: controller.id, template: id, layer, stack: stack?.mode === 'replace' ? stack : null }
}

function makeSender(
  controller: Controller,
  place: Place,
  standing: Standing,
  message: ChannelMessage,
  messageIndex: number,
  pinned: boolean,
  order: number,
): Sender {
  const { homeChannel } = controller
  const channel = channelOf(message, homeChannel) ?? homeChannel
  // In a large rig most tags and cells are never looked at, or not again.
  let tag: string | null | undefined
  let cells: readonly Cell[] | undefined
  return {
    place,
    standing,
    key: `${placeKey(place)}#${messageIndex}`,
    gesture: placeRef(place),
    messageIndex,
    message,
    channel,
    get tag() {
      if (tag === undefined) {
        const address = sentAddress(message, homeChannel)
        tag = address === null ? null : printTag(address)
      }
      return tag
    },
    get cells() {
      cells ??= distinct(cellsOf(message, channel))
      return cells
    },
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
  return reach
    .arrivals(controller.id, sent)
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
export function emit(
  rig: Rig,
  buses = busesOf(rig),
  reach = reachOf(rig, buses),
  senders = sendersOf(rig),
): Emission[] {
  const controllers = new Map(rig.controllers.map((controller) => [controller.id, controller]))
  const emissions: Emission[] = []
  for (const sender of senders) {
    const { controller: id } = sender.place
    const open = reach.open.get(id)
    if (open) {
      for (const bus of open) {
        const cells = bus.hearsAll ? sender.cells : sender.cells.filter(bus.hears)
        if (cells.length > 0) emissions.push({ sender, bus, cells })
      }
      continue
    }
    const controller = controllers.get(id)
    if (!controller) continue
    for (const arrival of emissionCells(reach, controller, sender.message))
      emissions.push({ sender, ...arrival })
  }
  return emissions
}
