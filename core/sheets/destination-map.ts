import { noteName, printTag, printTarget, type Address } from '../midi'
import { emit } from '../addresses'
import {
  chartedAt,
  drivesOf,
  mappingFacts,
  mappingState,
  moverName,
  printListening,
  resolveMappings,
  type MappingState,
} from '../mappings'
import {
  findGesture,
  parameterName,
  parameterOf,
  rigIndex,
  TAKEOVER_WORDS,
  type Destination,
  type Id,
  type Mapping,
  type Parameter,
  type Rig,
} from '../rig'
import { columns, figure, numeral, row, words, type Row, type Section, type SheetDocument } from './document'

const KIND_WORDS: Readonly<Record<Destination['kind'], string>> = {
  daw: 'DAW',
  plugin: 'plugin',
  synth: 'synth',
  'drum-machine': 'drum machine',
}

const tags = (addresses: readonly Address[]): string => addresses.map(printTag).join(', ')

/** How a mapping stands; a parameter that cannot learn needs its control to send what it listens for. */
function stateWords({ agreement, sent }: MappingState, isCharted: boolean): string {
  switch (agreement) {
    case 'agrees':
      return 'in order'
    case 'differs':
      return isCharted ? `control sends ${tags(sent) || 'nothing'}` : 'teach again'
    case 'lost':
      return 'does not arrive'
    case 'silent':
      return 'control sends nothing'
    case 'put-away':
      return 'controller put away'
    case 'not-taught':
      return 'not yet taught'
    case 'no-control':
      return 'control gone'
  }
}

/** Takeover is a matter of parameters that move; the rest are set or set off. */
const movesSmoothly = (parameter: Parameter | null): boolean =>
  parameter?.kind === 'continuous' &&
  parameter.fixed?.kind !== 'pitchBend' &&
  parameter.fixed?.kind !== 'channelPressure'

function hearsWords({ hears }: Destination): string {
  const { channels } = hears.playing
  switch (channels.kind) {
    case 'apart':
      return 'all channels, each by itself'
    case 'merged':
      return 'all channels taken for one'
    case 'only':
      return `channel ${channels.channels.join(', ')} only`
  }
}

function rangeWords(mapping: Mapping, parameter: Parameter | null): string {
  const range = parameter?.range
  const low = mapping.min ?? range?.min
  const high = mapping.max ?? range?.max
  if (low === undefined || high === undefined) return ''
  const [from, to] = mapping.inverted ? [high, low] : [low, high]
  const unit = range?.unit ?? ''
  return `${from} to ${to}${unit === '' ? '' : ` ${unit}`}`
}

/** A value as it is read: no more digits than say something. */
const read = (value: number): string => String(Number(value.toPrecision(3)))

/** How much one step of the control moves the parameter: the smallest to the largest, or a click. */
function stepWords(
  rig: Rig,
  mapping: Mapping,
  destination: Destination,
  parameter: Parameter | null,
): string {
  const [resolved] = resolveMappings(rig, [mapping])
  const [drive] = resolved ? drivesOf(rig, resolved) : []
  const found = mapping.gesture === null ? null : findGesture(rig, mapping.gesture)
  if (!drive || !parameter || !found) return ''
  const { click, coverage, range } = mappingFacts(
    mapping,
    parameter,
    destination,
    drive.message,
    found.control,
  )
  const unit = range.span.unit === '' ? '' : ` ${range.span.unit}`
  if (click !== null) return `${read(click)}${unit} a click`
  const [small, large] = [coverage?.smallestStep ?? null, coverage?.largestStep ?? null]
  if (small === null || large === null) return ''
  const [least, most] = [read(small), read(large)]
  return least === most ? `${least}${unit}` : `${least} to ${most}${unit}`
}

/** By what a map is put in order, and under which headings. */
export type MapOrder = 'parameter' | 'controller' | 'scope'

/** Mappings of a destination in the order of its parameters, everywhere before named scopes. */
function inOrder(rig: Rig, destination: Destination): Mapping[] {
  const position = new Map(destination.parameters.map(({ id }, index) => [id, index]))
  const scopes = new Map(destination.scopes.map(({ id }, index) => [id, index]))
  const rank = ({ scope }: Mapping): number => (scope === null ? -1 : (scopes.get(scope) ?? -1))
  return rig.mappings
    .filter((mapping) => mapping.destination === destination.id)
    .sort((a, b) => (position.get(a.parameter) ?? 0) - (position.get(b.parameter) ?? 0) || rank(a) - rank(b))
}

const controllerOf = (rig: Rig, { gesture }: Mapping): string =>
  (gesture === null ? null : findGesture(rig, gesture)?.controller.name) ?? ''
const scopeOf = ({ scopes }: Destination, { scope }: Mapping): string =>
  scopes.find(({ id }) => id === scope)?.name ?? 'everywhere'

function mappingRow(rig: Rig, destination: Destination, mapping: Mapping): Row {
  const parameter = parameterOf(destination, mapping.parameter)
  const state = mappingState(rig, mapping)
  const smooth = movesSmoothly(parameter)
  return row(
    [
      words(parameter ? parameterName(parameter) : ''),
      words(controllerOf(rig, mapping)),
      words(moverName(rig, mapping) ?? ''),
      figure(
        state.meeting.length > 0
          ? tags(state.meeting)
          : state.listening
            ? printTag(state.listening)
            : tags(state.sent),
      ),
      words(rangeWords(mapping, parameter)),
      words(smooth ? (mapping.inverted ? 'turned round' : 'as moved') : ''),
      words(smooth ? CURVE_WORDS[mapping.curve] : ''),
      words(smooth ? TAKEOVER_WORDS[mapping.takeover] : ''),
      words(stepWords(rig, mapping, destination, parameter)),
      words(scopeOf(destination, mapping)),
      words(stateWords(state, parameter?.fixed !== null)),
    ],
    { kind: 'parameter', destination: destination.id, parameter: mapping.parameter },
  )
}

const CURVE_WORDS: Readonly<Record<Mapping['curve'], string>> = {
  linear: 'straight',
  exponential: 'exponential',
  logarithmic: 'logarithmic',
  s: 'S-shaped',
}

const MAPPED_COLUMNS = columns(
  'Parameter',
  'Controller',
  'Control',
  'Address',
  'Range',
  'Direction',
  'Curve',
  'Takeover',
  'Step',
  'Counts in',
  'State',
)

/** Mappings under the headings of an order; all under one where they stand by parameter. */
function groupsOf(rig: Rig, destination: Destination, order: MapOrder): Array<[string, Mapping[]]> {
  const all = inOrder(rig, destination)
  if (order === 'parameter' || all.length === 0) return [['What moves it', all]]
  const groups = new Map<string, Mapping[]>()
  for (const mapping of all) {
    const name =
      order === 'controller'
        ? `By ${controllerOf(rig, mapping) || 'a control that is gone'}`
        : `Counts in ${scopeOf(destination, mapping)}`
    groups.set(name, [...(groups.get(name) ?? []), mapping])
  }
  return [...groups]
}

const mappedSections = (rig: Rig, destination: Destination, order: MapOrder): Section[] =>
  groupsOf(rig, destination, order).map(([heading, mappings]) => ({
    heading,
    ...(mappings.length === 0 ? { note: 'No control is joined to it yet.' } : {}),
    table: {
      columns: MAPPED_COLUMNS,
      rows: mappings.map((mapping) => mappingRow(rig, destination, mapping)),
    },
  }))

function unmovedSection(rig: Rig, destination: Destination): Section {
  const mapped = new Set(
    rig.mappings
      .filter((mapping) => mapping.destination === destination.id)
      .map(({ parameter }) => parameter),
  )
  const rows = destination.parameters
    .filter(({ id }) => !mapped.has(id))
    .map((parameter) => {
      const charted = chartedAt(parameter)
      const { range } = parameter
      return row(
        [
          words(parameterName(parameter)),
          figure(charted ? printListening(charted) : ''),
          words(range ? `${range.min} to ${range.max} ${range.unit}`.trim() : ''),
        ],
        { kind: 'parameter', destination: destination.id, parameter: parameter.id },
      )
    })
  if (destination.parameters.length === 0)
    return {
      heading: 'What nothing moves',
      note: 'This destination has no parameters yet: add them in its view in Rig.',
    }
  return {
    heading: 'What nothing moves',
    ...(rows.length === 0 ? { note: 'Every parameter has a control.' } : {}),
    table: { columns: columns('Parameter', 'Fixed address', 'Range'), rows },
  }
}

function notesSection(destination: Destination): Section | null {
  if (destination.noteNames.length === 0) return null
  return {
    heading: 'Notes',
    table: {
      columns: columns({ figures: 'Note' }, 'Name', 'Sound'),
      rows: destination.noteNames.map(({ number, name }) =>
        row([numeral(number), figure(noteName(number, destination.middleC)), words(name)]),
      ),
    },
  }
}

function programsSection(destination: Destination): Section | null {
  if (destination.programs.length === 0) return null
  return {
    heading: 'Programs',
    note: `${destination.name} counts its programs from ${destination.countsFrom}.`,
    table: {
      columns: columns({ figures: 'Shown as' }, 'Sent as', 'Name'),
      rows: destination.programs.map(({ number, bank, name }) =>
        row([
          numeral(number + destination.countsFrom),
          figure(printTarget({ kind: 'program', number, bank })),
          words(name),
        ]),
      ),
    },
  }
}

function keptSection(destination: Destination): Section | null {
  if (destination.claims.length === 0) return null
  const channelOf = (channel: number | null): string => (channel === null ? 'any' : String(channel))
  const served = (ids: readonly Id[]): string =>
    ids
      .flatMap((id) => parameterOf(destination, id) ?? [])
      .map(parameterName)
      .join(', ')
  return {
    heading: 'Kept for itself',
    table: {
      columns: columns({ figures: 'Channel' }, 'Numbers', 'For', 'Meant for'),
      rows: destination.claims.map((claim) =>
        row([
          figure(channelOf(claim.channel)),
          figure(`${claim.kind}${claim.low}-${claim.high}`),
          words(claim.function),
          words(served(claim.serves)),
        ]),
      ),
    },
  }
}

/** Controllers in use of which at least one message arrives at a destination. */
function sources(rig: Rig, destination: Destination): string {
  const heard = new Set(
    emit(rig)
      .filter(({ bus }) => bus.destination === destination.id)
      .map(({ sender }) => sender.place.controller),
  )
  return rig.controllers
    .filter(({ id }) => heard.has(id))
    .map(({ name }) => name)
    .join(', ')
}

/**
 * The map of one destination: what moves each of its parameters, what nothing moves, its notes,
 * programs and kept addresses. Throws a RangeError for a destination that is not in the rig.
 */
export function destinationMap(rig: Rig, id: Id, order: MapOrder = 'parameter'): SheetDocument {
  const { destinations } = rigIndex(rig)
  const destination = destinations.get(id)
  if (!destination) throw new RangeError(`The rig has no destination “${id}”.`)
  const host = destination.inside === null ? null : destinations.get(destination.inside)
  const from = sources(rig, destination)
  return {
    title: `${destination.name}: destination map`,
    subtitle: rig.name,
    facts: [
      { label: 'Kind', value: KIND_WORDS[destination.kind] + (host ? ` in ${host.name}` : '') },
      { label: 'Hears', value: hearsWords(destination) },
      ...(from === '' ? [] : [{ label: 'Connected', value: from }]),
    ],
    sections: [
      ...mappedSections(rig, destination, order),
      keptSection(destination),
      notesSection(destination),
      programsSection(destination),
      unmovedSection(rig, destination),
    ].filter((section) => section !== null),
  }
}
