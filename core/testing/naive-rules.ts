import type { Destination, Mapping, Rig } from '../rig'
import { areLive, everySent, isShared, naiveFit, type Sent } from './naive-check'

/**
 * More rules straight from their definitions, over all pairs, without any of the code that they are there to judge: for
 * rigs in which everything is cabled to everything, without rules, hosts, charts or passages.
 */

/** What a rule speaks of, one by one: senders or mappings, and the destination. */
export interface NaiveTold {
  who: readonly string[]
  destination: string
  severity: 'error' | 'warning' | 'advice'
}

const isHeardOn = ({ hears }: Destination, channel: number): boolean =>
  hears.playing.channels.kind !== 'only' || hears.playing.channels.channels.includes(channel)

const isMerged = ({ hears }: Destination): boolean => hears.playing.channels.kind === 'merged'

/** Two senders that a destination hears, on one channel for it. */
const areOnOne = (destination: Destination, a: Sent, b: Sent): boolean =>
  isHeardOn(destination, a.channel) &&
  isHeardOn(destination, b.channel) &&
  (a.channel === b.channel || isMerged(destination))

const isParameter = ({ message }: Sent): boolean =>
  (message.kind === 'nrpn' || message.kind === 'rpn') && message.number !== 'wanted'

const CARRIERS = [6, 38, 96, 97, 98, 99, 100, 101]
const isPlainCarrier = ({ message }: Sent): boolean =>
  message.kind === 'cc' && message.number !== 'wanted' && CARRIERS.includes(message.number)

/** Every two senders at every destination, both ways round, that a test holds for. */
const pairs = (
  rig: Rig,
  test: (a: Sent, b: Sent, destination: Destination) => NaiveTold['severity'] | null,
): NaiveTold[] => {
  const all = everySent(rig)
  return rig.destinations.flatMap((destination) =>
    all.flatMap((a) =>
      all.flatMap((b): NaiveTold[] => {
        if (a === b) return []
        const severity = test(a, b, destination)
        return severity ? [{ who: [a.key, b.key], destination: destination.id, severity }] : []
      }),
    ),
  )
}

const parameterCarriers = (rig: Rig): NaiveTold[] =>
  pairs(rig, (a, b, destination) =>
    isPlainCarrier(a) && isParameter(b) && areOnOne(destination, a, b) ? 'error' : null,
  )

const parameterInterleave = (rig: Rig): NaiveTold[] =>
  pairs(rig, (a, b, destination) =>
    a.controller !== b.controller &&
    isParameter(a) &&
    isParameter(b) &&
    areOnOne(destination, a, b) &&
    areLive(a, b) &&
    !isShared(rig, a, b)
      ? [a, b].some(({ message }) => 'omitNumber' in message && message.omitNumber)
        ? 'error'
        : 'warning'
      : null,
  )

const bankDrift = (rig: Rig): NaiveTold[] =>
  pairs(rig, (a, b, destination) =>
    a.message.kind === 'program' &&
    b.message.kind === 'program' &&
    a.message.number !== 'wanted' &&
    b.message.number !== 'wanted' &&
    a.message.bank !== null &&
    b.message.bank === null &&
    areOnOne(destination, a, b)
      ? 'warning'
      : null,
  )

/** A mapping with its destination, what its gesture sends, and what of that fits where it learned. */
interface Joined {
  mapping: Mapping
  destination: Destination
  sent: readonly Sent[]
  fitting: readonly Sent[]
}

const everyJoined = (rig: Rig): Joined[] => {
  const all = everySent(rig)
  return rig.mappings.flatMap((mapping) => {
    const destination = rig.destinations.find(({ id }) => id === mapping.destination)
    if (!destination || mapping.gesture === null) return []
    const sent = all.filter(({ controller, gesture }) => `${controller}/${gesture}` === mapping.gesture)
    return [
      {
        mapping,
        destination,
        sent,
        fitting: sent.filter((each) => naiveFit(each, mapping, destination) !== null),
      },
    ]
  })
}

const told = (
  { mapping, destination }: Joined,
  severity: NaiveTold['severity'],
  ...others: Joined[]
): NaiveTold => ({
  who: [mapping.id, ...others.map((other) => other.mapping.id)].toSorted(),
  destination: destination.id,
  severity,
})

/** A layer shows at power-up; nothing else in these rigs chooses one. */
const canShow = (rig: Rig, { key, layer }: Sent): boolean =>
  layer === null ||
  rig.controllers.some(({ id, templates }) =>
    templates.some(
      (template) =>
        key.startsWith(`${id}/${template.id}/`) && template.stacks.some(({ powerUp }) => powerUp === layer),
    ),
  )

const silent = (rig: Rig): NaiveTold[] =>
  everyJoined(rig).flatMap((joined) => {
    const owner = rig.controllers.find(({ id }) => joined.mapping.gesture?.startsWith(`${id}/`))
    if (!owner?.inUse) return []
    const at = joined.fitting.length > 0 ? joined.fitting : joined.sent
    return at.some((each) => canShow(rig, each)) ? [] : [told(joined, 'error')]
  })

/** A mapping counts in its scope; one that counts everywhere, where its control has none of that scope there. */
const isInForce = (rig: Rig, mapping: Mapping, scope: string | null): boolean =>
  mapping.scope === null
    ? scope === null ||
      !rig.mappings.some(
        (other) =>
          other.gesture === mapping.gesture &&
          other.destination === mapping.destination &&
          other.scope === scope,
      )
    : mapping.scope === scope

const areInForce = (rig: Rig, a: Joined, b: Joined): boolean =>
  [null, ...a.destination.scopes.map(({ id }) => id)].some((scope) =>
    [a, b].every(({ mapping }) => isInForce(rig, mapping, scope)),
  )

const nameOf = ({ destination, mapping }: Joined) =>
  destination.parameters.find(({ id }) => id === mapping.parameter)

/** Do two mappings move one parameter, or one what is relative to a selection and may be the other? */
function moveOne(a: Joined, b: Joined): boolean {
  if (a.destination !== b.destination) return false
  if (a.mapping.parameter === b.mapping.parameter) return true
  const [one, other] = [nameOf(a), nameOf(b)]
  const standsFor = (relative: typeof one, plain: typeof one): boolean =>
    relative?.kind === 'relative' && plain?.kind !== 'relative' && relative.standsFor === plain?.name
  return standsFor(one, other) || standsFor(other, one)
}

const isOneAddress = (a: Sent, b: Sent): boolean =>
  a === b ||
  (a.channel === b.channel &&
    a.message.kind === b.message.kind &&
    'number' in a.message &&
    'number' in b.message &&
    a.message.number === b.message.number)

const doubleDrive = (rig: Rig): NaiveTold[] => {
  const all = everyJoined(rig)
  return all.flatMap((a, index) =>
    all.slice(index + 1).flatMap((b) => {
      if (!moveOne(a, b) || !areInForce(rig, a, b)) return []
      const isMet = a.fitting.some((one) =>
        b.fitting.some(
          (other) => !isOneAddress(one, other) && areLive(one, other) && !isShared(rig, one, other),
        ),
      )
      return isMet ? [told(a, 'warning', b)] : []
    }),
  )
}

const behaviourOf = ({ message }: Sent) => ('behaviour' in message ? message.behaviour : null)

const isKept = ({ message }: Sent): boolean =>
  'behaviour' in message &&
  message.behaviour.kind === 'toggle' &&
  'range' in message &&
  message.range.low !== message.range.high

const toggleDrift = (rig: Rig): NaiveTold[] => {
  const all = everyJoined(rig)
  return all.flatMap((a) => {
    if (a.mapping.expects.kind !== 'absolute' || (a.mapping.feedback && a.destination.feedback)) return []
    if (!a.fitting.some(isKept)) return []
    const isMoved = all.some(
      (b) =>
        b.mapping.gesture !== a.mapping.gesture &&
        b.fitting.length > 0 &&
        (b.mapping.parameter === a.mapping.parameter || nameOf(b)?.kind === 'relative') &&
        moveOne(a, b) &&
        areInForce(rig, a, b),
    )
    return isMoved ? [told(a, 'warning')] : []
  })
}

const modeMismatch = (rig: Rig): NaiveTold[] =>
  everyJoined(rig).flatMap((joined) => {
    const { expects } = joined.mapping
    const isWrong = joined.fitting.some((each) => {
      const behaviour = behaviourOf(each)
      if (behaviour?.kind === 'relative')
        return expects.kind !== 'relative' || expects.encoding !== behaviour.encoding
      return expects.kind === 'relative' || (expects.kind === 'press' && isKept(each))
    })
    return isWrong ? [told(joined, 'error')] : []
  })

/** Two mappings that learned one address, from two layers that never show together, move two parameters. */
const layerShare = (rig: Rig): NaiveTold[] => {
  const all = everyJoined(rig)
  const learned = ({ mapping: { learnedAt }, destination }: Joined): string =>
    learnedAt?.scope === 'channel'
      ? `${isMerged(destination) ? '' : learnedAt.channel} ${JSON.stringify(learnedAt.target)}`
      : ''
  return all.flatMap((a, index) =>
    all.slice(index + 1).flatMap((b): NaiveTold[] => {
      if (a.destination !== b.destination || a.mapping.parameter === b.mapping.parameter) return []
      if (learned(a) !== learned(b) || !areInForce(rig, a, b)) return []
      const met = a.fitting.flatMap((one) =>
        b.fitting.filter(
          (other) =>
            one !== other &&
            !areLive(one, other) &&
            (one.gesture === other.gesture || !isShared(rig, one, other)),
        ),
      )
      return met.length > 0 ? [told(a, 'error', b)] : []
    }),
  )
}

/** Rules that speak of senders, two by two. */
export const NAIVE_BY_SENDER = {
  'parameter-carriers': parameterCarriers,
  'parameter-interleave': parameterInterleave,
  'bank-drift': bankDrift,
} as const

/** Rules that speak of mappings, by their ids. */
export const NAIVE_BY_MAPPING = {
  silent,
  'double-drive': doubleDrive,
  'toggle-drift': toggleDrift,
  'mode-mismatch': modeMismatch,
  'layer-share': layerShare,
} as const
