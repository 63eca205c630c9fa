import { printTag, type Channel } from '../midi'
import {
  assignmentsOf,
  channelOf,
  placeKey,
  placeRef,
  sentAddress,
  stackOfLayer,
  withChannel,
  type Assignment,
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
  readonly key: string
  gesture: GestureRef
  messageIndex: number
  message: ChannelMessage
  channel: Channel
  /** The home channel of its controller. */
  home: Channel
  /** The sent address as a tag, or null while a number is wanted. */
  readonly tag: string | null
  /** The cells it occupies as it is sent, before any cable. */
  readonly cells: readonly Cell[]
  assignment: Assignment
  pinned: boolean
  /** Position in the rig, for a stable order. */
  order: number
}

/** Has it been left open which number it sends? */
export const isWanting = ({ message }: Sender): boolean =>
  ('number' in message && message.number === 'wanted') ||
  ('keys' in message && message.keys.kind === 'one' && message.keys.number === 'wanted')

/** The cells that a sender occupies at one destination. */
export interface Emission {
  sender: Sender
  bus: Bus
  cells: readonly Cell[]
}

interface Known {
  position: number
  senders: readonly Sender[]
}

const known = new WeakMap<Controller, Known>()

/** More messages than one controller can hold, so that orders of two controllers do not mix. */
const ORDER_STRIDE = 2 ** 24

const isSamePlace = (a: Place, b: Place): boolean =>
  a.gesture === b.gesture && a.layer === b.layer && a.template === b.template && a.controller === b.controller

/**
 * The senders of a controller at its position in the rig; the same objects as long as it is the same. Where
 * `like` is given, those that it had before an edit, what the edit left alone is taken from there, so that
 * what is new can be told by comparing.
 */
export function sendersIn(
  controller: Controller,
  position: number,
  like: readonly Sender[] = [],
): readonly Sender[] {
  const before = known.get(controller)
  if (before?.position === position) return before.senders
  const senders: Sender[] = []
  const standings = new Map<string, Standing>()
  let standing: Standing | null = null
  for (const { place, assignment } of assignmentsOf(controller)) {
    const here = standingAt(controller, place, standing, standings)
    standing = here
    const order = position * ORDER_STRIDE
    const isAsBefore = (old: Sender | undefined): old is Sender =>
      old?.assignment === assignment &&
      old.order === order + senders.length &&
      old.home === controller.homeChannel &&
      old.standing.stack === here.stack &&
      isSamePlace(old.place, place)
    const old = like[senders.length]
    if (isAsBefore(old)) {
      for (let same: Sender | undefined = old; isAsBefore(same); same = like[senders.length])
        senders.push(same)
      continue
    }
    assignment.messages.forEach((message, messageIndex) => {
      if (isChannelMessage(message))
        senders.push(
          new LazySender(
            place,
            here,
            controller.homeChannel,
            assignment,
            message,
            messageIndex,
            order + senders.length,
          ),
        )
    })
  }
  known.set(controller, { position, senders })
  return senders
}

/** The standing of a place: the last one if it is the same, else one of those known, else a new one. */
function standingAt(
  controller: Controller,
  place: Place,
  last: Standing | null,
  standings: Map<string, Standing>,
): Standing {
  if (last?.template === place.template && last.layer === place.layer) return last
  const key = `${place.template}/${place.layer ?? ''}`
  const found = standings.get(key) ?? standingOf(controller, place)
  standings.set(key, found)
  return found
}

/** Every message of every controller in use that travels on a channel, in the order of the rig. */
export function sendersOf(rig: Rig): Sender[] {
  const all: Sender[] = []
  rig.controllers.forEach((controller, position) => {
    if (controller.inUse) for (const sender of sendersIn(controller, position)) all.push(sender)
  })
  return all
}

function standingOf(controller: Controller, { template: id, layer }: Place): Standing {
  const template = controller.templates.find((candidate) => candidate.id === id)
  const stack = template && layer !== null ? stackOfLayer(template, layer) : null
  return {
    controller: controller.id,
    template: id,
    layer,
    stack: stack?.mode === 'replace' ? stack.id : null,
  }
}

/** What most senders of a large rig are never asked, or not again, is worked out when it is asked for. */
class LazySender implements Sender {
  readonly gesture: GestureRef
  readonly channel: Channel
  readonly pinned: boolean
  #tag: string | null | undefined
  #cells: readonly Cell[] | undefined

  constructor(
    readonly place: Place,
    readonly standing: Standing,
    readonly home: Channel,
    readonly assignment: Assignment,
    readonly message: ChannelMessage,
    readonly messageIndex: number,
    readonly order: number,
  ) {
    this.gesture = placeRef(place)
    this.channel = channelOf(message, home) ?? home
    this.pinned = assignment.pinned
  }

  get key(): string {
    return `${placeKey(this.place)}#${this.messageIndex}`
  }

  get tag(): string | null {
    if (this.#tag === undefined) {
      const address = sentAddress(this.message, this.home)
      this.#tag = address === null ? null : printTag(address)
    }
    return this.#tag
  }

  get cells(): readonly Cell[] {
    return (this.#cells ??= distinct(cellsOf(this.message, this.channel)))
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
  const open = reach.open.get(controller.id)
  if (open) {
    const cells = distinct(cellsOf(message, channel))
    return open
      .map((bus) => ({ bus, cells: bus.hearsAll ? cells : cells.filter(bus.hears) }))
      .filter((arrival) => arrival.cells.length > 0)
  }
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

/** Answers, for one sender, what it occupies at every destination it reaches. */
export function emitter(rig: Rig, reach: Reach): (sender: Sender) => readonly Emission[] {
  const controllers = new Map(rig.controllers.map((controller) => [controller.id, controller]))
  // What cables change or stop takes longer to work out than to keep.
  const kept = new WeakMap<Sender, readonly Emission[]>()
  const carriedFrom = (sender: Sender): readonly Emission[] => {
    const before = kept.get(sender)
    if (before) return before
    const controller = controllers.get(sender.place.controller)
    const found = controller
      ? emissionCells(reach, controller, sender.message).map((arrival) => ({ sender, ...arrival }))
      : []
    kept.set(sender, found)
    return found
  }
  return (sender) => {
    const open = reach.open.get(sender.place.controller)
    if (!open) return carriedFrom(sender)
    const emissions: Emission[] = []
    for (const bus of open) {
      const cells = bus.hearsAll ? sender.cells : sender.cells.filter(bus.hears)
      if (cells.length > 0) emissions.push({ sender, bus, cells })
    }
    return emissions
  }
}

/**
 * For every message of every controller in use, the cells it occupies at every destination it
 * reaches, after cables, boxes and their rules, rewrites included.
 */
export function emit(rig: Rig, buses = busesOf(rig), reach = reachOf(rig, buses)): Emission[] {
  return sendersOf(rig).flatMap(emitter(rig, reach))
}
