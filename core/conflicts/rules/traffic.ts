import { DIN_BYTES_PER_MS, outgoing, type Delivery, type Sender } from '../../addresses'
import { leavesNumberOut, sweepBytes } from '../../midi'
import { LIGHT_BYTES, settableLights } from '../../lights/address'
import {
  memoOfTwo,
  modelOf,
  placeKey,
  powerUpShowing,
  rigIndex,
  type Cable,
  type Place,
  type Rig,
} from '../../rig'
import type { CheckContext } from '../context'
import type { Draft, Fix } from '../finding'
import type { Rule } from '../rule'
import { cableWords, senderWords, sentAddresses } from '../words'

/** How long two hands take from end to end. */
const SWEEP_MS = 250
/** Timing clock, 24 a quarter note at 120 quarter notes a minute, in that time: one byte each. */
const CLOCK_BYTES = (SWEEP_MS / 1000) * 48

/** Is a cable a DIN cable? Those of boxes and of DIN controllers are, and those into hardware that sounds. */
function isDin(rig: Rig, { from, to }: Cable): boolean {
  const { controllers, models, destinations } = rigIndex(rig)
  const sender = controllers.get(from.owner)
  if (sender && models.get(sender.model)?.abilities.connection === 'din') return true
  const owners = [from.owner, to.owner]
  if (rig.boxes.some(({ id }) => owners.includes(id))) return true
  const hears = destinations.get(to.owner)
  return hears?.kind === 'synth' || hears?.kind === 'drum-machine'
}

/** One gesture in one place, with what its whole movement costs on a cable. */
interface Cost {
  place: Place
  bytes: number
  senders: Sender[]
}

/** The cables on which a sender's message travels; among them null where software opens a port. */
const cablesTaken = memoOfTwo((delivery: Delivery, sender: Sender): ReadonlySet<Cable | null> => {
  const flows = delivery.flows(sender.place.controller, outgoing(sender))
  return new Set(
    flows
      .flatMap(({ starts, states }) => [...starts, ...states.flatMap(({ next }) => next)])
      .map(({ cable }) => cable),
  )
})

/** What passes each DIN cable, by place. */
function costsByCable(context: CheckContext): Map<Cable, Map<string, Cost>> {
  const { rig, occupancy, controllers } = context
  const { delivery } = occupancy
  const din = new Map(
    controllers.flatMap(({ id }) => {
      const passed = delivery.cablesFrom(id).filter((cable) => isDin(rig, cable))
      return passed.length > 0 ? [[id, passed] as const] : []
    }),
  )
  const costs = new Map<Cable, Map<string, Cost>>()
  if (din.size === 0) return costs
  for (const sender of occupancy.senders) {
    const { controller } = sender.place
    const passed = din.get(controller)
    if (!passed) continue
    const taken = delivery.open.has(controller) ? null : cablesTaken(delivery, sender)
    for (const cable of passed) {
      if (taken && !taken.has(cable)) continue
      const onCable = costs.get(cable) ?? new Map<string, Cost>()
      costs.set(cable, onCable)
      const key = placeKey(sender.place)
      const cost = onCable.get(key) ?? { place: sender.place, bytes: 0, senders: [] }
      onCable.set(key, cost)
      cost.bytes += sweepBytes(sender.message, SWEEP_MS)
      cost.senders.push(sender)
    }
  }
  return costs
}

/** The two costliest gestures that can be moved at the same time; one alone where no two can. */
function costliest({ live }: CheckContext, costs: readonly Cost[]): Cost[] {
  const ordered = costs.toSorted((a, b) => b.bytes - a.bytes)
  let best: Cost[] = ordered.slice(0, 1)
  let most = best[0]?.bytes ?? 0
  ordered.forEach((a, index) => {
    if (2 * a.bytes <= most) return
    const b = ordered.slice(index + 1).find(({ senders: [other] }) => {
      const [own] = a.senders
      return own && other && own.gesture !== other.gesture && live(own, other)
    })
    if (b && a.bytes + b.bytes > most) {
      best = [a, b]
      most = a.bytes + b.bytes
    }
  })
  return best
}

/** Let parameters leave their number out while it stays the same, which saves half of what they send. */
function lightenFix(senders: readonly Sender[]): Fix[] {
  const edits = senders.flatMap(({ place, messageIndex, message }) =>
    (message.kind === 'nrpn' || message.kind === 'rpn') && !leavesNumberOut(message)
      ? [
          {
            type: 'message' as const,
            at: place,
            index: messageIndex,
            message: { ...message, omitNumber: true, nullAfter: false },
          },
        ]
      : [],
  )
  return edits.length === 0
    ? []
    : [{ id: 'lighten', kind: 'lighten', label: 'Leave the number out while it stays the same', edits }]
}

/** Controllers on DIN whose lights take too long to set at the start. */
function longLightInits({ rig, controllers }: CheckContext): Draft[] {
  return controllers.flatMap((controller): Draft[] => {
    if (!controller.inUse || modelOf(rig, controller).abilities.connection !== 'din') return []
    const { length } = settableLights(rig, controller, powerUpShowing(controller))
    const ms = (length * LIGHT_BYTES) / DIN_BYTES_PER_MS
    if (ms <= SWEEP_MS) return []
    return [
      {
        severity: 'warning',
        message: `Setting the ${length} lights of ${controller.name} at the start takes ${Math.round(ms)} ms on its DIN cable: nothing else gets through meanwhile.`,
        senders: [],
        addresses: [],
        destinations: [],
        about: `light-init ${controller.id}`,
        things: [{ kind: 'controller', id: controller.id }],
      },
    ]
  })
}

/** Two hands at once ask more of a DIN cable than it carries (MIDI 1.0: 31,250 baud, ten bits a byte). */
export const traffic: Rule = {
  id: 'traffic',
  title: 'More than a cable carries',
  topic: 'cables',
  reach: 'cable',
  safe: ['lighten'],
  find: (context) => {
    const { rig } = context
    const swept = [...costsByCable(context)].flatMap(([cable, costs]): Draft[] => {
      const pair = costliest(context, [...costs.values()])
      const bytes = pair.reduce((sum, cost) => sum + cost.bytes, CLOCK_BYTES)
      const ms = Math.round(bytes / DIN_BYTES_PER_MS)
      if (ms <= SWEEP_MS) return []
      const senders = pair.flatMap((cost) => cost.senders)
      return [
        {
          severity: 'warning',
          message: `${senderWords(rig, senders)} moved from end to end within ${SWEEP_MS} ms would take ${ms} ms on the cable ${cableWords(rig, cable)}: what comes after them is late.`,
          senders,
          addresses: sentAddresses(senders),
          destinations: [],
          about: cable.id,
          things: [{ kind: 'cable', id: cable.id }],
          cures: () => lightenFix(senders),
        },
      ]
    })
    return [...swept, ...longLightInits(context)]
  },
}
