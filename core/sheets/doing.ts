import { deliveryOf, emissionsIn, sendersIn, type Sender } from '../addresses'
import { keysOf, listenersOn, purposesOf } from '../mappings'
import { noteName, printTag } from '../midi'
import {
  behaviourWords,
  CHOICE_HOW,
  findGesture,
  memoOf,
  parameterName,
  placeKey,
  placeRef,
  rigIndex,
  targetWords,
  type ControlKind,
  type Destination,
  type GestureRef,
  type Message,
  type Place,
  type Rig,
} from '../rig'

/** The messages of each place, in their order, of controllers that are put away too. */
const sendersByPlace = memoOf((rig: Rig) => {
  const byPlace = new Map<string, Sender[]>()
  rig.controllers.forEach((controller, position) => {
    for (const sender of sendersIn(rig, controller, position)) {
      const key = placeKey(sender.place)
      const there = byPlace.get(key)
      if (there) there.push(sender)
      else byPlace.set(key, [sender])
    }
  })
  return byPlace
})

/** What is sent at a place, message by message. */
export const sendersAt = (rig: Rig, place: Place): readonly Sender[] =>
  sendersByPlace(rig).get(placeKey(place)) ?? []

const choicesByGesture = memoOf((rig: Rig) => {
  const byGesture = new Map<GestureRef, string[]>()
  for (const { by, how, targets } of rig.choices) {
    if (by.kind !== 'gesture') continue
    const words = targets.map((target) => {
      const controller = rigIndex(rig).controllers.get(target.controller)
      const own = by.gesture.startsWith(`${target.controller}/`)
      return own ? targetWords(rig, target) : `${targetWords(rig, target)} on ${controller?.name ?? ''}`
    })
    byGesture.set(by.gesture, [
      ...(byGesture.get(by.gesture) ?? []),
      `${CHOICE_HOW[how]} ${words.join('; ')}`,
    ])
  }
  return byGesture
})

/** What a gesture chooses, in words: layers and templates. */
export const chosenBy = (rig: Rig, gesture: GestureRef): readonly string[] =>
  choicesByGesture(rig).get(gesture) ?? []

/** The sounds and presets that a message calls by number at one destination. */
function calledAt(destination: Destination, message: Message): string[] {
  if (message.kind === 'note' && message.keys.kind === 'one') {
    const { number } = message.keys
    return destination.noteNames.flatMap((named) => (named.number === number ? named.name : []))
  }
  if (message.kind === 'program') {
    return destination.programs.flatMap(({ number, bank, name }) =>
      number === message.number &&
      (message.bank === null || (bank?.msb === message.bank.msb && bank.lsb === message.bank.lsb))
        ? name
        : [],
    )
  }
  return []
}

/** What is played with the hands, and what sounds when it is. */
const PLAYED: ReadonlySet<ControlKind> = new Set(['pad', 'keybed'])
const SOUNDING: ReadonlySet<Destination['kind']> = new Set(['synth', 'plugin'])

/** What a sender does at the destinations it reaches without having been joined to anything there. */
function unjoined(rig: Rig, sender: Sender): string[] {
  const { destinations } = rigIndex(rig)
  return emissionsIn(deliveryOf(rig), sender).flatMap(({ bus, cells }) => {
    const destination = destinations.get(bus.destination)
    if (!destination) return []
    const called = calledAt(destination, sender.message)
    const charted = cells
      .filter(({ role }) => role !== 'carrier')
      .flatMap((cell) => listenersOn(rig, bus, cell))
      .filter(({ mapping }) => mapping === null)
      .map(({ name }) => name)
    const named = [...called, ...charted].map((name) => `${destination.name}: ${name}`)
    const isPlayed =
      sender.message.kind === 'note' &&
      PLAYED.has(findGesture(rig, sender.gesture)?.control.kind ?? 'knob') &&
      SOUNDING.has(destination.kind)
    return named.length === 0 && isPlayed ? [`plays ${destination.name}`] : named
  })
}

/** The notes that a message plays, where they are many: “notes C1–C5”. */
function spanWords(rig: Rig, message: Message): string[] {
  const keys = message.kind === 'note' ? keysOf(message) : null
  return keys ? [`notes ${noteName(keys.low, rig.middleC)}–${noteName(keys.high, rig.middleC)}`] : []
}

/** What one message of a place moves, plays or calls, in words, each once. */
export function doesBy(rig: Rig, sender: Sender): string[] {
  const joined = purposesOf(rig, sender).map(
    ({ destination, parameter, mapping }) =>
      `${destination.name}: ${parameterName(parameter)}${
        mapping.key === null ? '' : ` (key ${noteName(mapping.key, rig.middleC)})`
      }`,
  )
  const found = joined.length > 0 ? joined : unjoined(rig, sender)
  return [...new Set([...found, ...spanWords(rig, sender.message)])]
}

/** What a place does in all, in words: what its messages move, and what its gesture chooses. */
export const doesAt = (rig: Rig, place: Place): string[] => [
  ...new Set([
    ...sendersAt(rig, place).flatMap((sender) => doesBy(rig, sender)),
    ...chosenBy(rig, placeRef(place)),
  ]),
]

/** Where a place is sent to, as tags; a number that is still wanted is said. */
export const tagsAt = (rig: Rig, place: Place): string[] =>
  sendersAt(rig, place).map(({ address }) => (address ? printTag(address) : 'number wanted'))

/** What a message makes of its control, in its longest words. */
export const behaves = (message: Message): string => behaviourWords(message)[0] ?? ''
