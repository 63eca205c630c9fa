import type { Assignment, Destination, Mapping, Message, Rig } from '../rig'

/**
 * A checker written straight from the definitions, over all pairs, slow and without any of the code that
 * it is there to judge: for rigs of the kind that `anyRig` makes (everything cabled to everything, no
 * rules, hosts or passages).
 */

export interface Sent {
  controller: string
  gesture: string
  layer: string | null
  /** Controller, template, layer, gesture and number of the message. */
  key: string
  message: Message
  channel: number
}

/** A spot on the wire, with the values that a controller number takes there. */
interface Spot {
  family: 'cc' | 'note' | 'pitchBend' | 'channelPressure'
  channel: number
  number: number
  half: 'whole' | 'first' | 'second'
  values: readonly number[]
}

export interface NaiveFinding {
  rule: string
  senders: ReadonlySet<string>
  destination: string
  /** Where they meet, one by one: family, channel and number. */
  spots: ReadonlySet<string>
}

const from = (low: number, high: number): number[] =>
  Array.from({ length: high - low + 1 }, (_, index) => low + index)
const EVERY = from(0, 127)

export function everySent(rig: Rig): Sent[] {
  const all: Sent[] = []
  for (const controller of rig.controllers) {
    if (!controller.inUse) continue
    for (const template of controller.templates) {
      const add = (layer: string | null, table: Readonly<Record<string, Assignment>>): void => {
        for (const [gesture, { messages }] of Object.entries(table)) {
          messages.forEach((message, index) => {
            if (!('channel' in message)) return
            const channel = message.channel === 'home' ? controller.homeChannel : message.channel
            const key = [controller.id, template.id, layer, gesture, index].join('/')
            all.push({ controller: controller.id, gesture, layer, key, message, channel })
          })
        }
      }
      add(null, template.base)
      for (const { layers } of template.stacks) for (const { id, assignments } of layers) add(id, assignments)
    }
  }
  return all
}

function valuesOf(message: Extract<Message, { kind: 'cc' }>): number[] {
  const { low, high } = message.range
  switch (message.behaviour.kind) {
    case 'absolute':
      return from(Math.min(low, high), Math.max(low, high))
    case 'toggle':
      return [low, high]
    case 'momentary':
    case 'trigger':
      return [high]
    default:
      return EVERY
  }
}

function spotsOf({ message, channel }: Sent): Spot[] {
  const spot = (
    family: Spot['family'],
    number: number,
    half: Spot['half'] = 'whole',
    values: readonly number[] = EVERY,
  ): Spot => ({ family, channel, number, half, values })
  switch (message.kind) {
    case 'cc':
      return message.number === 'wanted' ? [] : [spot('cc', message.number, 'whole', valuesOf(message))]
    case 'cc14':
      return message.number === 'wanted'
        ? []
        : [spot('cc', message.number, 'first'), spot('cc', message.number + 32, 'second')]
    case 'note': {
      const { keys } = message
      if (keys.kind === 'one') return keys.number === 'wanted' ? [] : [spot('note', keys.number)]
      return from(keys.low, keys.high).map((number) => spot('note', number))
    }
    case 'pitchBend':
    case 'channelPressure':
      return [spot(message.kind, 0)]
    default:
      return []
  }
}

const isHeard = ({ hears }: Destination, { channel }: Spot): boolean =>
  hears.playing.channels.kind !== 'only' || hears.playing.channels.channels.includes(channel)

/** Can both be showing? Of two replacing layers of one controller only one can. */
export const areLive = (a: Sent, b: Sent): boolean =>
  a.controller !== b.controller || a.layer === null || b.layer === null || a.layer === b.layer

export const isShared = (rig: Rig, a: Sent, b: Sent): boolean =>
  rig.accords.some(({ gestures }) =>
    [a, b].every(({ controller, gesture }) => gestures.includes(`${controller}/${gesture}`)),
  )

/** How two spots meet, by the words of the rules. */
function meetingRule(a: Sent, b: Sent, one: Spot, other: Spot, merged: boolean): string | null {
  if (one.family !== other.family || one.number !== other.number) return null
  if (one.channel !== other.channel && !merged) return null
  if (one.half === 'second' && other.half === 'second') return null
  if (one.channel !== other.channel) return 'merged-channels'
  if (one.half === 'second' || other.half === 'second') return 'pair-broken'
  if (one.family === 'pitchBend' || one.family === 'channelPressure')
    return a.controller === b.controller ? null : 'same-address'
  if (one.family === 'note') return 'same-address'
  return one.values.some((value) => other.values.includes(value)) ? 'same-address' : 'split-value'
}

const spotName = ({ family, channel, number }: Spot): string => `${family} ${channel} ${number}`

/** What two gestures do to each other, pair by pair and destination by destination. */
export function naiveMeetings(rig: Rig): NaiveFinding[] {
  const all = everySent(rig)
  const found: NaiveFinding[] = []
  for (const destination of rig.destinations) {
    const merged = destination.hears.playing.channels.kind === 'merged'
    all.forEach((a, index) =>
      all.slice(index + 1).forEach((b) => {
        if (a.controller === b.controller && a.gesture === b.gesture) return
        if (!areLive(a, b) || isShared(rig, a, b)) return
        const rules = new Map<string, Set<string>>()
        for (const one of spotsOf(a).filter((spot) => isHeard(destination, spot)))
          for (const other of spotsOf(b).filter((spot) => isHeard(destination, spot))) {
            const rule = meetingRule(a, b, one, other, merged)
            if (rule !== null)
              rules.set(
                rule,
                (rules.get(rule) ?? new Set()).add(spotName(rule === 'pair-broken' ? other : one)),
              )
          }
        for (const [rule, spots] of rules)
          found.push({ rule, senders: new Set([a.key, b.key]), destination: destination.id, spots })
      }),
    )
  }
  return found
}

/** Numbers that the standard, or a destination, keeps for something else. */
export function naiveKept(rig: Rig): NaiveFinding[] {
  return everySent(rig).flatMap((sent): NaiveFinding[] =>
    rig.destinations.flatMap((destination) => {
      const heard = spotsOf(sent).filter((spot) => isHeard(destination, spot))
      const plain = sent.message.kind === 'cc' ? heard.map(({ number }) => number) : []
      const isReserved = plain.some((number) => number >= 120 || number === 0 || number === 32)
      const isClaimed = destination.claims.some(
        ({ kind, channel, low, high, serves }) =>
          heard.some(
            (spot) =>
              spot.family === kind &&
              (channel === null || channel === spot.channel) &&
              (kind === 'pitchBend' ||
                kind === 'channelPressure' ||
                (spot.number >= low && spot.number <= high)),
          ) && !isMeant(rig, sent, destination, serves),
      )
      const finding = (rule: string): NaiveFinding => ({
        rule,
        senders: new Set([sent.key]),
        destination: destination.id,
        spots: new Set<string>(),
      })
      return [...(isReserved ? [finding('reserved')] : []), ...(isClaimed ? [finding('claimed')] : [])]
    }),
  )
}

/** Is a gesture mapped to what an address is kept for, and not taught another address? */
function isMeant(rig: Rig, sent: Sent, { id }: Destination, serves: readonly string[]): boolean {
  return rig.mappings.some(({ gesture, destination, parameter, learnedAt }) => {
    if (gesture !== `${sent.controller}/${sent.gesture}` || destination !== id) return false
    if (!serves.includes(parameter)) return false
    if (learnedAt === null) return true
    if (learnedAt.scope !== 'channel' || sent.message.kind !== 'cc') return false
    const { channel, target } = learnedAt
    return channel === sent.channel && target.kind === 'cc' && target.number === sent.message.number
  })
}

/** How a message comes to where a parameter listens: as it is, coarsely (of a pair only the MSB), or not. */
export function naiveFit(
  { message, channel }: Sent,
  { learnedAt }: Mapping,
  { hears }: Destination,
): 'whole' | 'coarse' | null {
  if (learnedAt?.scope !== 'channel' || message.kind === 'off' || !('channel' in message)) return null
  const { channels } = hears.playing
  if (channels.kind === 'only' && !channels.channels.includes(channel)) return null
  if (channels.kind !== 'merged' && learnedAt.channel !== channel) return null
  const { target } = learnedAt
  const isController = (kind: string): kind is 'cc' | 'cc14' => kind === 'cc' || kind === 'cc14'
  if (!isController(target.kind) || !isController(message.kind)) return null
  if (!('number' in target) || !('number' in message) || message.number !== target.number) return null
  return message.kind === target.kind ? 'whole' : 'coarse'
}

/** Mappings of which nothing arrives as it should: by gesture, with how grave that is. Where passages and charts are none. */
export function naiveUnheard(rig: Rig): Array<{ gesture: string; severity: 'error' | 'warning' | 'advice' }> {
  const all = everySent(rig)
  return rig.mappings.flatMap((mapping) => {
    const destination = rig.destinations.find(({ id }) => id === mapping.destination)
    const sent = all.filter(({ controller, gesture }) => `${controller}/${gesture}` === mapping.gesture)
    const numbered = sent.filter(({ message }) => !('number' in message) || message.number !== 'wanted')
    if (!destination || mapping.gesture === null || numbered.length === 0) return []
    const told = (severity: 'error' | 'warning' | 'advice') => [{ gesture: mapping.gesture ?? '', severity }]
    const fits = numbered.map((each) => naiveFit(each, mapping, destination))
    if (fits.includes('whole')) return []
    // A pair moves a 7-bit parameter; it is the pair that a 7-bit number moves coarsely.
    if (fits.includes('coarse')) return mapping.learnedAt?.target.kind === 'cc14' ? told('advice') : []
    const isHeardAtAll = numbered.some((each) => spotsOf(each).some((spot) => isHeard(destination, spot)))
    const isProgramHeard = numbered.some(
      (each) => each.message.kind === 'program' && isHeard(destination, { channel: each.channel } as Spot),
    )
    if (!isHeardAtAll && !isProgramHeard) return told('error')
    return told(mapping.learnedAt === null ? 'advice' : 'warning')
  })
}
