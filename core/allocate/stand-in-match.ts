import { printTag } from '../midi'
import { sendersIn, type Sender } from '../addresses'
import type { CheckContext } from '../conflicts'
import { purposesOf } from '../mappings'
import {
  abilityReason,
  assignmentsAt,
  assignmentsOfGesture,
  controlsOf,
  freshMessage,
  gestureRef,
  kindReason,
  modelOf,
  placeKey,
  readingOrder,
  resolveChannel,
  sentAddress,
  splitGestureKey,
  splitGestureRef,
  withAddress,
  type Control,
  type Controller,
  type ControlKind,
  type GestureKey,
  type GestureKind,
  type LearnedAddress,
  type Mapping,
  type Message,
  type Place,
  type Rig,
} from '../rig'
import { whyFixed } from './movable'
import type { AllocateRequest } from './request'
import { assign } from './solver/assign'

/** What destinations learned of one gesture at one address. */
export interface Wanted {
  control: Control
  gesture: GestureKind
  address: LearnedAddress
  mappings: readonly Mapping[]
  /** What the missing controller sends there; null if it sends something else by now. */
  message: Message | null
  /** Where the control lies among all in reading order, from 0 to 1. */
  along: number
}

/** A gesture of the borrowed controller, in one layer, that may be given something else to send. */
export interface Partner {
  place: Place
  control: Control
  gesture: GestureKind
  /** What it sends now; null if nothing. */
  sender: Sender | null
  /** So many learned mappings hear it now. */
  serves: number
  along: number
}

/** Who takes over what, with what it is to send. */
export interface Pair {
  wanted: Wanted
  partner: Partner
  message: Message
}

/** What a hand does: only what is done alike can stand in for each other. */
type Motion = 'move' | 'press' | 'touch' | 'press hard'
const MOTION: Readonly<Record<GestureKind, Motion>> = {
  turn: 'move',
  slide: 'move',
  x: 'move',
  y: 'move',
  tilt: 'move',
  push: 'press',
  press: 'press',
  strike: 'press',
  touch: 'touch',
  pressure: 'press hard',
}

/** Controls that are held alike; the further apart, the less one is like another. */
const ALIKE: ReadonlyArray<readonly ControlKind[]> = [
  ['knob', 'encoder', 'fader'],
  ['button', 'pad', 'footswitch'],
]
const FAR_ALIKE: ReadonlyArray<readonly ControlKind[]> = [
  ['knob', 'encoder', 'fader', 'wheel', 'ribbon', 'pedal'],
  ['button', 'pad', 'footswitch', 'encoder'],
]

/** 0 for the same kind, 1 for alike, 2 for alike at a distance, null for what cannot stand in. */
function unlikeness(a: Control, b: Control, own: GestureKind, other: GestureKind): number | null {
  if (MOTION[own] !== MOTION[other]) return null
  const both = (kinds: readonly ControlKind[]): boolean => kinds.includes(a.kind) && kinds.includes(b.kind)
  if (a.kind === b.kind) return own === other ? 0 : 1
  if (ALIKE.some(both)) return 1
  return FAR_ALIKE.some(both) ? 2 : null
}

function placesAlong(controls: readonly Control[]): ReadonlyMap<string, number> {
  const sorted = readingOrder([...controls])
  return new Map(sorted.map(({ id }, index) => [id, index / Math.max(1, sorted.length - 1)]))
}

/** What destinations learned of a controller, gesture by gesture and address by address, in reading order. */
export function wantedOf(rig: Rig, missing: Controller): Wanted[] {
  const controls = controlsOf(modelOf(rig, missing))
  const along = placesAlong([...controls.values()])
  const found = new Map<string, { key: GestureKey; address: LearnedAddress; mappings: Mapping[] }>()
  for (const mapping of rig.mappings) {
    if (mapping.gesture === null || mapping.learnedAt === null) continue
    const { controller, gesture } = splitGestureRef(mapping.gesture)
    if (controller !== missing.id) continue
    const id = `${gesture} ${printTag(mapping.learnedAt)}`
    const group = found.get(id) ?? { key: gesture, address: mapping.learnedAt, mappings: [] }
    group.mappings.push(mapping)
    found.set(id, group)
  }
  return [...found.values()]
    .flatMap(({ key, address, mappings }): Wanted[] => {
      const { control: id, gesture } = splitGestureKey(key)
      const control = controls.get(id)
      if (!control) return []
      const sent = [...assignmentsOfGesture(missing, key)].flatMap(({ messages }) => messages)
      const message = sent.find((each) => {
        const at = sentAddress(each, missing.homeChannel)
        return at !== null && printTag(at) === printTag(address)
      })
      return [{ control, gesture, address, mappings, message: message ?? null, along: along.get(id) ?? 0 }]
    })
    .toSorted((a, b) => a.along - b.along)
}

/** The places of a gesture in the template that a controller starts with: its layers, or the base. */
function placesOf(controller: Controller, key: GestureKey): Place[] {
  const [template] = controller.templates
  if (!template) return []
  const at = { controller: controller.id, template: template.id, gesture: key }
  const stack = template.stacks.find(({ mode, gestures }) => mode === 'replace' && gestures.includes(key))
  return stack ? stack.layers.map(({ id }) => ({ ...at, layer: id })) : [{ ...at, layer: null }]
}

/** Who may take something over, and who might if something were given up for it. */
export interface Partners {
  open: readonly Partner[]
  pinned: readonly Partner[]
  /** What destinations learned of them would be lost. */
  serving: readonly Partner[]
}

/**
 * The gestures of a controller that may take something over: those that send nothing, and those whose address may be
 * changed and that no destination has learned, unless the request names them. Not what chooses layers, and not what
 * sends more than one message.
 */
export function partnersOf(context: CheckContext, request: AllocateRequest, borrowed: Controller): Partners {
  const { rig } = context
  const controls = controlsOf(modelOf(rig, borrowed))
  const along = placesAlong([...controls.values()])
  const choosers = new Set(rig.choices.flatMap(({ by }) => (by.kind === 'gesture' ? [by.gesture] : [])))
  const senders = new Map<string, Sender[]>()
  for (const sender of sendersIn(rig, borrowed, rig.controllers.indexOf(borrowed))) {
    const key = placeKey(sender.place)
    senders.set(key, [...(senders.get(key) ?? []), sender])
  }
  const kinds: Record<keyof Partners, Partner[]> = { open: [], pinned: [], serving: [] }
  const all = readingOrder([...controls.values()])
    .filter(({ silent }) => !silent)
    .flatMap((control) =>
      control.gestures.flatMap((gesture) => {
        const key: GestureKey = `${control.id}.${gesture}`
        if (choosers.has(gestureRef(borrowed.id, key))) return []
        return placesOf(borrowed, key).map((place) => ({ place, control, gesture, key }))
      }),
    )
  for (const { place, control, gesture, key } of all) {
    const [sender = null, ...more] = senders.get(placeKey(place)) ?? []
    if (more.length > 0) continue
    const serves =
      sender === null ? 0 : purposesOf(rig, sender).filter(({ listening }) => listening !== null).length
    const partner = { place, control, gesture, sender, serves, along: along.get(control.id) ?? 0 }
    const isNamed = request.gestures.includes(gestureRef(borrowed.id, key))
    const isPinned = assignmentsAt(borrowed, place)?.[key]?.pinned === true
    if (request.gestures.length > 0 && !isNamed) continue
    if (isPinned && !isNamed) kinds.pinned.push(partner)
    else if (sender !== null && whyFixed(context, request, sender) !== null) continue
    else if (serves > 0 && !isNamed) kinds.serving.push(partner)
    else kinds.open.push(partner)
  }
  return kinds
}

/** Could a partner take over what is wanted, if it were free to? */
export const couldTake = (wanted: Wanted, { control, gesture }: Partner): boolean =>
  unlikeness(wanted.control, control, wanted.gesture, gesture) !== null

/** What a partner would send in the place of what is wanted, and how much that differs; null where it cannot. */
function tried(
  rig: Rig,
  borrowed: Controller,
  wanted: Wanted,
  { control, gesture, sender, serves, along }: Partner,
): { message: Message; cost: bigint } | null {
  const unlike = unlikeness(wanted.control, control, wanted.gesture, gesture)
  if (unlike === null) return null
  const { abilities } = modelOf(rig, borrowed)
  const can = (message: Message): boolean =>
    (kindReason(abilities, control, message.kind) ?? abilityReason(abilities, control, message)) === null
  const asIs = withAddress(
    wanted.message ?? freshMessage('cc', control.kind, gesture),
    wanted.address,
    control.kind,
    gesture,
  )
  const own = withAddress(
    sender?.message ?? freshMessage('cc', control.kind, gesture),
    wanted.address,
    control.kind,
    gesture,
  )
  const message = can(asIs) ? asIs : can(own) ? own : null
  if (message === null || !isSentAt(message, wanted.address, borrowed)) return null
  const behaves = JSON.stringify('behaviour' in message ? message.behaviour : null)
  const wants = JSON.stringify('behaviour' in asIs ? asIs.behaviour : null)
  const differs = (a: unknown, b: unknown): number => (a === b ? 0 : 1)
  const steps = [
    [Math.min(serves, MOST_SERVED), MOST_SERVED + 1],
    [unlike, 3],
    [differs(behaves, wants), 2],
    [differs(rangeOf(message), rangeOf(asIs)), 2],
    [Math.round(Math.abs(along - wanted.along) * FINENESS), FINENESS + 1],
  ] as const
  return { message, cost: BigInt(steps.reduce((sum, [step, of]) => sum * of + step, 0)) }
}

const MOST_SERVED = 63
const FINENESS = 1000
/** More than all that is wanted of one kind can cost together, so that as few as can be are left without. */
const WITHOUT = 10n ** 12n

const rangeOf = (message: Message): string => JSON.stringify('range' in message ? message.range : null)

const isSentAt = (message: Message, address: LearnedAddress, { homeChannel }: Controller): boolean => {
  const sent = sentAddress(message, homeChannel)
  return sent !== null && printTag(withoutHome(sent, homeChannel)) === printTag(address)
}

const withoutHome = <T extends { scope: string }>(address: T, home: number): T =>
  'channel' in address
    ? { ...address, channel: resolveChannel(address.channel as 'home' | number, home) }
    : address

/**
 * Who takes over what: as much as can be, then such as moves as little of what is learned of the borrowed controller,
 * then by kind, behaviour, range, and place on the surface. `isBarred` takes pairs out.
 */
export function matched(
  rig: Rig,
  borrowed: Controller,
  wanted: readonly Wanted[],
  partners: readonly Partner[],
  isBarred: (wanted: Wanted, partner: Partner) => boolean,
): Pair[] {
  const motions = [...new Set(wanted.map(({ gesture }) => MOTION[gesture]))]
  return motions.flatMap((motion) => {
    const rows = wanted.filter(({ gesture }) => MOTION[gesture] === motion)
    const columns = partners.filter(({ gesture }) => MOTION[gesture] === motion)
    const ways = rows.map((row) =>
      columns.map((column) => (isBarred(row, column) ? null : tried(rig, borrowed, row, column))),
    )
    const costs = ways.map((row) => [
      ...row.map((way) => way?.cost ?? 2n * WITHOUT),
      ...rows.map(() => WITHOUT),
    ])
    return assign(costs).flatMap((column, row): Pair[] => {
      const [way, partner, own] = [ways[row]?.[column], columns[column], rows[row]]
      return way && partner && own ? [{ wanted: own, partner, message: way.message }] : []
    })
  })
}
