import { parseTag, printTag } from '#core/midi'
import {
  assignmentsOf,
  controlName,
  CONTROL_KIND_NAME,
  controlsOf,
  modelOf,
  placeName,
  sentAddress,
  type Place,
  type Rig,
} from '#core/rig'

/** What the command box can find: a control, a layer, who sends an address, or a command. */
export type Hit =
  | { kind: 'control'; id: string; name: string; about: string; controller: string; control: string }
  | {
      kind: 'layer'
      id: string
      name: string
      about: string
      controller: string
      template: string
      stack: string
      layer: string
    }
  | { kind: 'sender'; id: string; name: string; about: string; place: Place }
  | { kind: 'command'; id: string; name: string; about: string; run: () => unknown }

export interface Command {
  name: string
  about: string
  run: () => unknown
}

const matches = (text: string, words: readonly string[]): boolean => {
  const low = text.toLowerCase()
  return words.every((word) => low.includes(word))
}

/** Who sends an address, in whichever template and layer. Without a channel: on any. */
export function sendersOfTag(rig: Rig, text: string): Hit[] {
  const parsed = parseTag(text)
  if (!parsed.ok) return []
  const wanted = printTag(parsed.address)
  const isAnyChannel = parsed.address.scope === 'channel' && parsed.address.channel === null
  return rig.controllers.flatMap((controller) =>
    [...assignmentsOf(controller)].flatMap(({ place, assignment }) =>
      assignment.messages.flatMap((message, index): Hit[] => {
        const address = sentAddress(message, controller.homeChannel)
        if (!address) return []
        const tag = printTag(address)
        if (tag !== wanted && !(isAnyChannel && tag.slice(tag.indexOf(':') + 1) === wanted)) return []
        const { controller: owner, gesture, layer } = placeName(rig, place)
        const id = `${place.controller}/${place.template}/${place.layer}/${place.gesture}/${index}`
        return [
          {
            kind: 'sender',
            id,
            name: `${tag}: ${gesture}`,
            about: layer === null ? owner : `${owner}, ${layer}`,
            place,
          },
        ]
      }),
    ),
  )
}

function controls(rig: Rig): Hit[] {
  return rig.controllers.flatMap((controller) =>
    [...controlsOf(modelOf(rig, controller)).values()].map((control): Hit => ({
      kind: 'control',
      id: `${controller.id}/${control.id}`,
      name: controlName(control),
      about: `${controller.name}, ${CONTROL_KIND_NAME[control.kind]}`,
      controller: controller.id,
      control: control.id,
    })),
  )
}

function layers(rig: Rig): Hit[] {
  return rig.controllers.flatMap((controller) =>
    controller.templates.flatMap((template) =>
      template.stacks.flatMap((stack) =>
        stack.layers.map((layer): Hit => ({
          kind: 'layer',
          id: `${controller.id}/${template.id}/${layer.id}`,
          name: layer.name,
          about: `${controller.name}, layer of ${stack.name}`,
          controller: controller.id,
          template: template.id,
          stack: stack.id,
          layer: layer.id,
        })),
      ),
    ),
  )
}

const MOST = 60

/** Everything that fits what is typed: senders of an address first, then commands, controls, layers. */
export function findHits(rig: Rig | null, commands: readonly Command[], query: string): Hit[] {
  const words = query.toLowerCase().split(/\s+/).filter(Boolean)
  const asCommands = commands
    .filter(({ name }) => matches(name, words))
    .map((command): Hit => ({ kind: 'command', id: command.name, ...command }))
  if (!rig || words.length === 0) return asCommands.slice(0, MOST)
  const found = [...controls(rig), ...layers(rig)].filter(({ name, about }) =>
    matches(`${name} ${about}`, words),
  )
  return [...sendersOfTag(rig, query), ...asCommands, ...found].slice(0, MOST)
}
