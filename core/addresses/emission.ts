import type { Address, Channel, SentMessage } from '../midi'
import {
  assignmentsOf,
  channelOf,
  placeKey,
  placeRef,
  sentAddress,
  stackOfLayer,
  splitGestureKey,
  withChannel,
  controlsOf,
  memoOf,
  memoOfTwo,
  modelOf,
  type Assignment,
  type Controller,
  type GestureRef,
  type Message,
  type Model,
  type Place,
  type Rig,
} from '../rig'
import type { Bus } from './buses'
import { cellKey, cellsOf, type Cell } from './cells'
import { deliveryOf, type Arrival, type Delivery } from './delivery'
import type { Standing } from './live'

/** One message of one assignment, as it leaves its controller. */
export interface Sender {
  place: Place
  standing: Standing
  /** `placeKey` and message number: unique in the rig. */
  readonly key: string
  gesture: GestureRef
  messageIndex: number
  message: SentMessage
  /** The channel it goes out on; for messages without channel the home channel of its controller. */
  channel: Channel
  /** The home channel of its controller. */
  home: Channel
  /** Where it is sent, before any cable; null while a number is wanted. */
  readonly address: Address | null
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
  /** The controls that send nothing, as text to compare by. */
  silent: string
  senders: readonly Sender[]
}

const known = new WeakMap<Controller, Known>()

/** More messages than one controller can hold, so that orders of two controllers do not mix. */
const ORDER_STRIDE = 2 ** 24

const isSamePlace = (a: Place, b: Place): boolean =>
  a.gesture === b.gesture && a.layer === b.layer && a.template === b.template && a.controller === b.controller

/** The controls of a model that send nothing at all, being purely analog. */
const silentOnes = memoOf((model: Model) => {
  const ids = [...controlsOf(model).values()].flatMap(({ id, silent }) => (silent ? [id] : []))
  return { ids: new Set(ids), text: ids.join(' ') }
})

/**
 * The senders of a controller at its position in the rig; the same objects as long as it is the same. Where
 * `like` is given, those that it had before an edit, what the edit left alone is taken from there, so that
 * what is new can be told by comparing.
 */
export function sendersIn(
  rig: Rig,
  controller: Controller,
  position: number,
  like: readonly Sender[] = [],
): readonly Sender[] {
  const silent = silentOnes(modelOf(rig, controller))
  const before = known.get(controller)
  if (before?.position === position && before.silent === silent.text) return before.senders
  const senders: Sender[] = []
  const standings = new Map<string, Standing>()
  let standing: Standing | null = null
  for (const { place, assignment } of assignmentsOf(controller)) {
    if (silent.ids.size > 0 && silent.ids.has(splitGestureKey(place.gesture).control)) continue
    const here = standingAt(controller, place, standing, standings)
    standing = here
    const order = position * ORDER_STRIDE
    const isAsBefore = (old: Sender | undefined): old is Sender =>
      old?.assignment === assignment &&
      old.order === order + senders.length &&
      old.home === controller.homeChannel &&
      old.standing.stack === here.stack &&
      old.standing.over === here.over &&
      isSamePlace(old.place, place)
    const old = like[senders.length]
    if (isAsBefore(old)) {
      for (let same: Sender | undefined = old; isAsBefore(same); same = like[senders.length])
        senders.push(same)
      continue
    }
    assignment.messages.forEach((message, messageIndex) => {
      if (message.kind !== 'off')
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
  known.set(controller, { position, silent: silent.text, senders })
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

/** Every message of every controller in use, in the order of the rig. */
export function sendersOf(rig: Rig): Sender[] {
  const all: Sender[] = []
  rig.controllers.forEach((controller, position) => {
    if (controller.inUse) for (const sender of sendersIn(rig, controller, position)) all.push(sender)
  })
  return all
}

function standingOf(controller: Controller, { template: id, layer }: Place): Standing {
  const template = controller.templates.find((candidate) => candidate.id === id)
  const stack = template && layer !== null ? stackOfLayer(template, layer) : null
  const isOver = stack?.mode === 'lie-over'
  return {
    controller: controller.id,
    template: id,
    layer,
    stack: stack?.mode === 'replace' ? stack.id : null,
    over: isOver ? (stack.layers.find((each) => each.id === layer)?.assignments ?? null) : null,
  }
}

/** What most senders of a large rig are never asked, or not again, is worked out when it is asked for. */
class LazySender implements Sender {
  readonly gesture: GestureRef
  readonly channel: Channel
  readonly pinned: boolean
  #key: string | undefined
  #address: Address | null | undefined
  #cells: readonly Cell[] | undefined

  constructor(
    readonly place: Place,
    readonly standing: Standing,
    readonly home: Channel,
    readonly assignment: Assignment,
    readonly message: SentMessage,
    readonly messageIndex: number,
    readonly order: number,
  ) {
    this.gesture = placeRef(place)
    this.channel = channelOf(message, home) ?? home
    this.pinned = assignment.pinned
  }

  get key(): string {
    return (this.#key ??= `${placeKey(this.place)}#${this.messageIndex}`)
  }

  get address(): Address | null {
    if (this.#address === undefined) this.#address = sentAddress(this.message, this.home)
    return this.#address
  }

  get cells(): readonly Cell[] {
    return (this.#cells ??= distinct(cellsOf(this.message, this.channel)))
  }
}

/** A message of a sender as it goes out: its channel as a number. */
export const outgoing = ({ message, channel }: Sender): SentMessage => withChannel(message, channel)

/** What `message` would occupy at every destination it would reach if `controller` sent it. */
export function emissionCells(
  delivery: Delivery,
  controller: Pick<Controller, 'id' | 'homeChannel'>,
  message: Message,
): Array<{ bus: Bus; cells: Cell[] }> {
  const channel = channelOf(message, controller.homeChannel)
  if (channel === null || message.kind === 'off') return []
  const open = delivery.open.get(controller.id)
  if (open) {
    const cells = distinct(cellsOf(message, channel))
    return open
      .map((bus) => ({ bus, cells: bus.hearsAll ? cells : cells.filter(bus.hears) }))
      .filter((arrival) => arrival.cells.length > 0)
  }
  return delivery
    .arrivals(controller.id, withChannel(message, channel))
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

/** What arrives of a sender's message, at every bus it comes to; kept as long as the delivery is the same. */
export function arrivalsOf(delivery: Delivery, sender: Sender): readonly Arrival[] {
  const { controller } = sender.place
  return delivery.open.has(controller)
    ? delivery.arrivals(controller, outgoing(sender))
    : changedArrivals(delivery, sender)
}

// What cables change or stop takes longer to work out than to keep.
const changedArrivals = memoOfTwo((delivery: Delivery, sender: Sender) =>
  delivery.arrivals(sender.place.controller, outgoing(sender)),
)

const changedEmissions = memoOfTwo((delivery: Delivery, sender: Sender): readonly Emission[] =>
  changedArrivals(delivery, sender).flatMap(({ bus, messages }): Emission[] => {
    const cells = distinct(messages.flatMap((message) => cellsOf(message, sender.channel))).filter(bus.hears)
    return cells.length > 0 ? [{ sender, bus, cells }] : []
  }),
)

/** What a sender occupies at every destination it reaches. */
export function emissionsIn(delivery: Delivery, sender: Sender): readonly Emission[] {
  const open = delivery.open.get(sender.place.controller)
  if (!open) return changedEmissions(delivery, sender)
  const emissions: Emission[] = []
  for (const bus of open) {
    const cells = bus.hearsAll ? sender.cells : sender.cells.filter(bus.hears)
    if (cells.length > 0) emissions.push({ sender, bus, cells })
  }
  return emissions
}

/**
 * For every message of every controller in use, the cells it occupies at every destination it
 * reaches, after cables, boxes and their rules, rewrites included.
 */
export function emit(rig: Rig): Emission[] {
  const delivery = deliveryOf(rig)
  return sendersOf(rig).flatMap((sender) => emissionsIn(delivery, sender))
}
