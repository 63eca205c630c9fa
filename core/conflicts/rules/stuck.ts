import type { Sender } from '../../addresses'
import {
  splitGestureKey,
  type Choice,
  type Controller,
  type GestureKey,
  type Id,
  type Rig,
  type Stack,
} from '../../rig'
import type { CheckContext } from '../context'
import type { Draft } from '../finding'
import type { Rule } from '../rule'
import { placeWords, shortListed } from '../words'
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
function showable(stack: Stack, choices: readonly Choice[]): Array<Id | null> {
  const chosen = choices.flatMap(({ targets }) =>
    targets.flatMap((target) => (target.kind === 'layers' && target.stack === stack.id ? target.layers : [])),
  )
  const isNoneShown =
    stack.powerUp === null || choices.some(({ how }) => how === 'while-held' || how === 'toggle')
  return [...new Set([stack.powerUp, ...chosen].filter((id) => id !== null)), ...(isNoneShown ? [null] : [])]
}

/** A note or pedal held while its layer changes: the release goes elsewhere, and it goes on sounding. */
export const stuck: Rule = {
  id: 'stuck',
  title: 'Held and never let go',
  reach: 'controller',
  find: (context) => {
    const { rig, occupancy, controllers } = context
    if (rig.choices.length === 0) return []
    const byPlace = new Map<string, Sender[]>()
    for (const { sender } of occupancy.emissions) {
      const key = `${sender.place.controller}/${sender.place.template}/${sender.place.layer ?? ''}/${sender.place.gesture}`
      const known = byPlace.get(key)
      if (!known) byPlace.set(key, [sender])
      else if (!known.includes(sender)) known.push(sender)
    }
    const sentAt = (controller: Controller, template: Id, layer: Id | null, gesture: GestureKey) =>
      byPlace.get(`${controller.id}/${template}/${layer ?? ''}/${gesture}`) ?? []

    return controllers.flatMap((controller) =>
      controller.templates.flatMap((template) =>
        template.stacks.flatMap((stack): Draft[] => {
          const choices = choosersOf(rig, controller.id, template.id, stack.id)
          const layers = showable(stack, choices)
          if (choices.length === 0 || layers.length < 2) return []
          /** What a gesture sends while a layer, or none, shows. */
          const sent = (layer: Id | null, gesture: GestureKey): readonly Sender[] => {
            const own = layer === null ? [] : sentAt(controller, template.id, layer, gesture)
            return own.length > 0 || stack.mode === 'replace'
              ? own
              : sentAt(controller, template.id, null, gesture)
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
                  (other) => other !== layer && !sent(other, gesture).some(({ tag }) => tag === sender.tag),
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
          const names = placeWords(rig, senders.map(findingPlace))
          return [
            {
              severity: 'warning',
              message: `${names}: held while “${stack.name}” leaves ${from.length > 0 ? shortListed(from) : 'what it showed'}, the note or pedal is never let go, because the release goes elsewhere.`,
              senders,
              addresses: [...new Set(senders.flatMap(({ tag }) => tag ?? []))],
              destinations: [
                ...new Set(
                  occupancy.emissions.flatMap(({ sender, bus }) => (held.has(sender) ? bus.destination : [])),
                ),
              ],
              about: `${controller.id}/${template.id}/${stack.id}`,
              cures: { moves: [], share: false },
            },
          ]
        }),
      ),
    )
  },
}
