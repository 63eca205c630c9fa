import { sendersIn } from '../../addresses'
import { lightInit } from '../../lights'
import {
  chooserWords,
  controlName,
  MESSAGE_KIND_NAME,
  modelOf,
  powerUpShowing,
  type Controller,
  type Id,
  type MessageKind,
  type PortRef,
  type Rig,
} from '../../rig'
import type { Step, StepGroup } from './step'

const ownerOf = (rig: Rig, { owner }: PortRef) =>
  [...rig.controllers, ...rig.destinations, ...rig.boxes, ...rig.computers].find(({ id }) => id === owner)
const ownPort = (rig: Rig, ref: PortRef): string =>
  ownerOf(rig, ref)?.ports.find(({ id }) => id === ref.port)?.name ?? ''

/** The name of a port with its owner: “Laptop, From Syzra”. */
const portName = (rig: Rig, ref: PortRef): string =>
  [ownerOf(rig, ref)?.name, ownPort(rig, ref)].filter(Boolean).join(', ')

const plugs = (rig: Rig, id: Id): Step[] =>
  rig.cables
    .filter(({ from }) => from.owner === id)
    .map((cable) => ({
      id: `${id}/cable/${cable.id}`,
      text: `Plug its ${ownPort(rig, cable.from)} into ${portName(rig, cable.to)}`,
      at: '',
      lead: { kind: 'cable', id: cable.id },
    }))

function templateSteps(controller: Controller): Step[] {
  const lead = { kind: 'controller', id: controller.id } as const
  return controller.templates.map((template, index): Step => {
    const slot = controller.slots.find((each) => each.template === template.id)
    const id = `${controller.id}/template/${template.id}`
    const several = controller.templates.length > 1
    const which = index === 0 && several ? 'Load the template that the show begins with' : 'Load the template'
    if (slot)
      return {
        id,
        text: index === 0 ? which : 'Have the template ready',
        at: `${template.name}, slot ${slot.number}`,
        lead,
      }
    return {
      id,
      text: index === 0 ? which : 'Have the template ready',
      at: `${template.name} (in no slot)`,
      lead,
    }
  })
}

/** Stacks that show nothing until something is pressed. */
function firstPresses(rig: Rig, controller: Controller): Step[] {
  const [template] = controller.templates
  return (template?.stacks ?? []).flatMap((stack): Step[] => {
    if (stack.powerUp !== null) return []
    const choosing = rig.choices.filter(({ targets }) =>
      targets.some(
        (target) =>
          target.kind === 'layers' && target.controller === controller.id && target.stack === stack.id,
      ),
    )
    const [first] = choosing
    const by = first ? `with ${chooserWords(rig, first)}` : 'on the controller'
    return [
      {
        id: `${controller.id}/first/${stack.id}`,
        text: `${stack.name} shows no layer when switched on: choose one ${by} first`,
        at: '',
        lead: { kind: 'controller', id: controller.id },
      },
    ]
  })
}

const KINDS_SWITCHED: readonly MessageKind[] = [
  'note',
  'program',
  'channelPressure',
  'polyPressure',
  'pitchBend',
  'sysex',
  'realtime',
  'mmc',
]

function transmitSteps(rig: Rig, controller: Controller): Step[] {
  const sent = new Set<MessageKind>(
    sendersIn(rig, controller, rig.controllers.indexOf(controller)).map(({ message }) => message.kind),
  )
  const lead = { kind: 'controller', id: controller.id } as const
  const on = KINDS_SWITCHED.filter((kind) => sent.has(kind)).map((kind) => MESSAGE_KIND_NAME[kind])
  const off = KINDS_SWITCHED.filter((kind) => !sent.has(kind)).map((kind) => MESSAGE_KIND_NAME[kind])
  return [
    ...(on.length === 0
      ? []
      : [{ id: `${controller.id}/transmit`, text: `Let it transmit ${on.join(', ')}`, at: '', lead }]),
    ...(off.length === 0
      ? []
      : [
          {
            id: `${controller.id}/transmit-off`,
            text: `Switch off what the rig does not count with: ${off.join(', ')}`,
            at: '',
            lead,
          },
        ]),
  ]
}

const CALIBRATED: ReadonlySet<string> = new Set(['pedal', 'ribbon', 'xy', 'tilt', 'joystick'])

function calibration(rig: Rig, controller: Controller): Step[] {
  return modelOf(rig, controller)
    .surface.controls.filter(({ kind, silent }) => CALIBRATED.has(kind) && !silent)
    .map((control) => ({
      id: `${controller.id}/calibrate/${control.id}`,
      text: `Calibrate ${controlName(control)}: move it from end to end; the lowest and the highest value must come`,
      at: '',
      lead: { kind: 'controller', id: controller.id },
    }))
}

function lights(rig: Rig, controller: Controller): Step[] {
  const showing = Object.fromEntries(rig.controllers.map((each) => [each.id, powerUpShowing(each)]))
  const count = modelOf(rig, controller).abilities.lights
    ? lightInit(rig, [controller], showing).messages.length
    : 0
  return count === 0
    ? []
    : [
        {
          id: `${controller.id}/lights`,
          text: `Send the wake sequence: ${count} messages set the lights`,
          at: '',
          lead: { kind: 'controller', id: controller.id },
        },
      ]
}

function stepsOf(rig: Rig, controller: Controller): Step[] {
  const lead = { kind: 'controller', id: controller.id } as const
  const twin = rig.controllers.some(({ id, model }) => id !== controller.id && model === controller.model)
  return [
    ...plugs(rig, controller.id),
    ...(twin || controller.deviceNumber > 0
      ? [
          {
            id: `${controller.id}/device`,
            text: 'Set its device number',
            at: String(controller.deviceNumber),
            lead,
          },
        ]
      : []),
    {
      id: `${controller.id}/home`,
      text: 'Set its own channel',
      at: `channel ${controller.homeChannel}`,
      lead,
    },
    ...templateSteps(controller),
    ...transmitSteps(rig, controller),
    ...firstPresses(rig, controller),
    ...calibration(rig, controller),
    ...lights(rig, controller),
  ]
}

/** What to do at each controller: plug in, channel, template, what it transmits, what to press first, calibration, lights. */
export const controllerSteps = (rig: Rig): StepGroup[] =>
  rig.controllers
    .filter(({ inUse }) => inUse)
    .map((controller) => ({ heading: controller.name, steps: stepsOf(rig, controller) }))

/** Cables between boxes, and out of destinations. */
export function boxSteps(rig: Rig): StepGroup[] {
  return [
    ...rig.boxes,
    ...rig.destinations.filter(({ kind }) => kind === 'synth' || kind === 'drum-machine'),
  ].flatMap(({ id, name }) => {
    const steps = plugs(rig, id)
    return steps.length === 0 ? [] : [{ heading: `${name}: cables`, steps }]
  })
}
