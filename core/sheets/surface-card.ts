import { modelOf, powerUpShowing, rigIndex, type Controller, type Id, type Rig, type Template } from '../rig'
import { cardControls, cardDrawing, type CardControl, type NamedShowing } from './card/card'
import { cardPages, pagesWords, type CardPaper } from './card/pages'
import {
  columns,
  figure,
  words,
  type Cell,
  type Row,
  type Section,
  type SheetDocument,
  type Table,
} from './document'

/** A card for each layer, or one on which every control says what it does in all of them. */
export type CardLayers = 'apart' | 'together'

/** What a controller shows as a template is loaded, then with each layer of each stack in turn. */
export function showingsOf(controller: Controller, template: Template): NamedShowing[] {
  const start = powerUpShowing(controller, template.id)
  const layers = template.stacks.flatMap((stack) =>
    stack.layers.map((layer) => ({
      name: template.stacks.length > 1 ? `${stack.name}, ${layer.name}` : layer.name,
      showing: { ...start, layers: { ...start.layers, [stack.id]: layer.id } },
    })),
  )
  return layers.length > 0 ? layers : [{ name: '', showing: start }]
}

const lightCell = (light: CardControl['lines'][number]['light']): Cell =>
  light
    ? {
        text: `${light.role.letter} ${light.role.name} (${light.pattern})`,
        swatch: light.colour,
        pattern: light.pattern,
      }
    : words('')

/** Everything that the drawing of a card says, in full; `whole` are the controls of which the drawing says all. */
const tableOf = (controls: readonly CardControl[], whole: ReadonlySet<Id>): Table => ({
  columns: columns('Control', 'Layer', 'Sends', 'Moves', 'Light'),
  rows: controls.flatMap(({ control, lines }) =>
    lines.map(({ name, showing, place, tags, does, light }): Row => ({
      cells: [words(name), words(showing), figure(tags.join(', ')), words(does.join('; ')), lightCell(light)],
      lead: { kind: 'place', place },
      isDrawn: whole.has(control.id),
    })),
  ),
})

function sectionsOf(rig: Rig, controller: Controller, template: Template, layers: CardLayers): Section[] {
  const several = controller.templates.length > 1
  const named = (name: string): string => (several ? [template.name, name].filter(Boolean).join(': ') : name)
  const showings = showingsOf(controller, template)
  const groups: Array<[string, NamedShowing[]]> =
    layers === 'together'
      ? [['', showings]]
      : showings.map((each): [string, NamedShowing[]] => [each.name, [each]])
  return groups.map(([name, group]) => {
    const controls = cardControls(rig, controller, group)
    const heading = named(name)
    const { drawing, whole } = cardDrawing(rig, controller, heading, controls, group.length > 1)
    return {
      heading: heading === '' ? controller.name : heading,
      drawing,
      table: tableOf(controls, whole),
    }
  })
}

/**
 * A controller drawn true to scale, to print and lay beside it: each control with its label, what it moves and where it is
 * sent. What has no room on the drawing stands in full below it. Throws a RangeError for a controller that is not in the rig.
 */
export function surfaceCard(
  rig: Rig,
  id: Id,
  layers: CardLayers = 'apart',
  paper: CardPaper = 'a4',
): SheetDocument {
  const controller = rigIndex(rig).controllers.get(id)
  if (!controller) throw new RangeError(`The rig has no controller “${id}”.`)
  const { surface } = modelOf(rig, controller)
  const sections = controller.templates.flatMap((template) => sectionsOf(rig, controller, template, layers))
  const [first] = sections
  const pages = first?.drawing ? pagesWords(cardPages(first.drawing, paper), paper) : ''
  return {
    title: `${controller.name}: surface card`,
    subtitle: rig.name,
    paper,
    facts: [
      { label: 'Surface', value: `${surface.width} × ${surface.height} mm` },
      { label: 'Print', value: pages },
      { label: 'Cards', value: String(sections.length) },
      ...(controller.inUse ? [] : [{ label: 'State', value: 'put away' }]),
    ],
    sections,
  }
}
