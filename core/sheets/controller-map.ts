import { printTag } from '../midi'
import {
  gestureName,
  MESSAGE_KIND_NAME,
  modelOf,
  placeRef,
  rigIndex,
  type Controller,
  type Id,
  type LightRole,
  type Message,
  type Moment,
  type Place,
  type Rig,
  type Template,
} from '../rig'
import { programmedAt, type Programmed } from '../rig/program/bulk'
import { placesOver } from '../rig/program/places'
import { behaves, chosenBy, doesBy, sendersAt } from './doing'
import { columns, figure, numeral, row, words, type Row, type Section, type SheetDocument } from './document'

const MOMENT_WORDS: Readonly<Record<Moment, string>> = {
  move: '',
  press: 'pressed',
  release: 'let go',
  'long-press': 'held long',
  'double-press': 'pressed twice',
  'layer-shown': 'when the layer shows',
}

/** How finely a message tells values apart: “14 bit”, “5 steps”. */
export function resolutionWords(message: Message): string {
  if ('resolution' in message && message.resolution.kind === 'steps')
    return `${message.resolution.count} steps`
  switch (message.kind) {
    case 'cc14':
    case 'pitchBend':
      return '14 bit'
    case 'nrpn':
    case 'rpn':
      return message.steps === 'increments' ? 'clicks' : message.sendsLsb ? '14 bit' : '7 bit'
    case 'cc':
      return message.behaviour.kind === 'absolute' ? '7 bit' : ''
    default:
      return ''
  }
}

/** What a light says, in words: its role with its letter, and who sets it. */
export function lightWords(roles: readonly LightRole[], { light }: Programmed['assignment']): string {
  const role = light && roles.find(({ id }) => id === light.role)
  if (!light || !role) return ''
  const by = {
    press: 'as pressed',
    feedback: 'as sent back',
    'one-of-many': light.setBy.kind === 'one-of-many' ? `one of ${light.setBy.group}` : '',
    steady: light.setBy.kind === 'steady' ? `always ${light.setBy.state}` : '',
  }[light.setBy.kind]
  return `${role.letter} ${role.name}, ${by}`
}

function rowsAt(rig: Rig, programmed: Programmed): Row[] {
  const { place, control, gesture, assignment } = programmed
  const chosen = chosenBy(rig, placeRef(place))
  return sendersAt(rig, place).map((sender, index) => {
    const { message, address } = sender
    const range = 'range' in message ? message.range : null
    const does = [...doesBy(rig, sender), ...(index === 0 ? chosen : [])]
    return row(
      [
        words(gestureName(control, gesture)),
        figure(address ? printTag(address) : 'number wanted'),
        words(
          [MESSAGE_KIND_NAME[message.kind], MOMENT_WORDS[message.moment] ?? ''].filter(Boolean).join(', '),
        ),
        numeral(range?.low ?? null),
        numeral(range?.high ?? null),
        words(behaves(message)),
        words(resolutionWords(message)),
        words(does.join('; ')),
        words(index === 0 ? lightWords(rig.lightRoles, assignment) : ''),
        words(
          index === 0 ? [assignment.pinned ? 'pinned' : '', assignment.memo].filter(Boolean).join('; ') : '',
        ),
      ],
      { kind: 'place', place },
    )
  })
}

const COLUMNS = columns(
  'Control',
  'Sends',
  'Message',
  { figures: 'From' },
  { figures: 'To' },
  'Behaviour',
  'Resolution',
  'Moves',
  'Light',
  'Memo',
)

/** The places of a template under their headings: what is always on, then each layer. */
function placesByLayer(rig: Rig, controller: Controller, template: Template): Array<[string, Place[]]> {
  const gestures = modelOf(rig, controller).surface.controls.flatMap(({ id, gestures: own, silent }) =>
    silent ? [] : own.map((gesture) => `${id}.${gesture}`),
  )
  const all = placesOver(controller, template, gestures, 'all-layers')
  const of = (layer: Id | null): Place[] => all.filter((place) => place.layer === layer)
  return [
    ['always on', of(null)],
    ...template.stacks.flatMap((stack) =>
      stack.layers.map((layer): [string, Place[]] => [
        template.stacks.length > 1 ? `${stack.name}, ${layer.name}` : layer.name,
        of(layer.id),
      ]),
    ),
  ]
}

function sectionOf(rig: Rig, heading: string, places: readonly Place[]): Section[] {
  if (places.length === 0) return []
  const all = places.flatMap((place) => programmedAt(rig, place) ?? [])
  const rows = all.flatMap((programmed) => rowsAt(rig, programmed))
  const silent = all.filter(({ place }) => sendersAt(rig, place).length === 0)
  const still = silent
    .map(({ control, gesture, place }) => {
      const chosen = chosenBy(rig, placeRef(place))
      const name = gestureName(control, gesture)
      return chosen.length > 0 ? `${name} (${chosen.join('; ')})` : name
    })
    .join(', ')
  return [
    {
      heading,
      ...(still === '' ? {} : { note: `Sends nothing: ${still}.` }),
      table: { columns: COLUMNS, rows },
    },
  ]
}

/**
 * All that a controller sends, layer by layer: messages, ranges, behaviour, lights, and what they move. Throws a RangeError
 * for a controller that is not in the rig.
 */
export function controllerMap(rig: Rig, id: Id): SheetDocument {
  const controller = rigIndex(rig).controllers.get(id)
  if (!controller) throw new RangeError(`The rig has no controller “${id}”.`)
  const model = modelOf(rig, controller)
  const several = controller.templates.length > 1
  const sections = controller.templates.flatMap((template) =>
    placesByLayer(rig, controller, template).flatMap(([heading, places]) =>
      sectionOf(rig, several ? `${template.name}: ${heading}` : heading, places),
    ),
  )
  const analog = model.surface.controls.filter(({ silent }) => silent).map(({ label }) => label)
  return {
    title: `${controller.name}: controller map`,
    subtitle: rig.name,
    facts: [
      { label: 'Home channel', value: String(controller.homeChannel) },
      { label: 'Connected by', value: model.abilities.connection === 'usb' ? 'USB' : 'DIN' },
      ...(controller.inUse ? [] : [{ label: 'State', value: 'put away' }]),
      ...(analog.length === 0 ? [] : [{ label: 'Purely analog', value: analog.join(', ') }]),
      ...(controller.notes === '' ? [] : [{ label: 'Notes', value: controller.notes }]),
    ],
    sections:
      sections.length > 0
        ? sections
        : [{ heading: 'Nothing to send', note: 'No control of this controller sends anything.' }],
  }
}
