import {
  modelOf,
  rigIndex,
  spansOf,
  type Controller,
  type Destination,
  type FixedAddress,
  type Id,
  type Message,
  type Rig,
} from '../rig'
import { controllerName } from '../midi'
import { sendersIn } from '../addresses'
import { keysOf } from '../mappings'
import { columns, row, words, type Row, type Section, type SheetDocument } from './document'

/** What the chart says of a function: it does it, does not, or the rig does not say. */
type Answer = { is: 'yes' | 'no' | 'unsaid'; text?: string }
const YES: Answer = { is: 'yes' }
const NO: Answer = { is: 'no' }
const UNSAID: Answer = { is: 'unsaid' }

/** One half of the chart: what is transmitted, or what is recognized. */
interface Half {
  defaultChannel: Answer
  channels: Answer
  noteNumbers: Answer
  noteOn: Answer
  noteOff: Answer
  keyPressure: Answer
  channelPressure: Answer
  pitchBend: Answer
  /** Controller numbers, with what they do. */
  controllers: ReadonlyMap<number, string>
  /** Is every controller taken, or told by learning? */
  learns: string
  program: Answer
  sysex: Answer
  clock: Answer
  commands: Answer
  localControl: Answer
  allNotesOff: Answer
  remarks: readonly string[]
}

const NOTHING: Half = {
  defaultChannel: NO,
  channels: NO,
  noteNumbers: NO,
  noteOn: NO,
  noteOff: NO,
  keyPressure: NO,
  channelPressure: NO,
  pitchBend: NO,
  controllers: new Map(),
  learns: '',
  program: NO,
  sysex: NO,
  clock: NO,
  commands: NO,
  localControl: NO,
  allNotesOff: NO,
  remarks: [],
}
const UNKNOWN: Half = {
  ...NOTHING,
  defaultChannel: UNSAID,
  channels: UNSAID,
  noteNumbers: UNSAID,
  noteOn: UNSAID,
  noteOff: UNSAID,
  keyPressure: UNSAID,
  channelPressure: UNSAID,
  pitchBend: UNSAID,
  program: UNSAID,
  sysex: UNSAID,
  clock: UNSAID,
  commands: UNSAID,
  localControl: UNSAID,
  allNotesOff: UNSAID,
}

const some = (numbers: readonly number[]): Answer =>
  numbers.length === 0 ? NO : { is: 'yes', text: spansOf(numbers) }

function notesOf(messages: readonly Message[]): number[] {
  return messages.flatMap((message) => {
    if (message.kind !== 'note') return []
    const span = keysOf(message)
    if (span) return Array.from({ length: span.high - span.low + 1 }, (_, index) => span.low + index)
    return message.keys.kind === 'one' && message.keys.number !== 'wanted' ? [message.keys.number] : []
  })
}

function sentBy(rig: Rig, controller: Controller): Half {
  const senders = sendersIn(rig, controller, rig.controllers.indexOf(controller))
  const messages = senders.map(({ message }) => message)
  const has = (kind: Message['kind']): Answer =>
    messages.some((message) => message.kind === kind) ? YES : NO
  const notes = messages.filter((message) => message.kind === 'note')
  const ofChannel = senders.filter(({ message }) => 'channel' in message)
  // What a message occupies is what it sends: both halves of a pair, or one; what carries a parameter or selects a bank.
  const controllers = new Map(
    senders.flatMap(({ cells }) =>
      cells.flatMap(({ kind, number, role }) =>
        kind === 'cc' ? [[number, role === 'carrier' ? 'carries parameters or banks' : ''] as const] : [],
      ),
    ),
  )
  const parameters = messages.flatMap((message) =>
    (message.kind === 'nrpn' || message.kind === 'rpn') && message.number !== 'wanted'
      ? `${message.kind.toUpperCase()} ${message.number}`
      : [],
  )
  const programs = messages.flatMap((message) =>
    message.kind === 'program' && message.number !== 'wanted' ? message.number : [],
  )
  return {
    defaultChannel: { is: 'yes', text: String(controller.homeChannel) },
    channels: some(ofChannel.map(({ channel }) => channel)),
    noteNumbers: some(notesOf(messages)),
    noteOn:
      notes.length === 0
        ? NO
        : notes.some(({ velocity }) => velocity.kind === 'sensed')
          ? { is: 'yes', text: '9nH, v = 1–127' }
          : { is: 'yes', text: '9nH, fixed' },
    noteOff:
      notes.length === 0
        ? NO
        : notes.some(({ release }) => release.kind === 'note-off')
          ? { is: 'yes', text: '8nH' }
          : { is: 'no', text: '9nH, v = 0' },
    keyPressure: has('polyPressure'),
    channelPressure: has('channelPressure'),
    pitchBend: has('pitchBend'),
    controllers,
    learns: '',
    program: some(programs),
    // MIDI machine control travels as system exclusive.
    sysex: messages.some(({ kind }) => kind === 'sysex' || kind === 'mmc') ? YES : NO,
    clock: NO,
    commands: messages.some(({ kind }) => kind === 'realtime') ? YES : NO,
    localControl: messages.some((message) => message.kind === 'channelMode' && message.number === 122)
      ? YES
      : NO,
    allNotesOff: messages.some((message) => message.kind === 'channelMode' && message.number === 123)
      ? YES
      : NO,
    remarks: parameters.length === 0 ? [] : [`Sends ${[...new Set(parameters)].join(', ')}.`],
  }
}

/** What a controller takes from outside: what sets its lights and chooses its layers. */
function takenBy(rig: Rig, controller: Controller): Half {
  const { lights } = modelOf(rig, controller).abilities
  const triggers = rig.choices.flatMap(({ by }) =>
    by.kind === 'incoming' && by.controller === controller.id ? by.trigger : [],
  )
  const byNote = lights?.setBy.kind === 'note-velocity' || lights?.setBy.kind === 'channel-meaning'
  const triggered = (kind: 'note' | 'cc' | 'program'): number[] =>
    triggers.flatMap((trigger) => (trigger.kind === kind ? trigger.number : []))
  const controllers = new Map(triggered('cc').map((number) => [number, 'chooses layers'] as const))
  const channels =
    lights?.setBy.kind === 'channel-meaning'
      ? lights.setBy.meanings.map(({ channel }) => channel)
      : lights?.setBy.kind === 'cc-value' && lights.setBy.channel !== null
        ? [lights.setBy.channel]
        : lights
          ? [controller.homeChannel]
          : []
  return {
    ...NOTHING,
    defaultChannel: lights || triggers.length > 0 ? { is: 'yes', text: String(controller.homeChannel) } : NO,
    channels: some([...channels, ...triggers.map(({ channel }) => channel)]),
    noteNumbers: byNote ? { is: 'yes', text: 'lights' } : some(triggered('note')),
    noteOn: byNote || triggered('note').length > 0 ? YES : NO,
    program: some(triggered('program')),
    controllers,
    learns: lights?.setBy.kind === 'cc-value' ? 'CC set lights, the number names the light' : '',
    remarks: [],
  }
}

const ofKind = <K extends FixedAddress['kind']>(all: readonly FixedAddress[], kind: K) =>
  all.filter((fixed): fixed is Extract<FixedAddress, { kind: K }> => fixed.kind === kind)

function heardBy({ parameters, noteNames, programs, hears, claims, learns, countsFrom }: Destination): Half {
  const fixed = parameters.flatMap((parameter) =>
    parameter.fixed ? [{ fixed: parameter.fixed, name: parameter.name }] : [],
  )
  const all = fixed.map((each) => each.fixed)
  const controllers = new Map<number, string>()
  for (const { fixed: address, name } of fixed) {
    if (address.kind === 'cc') controllers.set(address.number, name)
    if (address.kind === 'cc14') {
      controllers.set(address.number, `${name}, MSB`)
      controllers.set(address.number + 32, `${name}, LSB`)
    }
  }
  if (ofKind(all, 'nrpn').length > 0) for (const number of [98, 99]) controllers.set(number, 'NRPN')
  if (ofKind(all, 'rpn').length > 0) for (const number of [100, 101]) controllers.set(number, 'RPN')
  if (ofKind(all, 'nrpn').length + ofKind(all, 'rpn').length > 0) controllers.set(6, 'data entry')
  const learning = (kind: Destination['learns'][number]): Answer =>
    learns.includes(kind) ? { is: 'yes', text: 'by learning' } : UNSAID
  const kept = (kind: string): boolean => claims.some((claim) => claim.kind === kind)
  const { channels } = hears.playing
  const notes = [...noteNames.map(({ number }) => number), ...ofKind(all, 'note').map(({ number }) => number)]
  const parameterNumbers = [...ofKind(all, 'nrpn'), ...ofKind(all, 'rpn')]
  return {
    ...UNKNOWN,
    defaultChannel: UNSAID,
    channels:
      channels.kind === 'only'
        ? { is: 'yes', text: spansOf(channels.channels) }
        : { is: 'yes', text: channels.kind === 'merged' ? '1–16, as one' : '1–16' },
    noteNumbers: notes.length > 0 ? some(notes) : kept('note') ? YES : learning('note'),
    noteOn: notes.length > 0 ? YES : learning('note'),
    channelPressure:
      ofKind(all, 'channelPressure').length > 0 || kept('channelPressure')
        ? YES
        : learning('channelPressure'),
    keyPressure: kept('polyPressure') ? YES : UNSAID,
    pitchBend: ofKind(all, 'pitchBend').length > 0 || kept('pitchBend') ? YES : learning('pitchBend'),
    controllers,
    learns: learns.some((kind) => kind === 'cc' || kind === 'cc14') ? 'any, by learning' : '',
    program:
      programs.length > 0
        ? { is: 'yes', text: `${spansOf(programs.map(({ number }) => number))}, shown from ${countsFrom}` }
        : learning('program'),
    remarks: [
      ...parameterNumbers.map(({ kind, number }) => {
        const name = fixed.find(
          ({ fixed: address }) => address.kind === kind && 'number' in address && address.number === number,
        )?.name
        return `${kind.toUpperCase()} ${number}: ${name ?? ''}`
      }),
      ...claims.map(
        ({ function: use, kind, channel, low, high }) =>
          `Keeps ${kind} ${low}–${high}${channel === null ? '' : ` on channel ${channel}`} for ${use}`,
      ),
    ],
  }
}

/** The standard's signs: o for yes, x for no; where the rig does not say, a dash. */
function sign({ is, text }: Answer): string {
  const own = is === 'yes' ? 'o' : is === 'no' ? 'x' : '–'
  return text === undefined || text === '' ? own : `${own} ${text}`
}

function linesOf(sent: Half, heard: Half): Row[] {
  const line = (name: string, detail: string, a: Answer, b: Answer, remark = ''): Row =>
    row([words(name), words(detail), words(sign(a)), words(sign(b)), words(remark)])
  const numbers = [...new Set([...sent.controllers.keys(), ...heard.controllers.keys()])].sort(
    (a, b) => a - b,
  )
  const controllers = numbers.map((number) =>
    line(
      'Control change',
      String(number),
      sent.controllers.has(number) ? YES : NO,
      heard.controllers.has(number) ? YES : heard.learns === '' ? NO : UNSAID,
      [heard.controllers.get(number), sent.controllers.get(number), controllerName(number)]
        .filter(Boolean)
        .join('; '),
    ),
  )
  return [
    line('Basic channel', 'Default', sent.defaultChannel, heard.defaultChannel),
    line('Basic channel', 'Changed', sent.channels, heard.channels),
    line('Mode', 'Default', UNSAID, UNSAID),
    line('Mode', 'Messages', NO, UNSAID),
    line('Mode', 'Altered', UNSAID, UNSAID),
    line('Note number', '', sent.noteNumbers, heard.noteNumbers),
    line('Velocity', 'Note on', sent.noteOn, heard.noteOn),
    line('Velocity', 'Note off', sent.noteOff, heard.noteOff),
    line('Aftertouch', 'Key’s', sent.keyPressure, heard.keyPressure),
    line('Aftertouch', 'Channel’s', sent.channelPressure, heard.channelPressure),
    line('Pitch bend', '', sent.pitchBend, heard.pitchBend),
    ...(controllers.length > 0 ? controllers : [line('Control change', '', NO, NO)]),
    ...(heard.learns === '' ? [] : [line('Control change', 'others', NO, { is: 'yes', text: heard.learns })]),
    line('Program change', 'True number', sent.program, heard.program),
    line('System exclusive', '', sent.sysex, heard.sysex),
    line('System common', 'Song position', NO, UNSAID),
    line('System common', 'Song select', NO, UNSAID),
    line('System common', 'Tune request', NO, UNSAID),
    line('System real time', 'Clock', sent.clock, heard.clock),
    line('System real time', 'Commands', sent.commands, heard.commands),
    line('Aux messages', 'Local on/off', sent.localControl, heard.localControl),
    line('Aux messages', 'All notes off', sent.allNotesOff, heard.allNotesOff),
    line('Aux messages', 'Active sensing', UNSAID, UNSAID),
    line('Aux messages', 'Reset', UNSAID, UNSAID),
  ]
}

function chart(rig: Rig, name: string, sent: Half, heard: Half): SheetDocument {
  const remarks = [...sent.remarks, ...heard.remarks]
  const notes: Section[] =
    remarks.length === 0
      ? []
      : [
          {
            heading: 'Notes',
            table: { columns: columns('Remark'), rows: remarks.map((each) => row([words(each)])) },
          },
        ]
  return {
    title: `${name}: MIDI implementation chart`,
    subtitle: rig.name,
    facts: [
      { label: 'o', value: 'yes' },
      { label: 'x', value: 'no' },
      { label: '–', value: 'the rig does not say' },
      {
        label: 'Modes',
        value: 'mode 1: omni on, poly; mode 2: omni on, mono; mode 3: omni off, poly; mode 4: omni off, mono',
      },
    ],
    sections: [
      {
        heading: 'Chart',
        table: {
          columns: columns('Function', '', 'Transmitted', 'Recognized', 'Remarks'),
          rows: linesOf(sent, heard),
        },
      },
      ...notes,
    ],
  }
}

/**
 * The implementation chart of a controller or a destination, in the layout of the MIDI 1.0 Detailed Specification, "MIDI
 * Implementation Chart". A unit is both at once. Throws a RangeError for what is not in the rig.
 */
export function implementationChart(rig: Rig, id: Id): SheetDocument {
  const { controllers, destinations } = rigIndex(rig)
  const destination = destinations.get(id)
  if (destination) {
    const half = destination.unit ? controllers.get(destination.unit.controller) : undefined
    const name = half ? `${destination.name} with ${half.name}` : destination.name
    return chart(rig, name, half ? sentBy(rig, half) : UNKNOWN, heardBy(destination))
  }
  const controller = controllers.get(id)
  if (!controller) throw new RangeError(`The rig has neither a controller nor a destination “${id}”.`)
  return chart(rig, controller.name, sentBy(rig, controller), takenBy(rig, controller))
}
