import type { Sender } from '../../addresses'
import { sameAddress } from '../../midi'
import {
  splitGestureKey,
  type Choice,
  type Controller,
  type GestureKey,
  type Id,
  type Place,
  type Rig,
  type Stack,
} from '../../rig'
import type { CheckContext } from '../context'
import type { Draft } from '../finding'
import type { Rule } from '../rule'
import { placeWords, sentAddresses, shortListed } from '../words'
import { findingPlace } from '../finding'

/** Damper, portamento, sostenuto, soft, legato and hold 2 (MIDI 1.0, Table III, controllers 64–69). */
const isHoldPedal = (number: number | 'wanted'): boolean =>
  number !== 'wanted' && number >= 64 && number <= 69

/** Does a message go on sounding until it is let go? Drum sounds, switches and actions do not. */
function isHeld({ purposes }: CheckContext, sender: Sender): boolean {
  const { message, place } = sender
  if (message.kind === 'cc') return message.behaviour.kind === 'momentary' && isHoldPedal(message.number)
  if (message.kind !== 'note' || message.behaviour.kind !== 'momentary') return false
  if (splitGestureKey(place.gesture).gesture !== 'strike') return false
  return !purposes(sender).some(({ parameter }) => ['note', 'action', 'switch'].includes(parameter.kind))
}

/** Choices that change which layer of a stack shows, other than by the gesture itself. */
const choosersOf = (rig: Rig, controller: Id, template: Id, stack: Id): Choice[] =>
  rig.choices.filter(({ targets }) =>
    targets.some(
      (target) =>
        target.kind === 'layers' &&
        target.controller === controller &&
        target.template === template &&
        target.stack === stack,
    ),
  )

/** The layers of a stack that can come up: at power-up, or by a choice. A stack that lies over can show none. */
function showable(controller: Id, template: Id, stack: Stack, choices: readonly Choice[]): Array<Id | null> {
  const chosen = choices.flatMap(({ targets }) =>
    targets.flatMap((target) =>
      target.kind === 'layers' &&
      target.controller === controller &&
      target.template === template &&
      target.stack === stack.id
        ? target.layers
        : [],
    ),
  )
  const isNoneShown =
    stack.powerUp === null || choices.some(({ how }) => how === 'while-held' || how === 'toggle')
  return [...new Set([stack.powerUp, ...chosen].filter((id) => id !== null)), ...(isNoneShown ? [null] : [])]
}

/** Do two senders send to one address? */
const isSent = ({ address }: Sender, other: Sender): boolean =>
  address !== null && other.address !== null && sameAddress(address, other.address)

/** What a gesture sends in each place of a controller that arrives anywhere. */
type SentAt = ReadonlyMap<string, readonly Sender[]>

const sentKey = ({ controller, template, layer, gesture }: Place): string =>
  `${controller}/${template}/${layer ?? ''}/${gesture}`

/** A finding about what is held while something is left. */
function draftOf(
  { rig, occupancy }: CheckContext,
  senders: readonly Sender[],
  left: string,
  about: string,
): Draft {
  const held = new Set(senders)
  return {
    severity: 'warning',
    message: `${placeWords(rig, senders.map(findingPlace))}: held while ${left}, the note or pedal is never let go, because the release goes elsewhere.`,
    senders,
    addresses: sentAddresses(senders),
    destinations: [
      ...new Set(
        occupancy
          .arriving(occupancy.senders.filter((sender) => held.has(sender)))
          .map(({ bus }) => bus.destination),
      ),
    ],
    about,
  }
}

/** What is held while a stack changes its layer. */
function whileLayersChange(context: CheckContext, controller: Controller, sentAt: SentAt): Draft[] {
  const { rig } = context
  return controller.templates.flatMap((template) =>
    template.stacks.flatMap((stack): Draft[] => {
      const choices = choosersOf(rig, controller.id, template.id, stack.id)
      const layers = showable(controller.id, template.id, stack, choices)
      if (choices.length === 0 || layers.length < 2) return []
      const at = (layer: Id | null, gesture: GestureKey): readonly Sender[] =>
        sentAt.get(sentKey({ controller: controller.id, template: template.id, layer, gesture })) ?? []
      /** What a gesture sends while a layer, or none, shows. */
      const sent = (layer: Id | null, gesture: GestureKey): readonly Sender[] => {
        const own = layer === null ? [] : at(layer, gesture)
        return own.length > 0 || stack.mode === 'replace' ? own : at(null, gesture)
      }
      const held = new Set<Sender>()
      for (const gesture of stack.gestures) {
        const others = choices.filter(
          ({ by }) => by.kind !== 'gesture' || by.gesture !== `${controller.id}/${gesture}`,
        )
        if (others.length === 0) continue
        for (const layer of layers) {
          for (const sender of sent(layer, gesture)) {
            const isLost = layers.some(
              (other) => other !== layer && !sent(other, gesture).some((each) => isSent(each, sender)),
            )
            if (isLost && isHeld(context, sender)) held.add(sender)
          }
        }
      }
      const senders = [...held]
      if (senders.length === 0) return []
      const from = [...new Set(senders.map(({ place }) => place.layer))].flatMap(
        (id) => stack.layers.find((layer) => layer.id === id)?.name ?? [],
      )
      const left = `“${stack.name}” leaves ${from.length > 0 ? shortListed(from) : 'what it showed'}`
      return [draftOf(context, senders, left, `${controller.id}/${template.id}/${stack.id}`)]
    }),
  )
}

/** What is held while another template is chosen, in none of whose layers its gesture sends the same. */
function whileTemplatesChange(context: CheckContext, controller: Controller, sentAt: SentAt): Draft[] {
  const choices = context.rig.choices.flatMap(({ by, targets }) =>
    targets.flatMap((target) =>
      target.kind === 'template' && target.controller === controller.id
        ? [{ by, template: target.template }]
        : [],
    ),
  )
  const first = controller.templates[0]
  const shown = controller.templates.filter(
    (template) => template === first || choices.some((choice) => choice.template === template.id),
  )
  if (choices.length === 0 || shown.length < 2) return []
  const sendersOf = (template: Id): Sender[] =>
    [...sentAt.values()]
      .flat()
      .filter(({ place }) => place.controller === controller.id && place.template === template)
  const byTemplate = shown.map((template) => ({ template, senders: sendersOf(template.id) }))
  return byTemplate.flatMap(({ template, senders }): Draft[] => {
    const lost = senders.filter((sender) =>
      byTemplate.some(
        (other) =>
          other.template !== template &&
          choices.some(
            ({ by, template: to }) =>
              to === other.template.id && (by.kind !== 'gesture' || by.gesture !== sender.gesture),
          ) &&
          !other.senders.some((each) => each.gesture === sender.gesture && isSent(each, sender)),
      ),
    )
    const held = lost.filter((sender) => isHeld(context, sender))
    return held.length === 0
      ? []
      : [
          draftOf(
            context,
            held,
            `another template than “${template.name}” is chosen`,
            `${controller.id}/${template.id}`,
          ),
        ]
  })
}

/** A note or pedal held while its layer or template changes: the release goes elsewhere, and it goes on sounding. */
export const stuck: Rule = {
  id: 'stuck',
  title: 'Held and never let go',
  topic: 'layers',
  reach: 'controller',
  find: (context) => {
    const { rig, occupancy, controllers } = context
    if (rig.choices.length === 0) return []
    const sentAt = new Map<string, Sender[]>()
    for (const { sender } of occupancy.emissions) {
      const key = sentKey(sender.place)
      const known = sentAt.get(key)
      if (!known) sentAt.set(key, [sender])
      else if (!known.includes(sender)) known.push(sender)
    }
    return controllers.flatMap((controller) => [
      ...whileLayersChange(context, controller, sentAt),
      ...whileTemplatesChange(context, controller, sentAt),
    ])
  },
}
