import { noteName, printTag, printTarget, type Address } from '../midi'
import { emit } from '../addresses'
import { chartedAt, mappingState, moverName, printListening, type MappingState } from '../mappings'
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
import { figure, words, type Cell, type Section, type SheetDocument } from './document'

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

function rangeWords(mapping: Mapping, destination: Destination): string {
  const range = parameterOf(destination, mapping.parameter)?.range
  const low = mapping.min ?? range?.min
  const high = mapping.max ?? range?.max
  if (low === undefined || high === undefined) return ''
  const [from, to] = mapping.inverted ? [high, low] : [low, high]
  const unit = range?.unit ?? ''
  return `${from} to ${to}${unit === '' ? '' : ` ${unit}`}`
}

/** Mappings of a destination in the order of its parameters, everywhere before named scopes. */
function inOrder(rig: Rig, destination: Destination): Mapping[] {
  const position = new Map(destination.parameters.map(({ id }, index) => [id, index]))
  const scopes = destination.scopes.map(({ id }) => id)
  const rank = (mapping: Mapping): number => (mapping.scope === null ? -1 : scopes.indexOf(mapping.scope))
  return rig.mappings
    .filter((mapping) => mapping.destination === destination.id)
    .sort((a, b) => (position.get(a.parameter) ?? 0) - (position.get(b.parameter) ?? 0) || rank(a) - rank(b))
}

function mappingRow(rig: Rig, destination: Destination, mapping: Mapping): Cell[] {
  const found = mapping.gesture === null ? null : findGesture(rig, mapping.gesture)
  const parameter = parameterOf(destination, mapping.parameter)
  const state = mappingState(rig, mapping)
  const scope = destination.scopes.find(({ id }) => id === mapping.scope)?.name ?? 'everywhere'
  return [
    words(parameter ? parameterName(parameter) : ''),
    words(found?.controller.name ?? ''),
    words(moverName(rig, mapping) ?? ''),
    figure(
      state.meeting.length > 0
        ? tags(state.meeting)
        : state.listening
          ? printTag(state.listening)
          : tags(state.sent),
    ),
    words(rangeWords(mapping, destination)),
    words(scope),
    words(movesSmoothly(parameter) ? TAKEOVER_WORDS[mapping.takeover] : ''),
    words(stateWords(state, parameter?.fixed !== null)),
  ]
}

function mappedSection(rig: Rig, destination: Destination): Section {
  const rows = inOrder(rig, destination).map((mapping) => mappingRow(rig, destination, mapping))
  return {
    heading: 'What moves it',
    note: rows.length === 0 ? 'No control is joined to it yet.' : undefined,
    table: {
      columns: [
        'Parameter',
        'Controller',
        'Control',
        'Address',
        'Range',
        'Counts in',
        'Takeover',
        'State',
      ].map((title) => ({ title })),
      rows,
    },
  }
}

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
      return [
        words(parameterName(parameter)),
        figure(charted ? printListening(charted) : ''),
        words(range ? `${range.min} to ${range.max} ${range.unit}`.trim() : ''),
      ]
    })
  return {
    heading: 'What nothing moves',
    note: rows.length === 0 ? 'Every parameter has a control.' : undefined,
    table: { columns: [{ title: 'Parameter' }, { title: 'Fixed address' }, { title: 'Range' }], rows },
  }
}

function notesSection(destination: Destination): Section | null {
  if (destination.noteNames.length === 0) return null
  return {
    heading: 'Notes',
    table: {
      columns: [{ title: 'Note', align: 'right' }, { title: 'Name' }, { title: 'Sound' }],
      rows: destination.noteNames.map(({ number, name }) => [
        figure(String(number)),
        figure(noteName(number, destination.middleC)),
        words(name),
      ]),
    },
  }
}

function programsSection(destination: Destination): Section | null {
  if (destination.programs.length === 0) return null
  return {
    heading: 'Programs',
    note: `${destination.name} counts its programs from ${destination.countsFrom}.`,
    table: {
      columns: [{ title: 'Shown as', align: 'right' }, { title: 'Sent as' }, { title: 'Name' }],
      rows: destination.programs.map(({ number, bank, name }) => [
        figure(String(number + destination.countsFrom)),
        figure(printTarget({ kind: 'program', number, bank })),
        words(name),
      ]),
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
      columns: [
        { title: 'Channel', align: 'right' },
        { title: 'Numbers' },
        { title: 'For' },
        { title: 'Meant for' },
      ],
      rows: destination.claims.map((claim) => [
        figure(channelOf(claim.channel)),
        figure(`${claim.kind}${claim.low}-${claim.high}`),
        words(claim.function),
        words(served(claim.serves)),
      ]),
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
export function destinationMap(rig: Rig, id: Id): SheetDocument {
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
      mappedSection(rig, destination),
      keptSection(destination),
      notesSection(destination),
      programsSection(destination),
      unmovedSection(rig, destination),
    ].filter((section) => section !== null),
  }
}
