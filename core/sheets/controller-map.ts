import { printTag } from '../midi'
import {
  gestureName,
  lightWords,
  MESSAGE_KIND_NAME,
  modelOf,
  MOMENT_WORDS,
  placeRef,
  resolutionWords,
  rigIndex,
  type Controller,
  type Id,
  type Place,
  type Rig,
  type Template,
} from '../rig'
import { programmedAt, type Programmed } from '../rig/program/bulk'
import { placesOver } from '../rig/program/places'
import { behaves, chosenBy, doesBy, sendersAt } from './doing'
import { columns, figure, numeral, row, words, type Row, type Section, type SheetDocument } from './document'

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
