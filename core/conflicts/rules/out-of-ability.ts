import {
  abilityReason,
  controlsOf,
  CONTROL_KIND_NAME,
  MESSAGE_KIND_NAME,
  modelOf,
  splitGestureKey,
  sentAddress,
  type Abilities,
  type Assignment,
  type Control,
  type Controller,
  type GestureKey,
  type Id,
  memo,
  type Model,
} from '../../rig'
import { distinctAddresses, type Address } from '../../midi'
import type { Draft, FindingPlace } from '../finding'
import type { Rule } from '../rule'
import { placeWords } from '../words'

interface Beyond {
  /** What is asked for, and why it cannot be had. */
  what: string
  reason: string
  places: FindingPlace[]
  addresses: Address[]
}

function beyond({ controller, model }: { controller: Controller; model: Model }): Beyond[] {
  const { abilities } = model
  const found = new Map<string, Beyond>()
  const controls = controlsOf(model)
  // Layers speak of the same gestures again and again.
  const known = new Map<GestureKey, Control | undefined>()
  const controlAt = (gesture: GestureKey): Control | undefined => {
    if (!known.has(gesture)) known.set(gesture, controls.get(splitGestureKey(gesture).control))
    return known.get(gesture)
  }
  const lookAt = (template: Id, layer: Id | null, table: Readonly<Record<GestureKey, Assignment>>): void => {
    for (const gesture of Object.keys(table)) {
      const control = controlAt(gesture)
      if (!control) continue
      table[gesture]?.messages.forEach((message, index) => {
        const reason = abilityReason(abilities, control, message)
        if (reason === null) return
        const what = `${MESSAGE_KIND_NAME[message.kind]} from ${CONTROL_KIND_NAME[control.kind]}`
        const entry = found.get(`${what} ${reason}`) ?? { what, reason, places: [], addresses: [] }
        found.set(`${what} ${reason}`, entry)
        entry.places.push({ controller: controller.id, template, layer, gesture, message: index })
        const address = sentAddress(message, controller.homeChannel)
        if (address) entry.addresses.push(address)
      })
    }
  }
  for (const { id, base, stacks } of controller.templates) {
    lookAt(id, null, base)
    for (const { layers } of stacks) for (const layer of layers) lookAt(id, layer.id, layer.assignments)
  }
  return [...found.values()]
}

/** What a controller's assignments ask for and its hardware cannot do, gathered by what it is. */
const beyondIn = memo(
  ({ controller, model }: { controller: Controller; model: Model }) => [controller, model],
  beyond,
)

/** Templates with more stacks, or stacks with more layers, than the hardware has room for. */
function crowdedIn(controller: Controller, { stacks, layersAStack }: Abilities): string[] {
  return controller.templates.flatMap((template) => [
    ...(template.stacks.length > stacks
      ? [`“${template.name}” has ${template.stacks.length} stacks, and the hardware has ${stacks}`]
      : []),
    ...template.stacks
      .filter(({ layers }) => layers.length > layersAStack)
      .map(
        ({ name, layers }) =>
          `“${name}” has ${layers.length} layers, and the hardware has ${layersAStack} a stack`,
      ),
  ])
}

/** The hardware cannot do what its template says. */
export const outOfAbility: Rule = {
  id: 'out-of-ability',
  title: 'More than the hardware can do',
  topic: 'values',
  reach: 'controller',
  find: ({ rig, controllers }) =>
    controllers
      .filter(({ inUse }) => inUse)
      .flatMap((controller): Draft[] => {
        const model = modelOf(rig, controller)
        const shared = { severity: 'error', senders: [], destinations: [] } as const
        return [
          ...beyondIn({ controller, model }).map(({ what, reason, places, addresses }): Draft => ({
            ...shared,
            message: `${placeWords(rig, places)} cannot send what is written: ${reason}. Let it send something else, or change what ${controller.name} can do.`,
            addresses: distinctAddresses(addresses),
            about: `${controller.id} ${what} ${reason}`,
            places,
          })),
          ...crowdedIn(controller, model.abilities).map((said): Draft => ({
            ...shared,
            message: `${controller.name}: ${said}.`,
            addresses: [],
            about: `${controller.id} ${said}`,
            things: [{ kind: 'controller', id: controller.id }],
          })),
        ]
      }),
}
