import { CHANNELS, channelOf, printTag, type ChannelTarget } from '../../midi'
import type { PropertyControl, PropertyDocument, PropertyKind, PropertyWay } from '../../midi/properties'
import { controlName, GESTURE_WORD, parameterName } from '../lookup'
import { topOf } from '../messages'
import { assignmentsOf, splitGestureKey, stackOfLayer, type PlacedAssignment } from '../places'
import { Parameter as ParameterSchema } from '../schema'
import type { Controller, Destination, FixedAddress, Id, Message, Model, Parameter } from '../types'
import type { FromNames } from './names'
import { takeId } from './parameter-table'
import type { TableRow } from './table'

/** Between the parts of a full name. */
const SEPARATOR = ' · '
const SEVEN_BITS = 7
const FOURTEEN_BITS = 14
const PAIRS_BELOW = 32

/** What a message or a fixed address is by its kind: what it is called, and of how many bits. Null where there is no such controller. */
function sentAs(target: Pick<ChannelTarget, 'kind'>): { kind: PropertyKind; bits: number } | null {
  switch (target.kind) {
    case 'cc':
      return { kind: 'cc', bits: SEVEN_BITS }
    case 'cc14':
      return { kind: 'cc', bits: FOURTEEN_BITS }
    case 'nrpn':
    case 'rpn':
      return { kind: target.kind, bits: FOURTEEN_BITS }
    case 'pitchBend':
      return { kind: 'pBend', bits: FOURTEEN_BITS }
    case 'channelPressure':
      return { kind: 'chPress', bits: SEVEN_BITS }
    case 'polyPressure':
      return { kind: 'pPress', bits: SEVEN_BITS }
    default:
      return null
  }
}

function heardAt(parameter: Parameter): PropertyControl[] {
  const { fixed, kind, choices, steps } = parameter
  const as = fixed && sentAs(fixed)
  if (!fixed || !as) return []
  return [
    {
      title: parameterName(parameter),
      ...as,
      number: 'number' in fixed ? fixed.number : 0,
      channel: fixed.channel,
      transmit: 'none',
      recognize: kind === 'relative' ? 'relative' : 'absolute',
      steps: steps ?? (choices.length > 0 ? choices.length : null),
      range: null,
    },
  ]
}

/** What a destination says of itself by property exchange: the channels it hears, its fixed numbers and its presets. */
export function destinationProperties(destination: Destination): PropertyDocument {
  const { name, hears, parameters, programs } = destination
  const { channels } = hears.playing
  const heard = channels.kind === 'only' ? channels.channels : CHANNELS
  return {
    device: { manufacturer: name, family: name, model: name, version: '' },
    channels: heard.map((channel) => ({ title: `${name} ${channel}`, channel })),
    controls: parameters.flatMap(heardAt),
    programs: programs.map(({ name: title, bank, number }) => ({
      title,
      bank: bank ?? { msb: 0, lsb: 0 },
      number,
    })),
  }
}

function titleOf(controller: Controller, model: Model, { place }: PlacedAssignment): string {
  const { control: id, gesture } = splitGestureKey(place.gesture)
  const control = model.surface.controls.find((each) => each.id === id)
  const template = controller.templates.find((each) => each.id === place.template)
  const layer =
    place.layer === null || !template
      ? undefined
      : stackOfLayer(template, place.layer)?.layers.find((each) => each.id === place.layer)
  const name = control ? controlName(control) : id
  const movement = control?.gestures[0] === gesture ? name : `${name}, ${GESTURE_WORD[gesture]}`
  return layer ? `${layer.name}${SEPARATOR}${movement}` : movement
}

function sentBy(message: Message, title: string, homeChannel: number): PropertyControl[] {
  const as = message.kind === 'off' ? null : sentAs({ kind: message.kind } as ChannelTarget)
  if (!as || message.kind === 'off' || !('channel' in message)) return []
  const number = 'number' in message ? message.number : 0
  const channel = channelOf(message, homeChannel)
  if (typeof number !== 'number' || channel === null) return []
  const isRelative = 'behaviour' in message && message.behaviour.kind === 'relative'
  const isSteps = 'steps' in message && message.steps === 'increments'
  const way: PropertyWay = isRelative || isSteps ? 'relative' : 'absolute'
  const top = topOf(message)
  const range = 'range' in message && !isRelative ? message.range : null
  const [low, high] = range
    ? [Math.min(range.low, range.high), Math.max(range.low, range.high)]
    : [0, top ?? 0]
  return [
    {
      title,
      ...as,
      number,
      channel,
      transmit: way,
      recognize: 'none',
      steps:
        'behaviour' in message && message.behaviour.kind === 'list' ? message.behaviour.values.length : null,
      range: top === null || (low === 0 && high === top) ? null : { low, high },
    },
  ]
}

/**
 * What a controller says of itself by property exchange: the channels it sends on, and everything that its templates send as controllers.
 * Notes, programs and what has no channel are no controllers there.
 */
export function controllerProperties(controller: Controller, model: Model): PropertyDocument {
  const controls = [...assignmentsOf(controller)].flatMap((placed) =>
    placed.assignment.messages.flatMap((message) =>
      sentBy(message, titleOf(controller, model, placed), controller.homeChannel),
    ),
  )
  const channels = [...new Set(controls.flatMap(({ channel }) => channel ?? []))].toSorted((a, b) => a - b)
  const { name } = controller
  return {
    device: { manufacturer: name, family: model.name, model: name, version: '' },
    channels: channels.map((channel) => ({ title: `${name} ${channel}`, channel })),
    controls,
    programs: [],
  }
}

const PARAMETER_KINDS: Readonly<Record<PropertyWay, Parameter['kind']>> = {
  absolute: 'continuous',
  both: 'continuous',
  none: 'continuous',
  relative: 'relative',
}

/** Where a controller of property exchange lies; a CC of more than 7 bits is a pair. Null where nothing can be mapped there. */
function targetOf({
  kind,
  number,
  bits,
}: PropertyControl): Exclude<FixedAddress['kind'], 'note' | 'program'> | null {
  switch (kind) {
    case 'cc':
      return bits > SEVEN_BITS && number > 0 && number < PAIRS_BELOW ? 'cc14' : 'cc'
    case 'nrpn':
    case 'rpn':
      return kind
    case 'pBend':
      return 'pitchBend'
    case 'chPress':
      return 'channelPressure'
    case 'pPress':
      return null
  }
}

function parameterFrom(control: PropertyControl, ids: Set<Id>, left: string[]): Parameter[] {
  const { title, recognize, channel, number, steps } = control
  if (recognize === 'none') {
    left.push(`“${title}” is left out: it is sent, and not heard.`)
    return []
  }
  const kind = targetOf(control)
  const parts = title.split(SEPARATOR)
  const parsed = ParameterSchema.safeParse({
    id: takeId(title, ids),
    name: parts.at(-1),
    path: parts.slice(0, -1),
    kind: PARAMETER_KINDS[recognize],
    steps: steps !== null && steps >= 2 ? steps : null,
    fixed:
      kind === null
        ? null
        : kind === 'pitchBend' || kind === 'channelPressure'
          ? { kind, channel }
          : { kind, channel, number },
  })
  if (kind !== null && parsed.success) return [parsed.data]
  left.push(`“${title}” is left out: a parameter cannot listen there.`)
  return []
}

/** What a device says of itself, as parts of a destination; `taken` are the ids of parameters it has. */
export function fromProperties({ controls, programs }: PropertyDocument, taken: ReadonlySet<Id>): FromNames {
  const ids = new Set(taken)
  const left: string[] = []
  return {
    parameters: controls.flatMap((control) => parameterFrom(control, ids, left)),
    noteNames: [],
    programs: programs.map(({ title, bank, number }) => ({ name: title, bank, number })),
    left,
  }
}

/** The address as a tag; null for what a tag says by its keys. */
function tagOf(control: PropertyControl): string | null {
  const { number, channel } = control
  const kind = targetOf(control)
  if (kind === null) return null
  const target = kind === 'pitchBend' || kind === 'channelPressure' ? { kind } : { kind, number }
  return printTag({ scope: 'channel', channel: channel ?? 'home', target })
}

/** Why what a controller says of itself cannot be a line of a table, in words that go on from its name; null where it can. */
function whyNoRow({ kind, transmit }: PropertyControl): string | null {
  if (transmit === 'none') return 'it is heard, and not sent.'
  if (transmit === 'relative')
    return 'it is relative, and such a list does not say in which encoding. Learn it by moving it.'
  return kind === 'pPress'
    ? 'it is the pressure of single keys, and such a list does not say of which.'
    : null
}

const HEADINGS = ['Control', 'Layer', 'Movement', 'Address', 'From', 'To'] as const
const isMovement = (word: string): boolean => Object.values(GESTURE_WORD).includes(word)

/** A title of a controller’s own list in its parts: control, layer, movement. */
function partsOf(title: string): [control: string, layer: string, movement: string] {
  const [rest = '', layer = ''] = title.split(SEPARATOR).toReversed()
  const comma = rest.lastIndexOf(', ')
  const movement = comma < 0 ? '' : rest.slice(comma + 2)
  return isMovement(movement) ? [rest.slice(0, comma), layer, movement] : [rest, layer, '']
}

/**
 * What a controller sends by its own list, as a table that can be read (`assignmentsFrom`), with headings. What is relative is left out: it
 * does not say in which encoding.
 */
export function propertyRows({ controls }: PropertyDocument): { rows: TableRow[]; left: string[] } {
  const left: string[] = []
  const rows = controls.flatMap((control): TableRow[] => {
    const { title, range } = control
    const why = whyNoRow(control)
    if (why !== null) {
      left.push(`“${title}” is left out: ${why}`)
      return []
    }
    const [name, layer, movement] = partsOf(title)
    return [
      {
        line: 0,
        cells: [
          name,
          layer,
          movement,
          tagOf(control) ?? '',
          String(range?.low ?? ''),
          String(range?.high ?? ''),
        ],
      },
    ]
  })
  return {
    rows: [{ line: 0, cells: HEADINGS }, ...rows].map((row, index) => ({ ...row, line: index + 1 })),
    left,
  }
}
