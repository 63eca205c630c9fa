import { printBank, printTag } from '../../midi'
import type { NameDocument, NamedBank, NamedControl } from '../../midi/names'
import { gestureName, parameterName } from '../lookup'
import { Parameter as ParameterSchema } from '../schema'
import { assignmentsOf, splitGestureKey } from '../places'
import type { Controller, Destination, FixedAddress, Id, Message, Model, Parameter } from '../types'
import type { NamedProgram, NoteName } from './name-tables'
import { takeId } from './parameter-table'
import type { TableRow } from './table'

const KINDS = { '7bit': 'cc', '14bit': 'cc14', RPN: 'rpn', NRPN: 'nrpn' } as const
const TYPES = { cc: '7bit', cc14: '14bit', rpn: 'RPN', nrpn: 'NRPN' } as const

const isControl = (
  fixed: FixedAddress | null,
): fixed is Extract<FixedAddress, { kind: keyof typeof TYPES }> => fixed !== null && fixed.kind in TYPES

/** Between the parts of a full name. */
const SEPARATOR = ' · '

function controlOf(parameter: Parameter): NamedControl[] {
  const { fixed, range, choices } = parameter
  if (!isControl(fixed)) return []
  const isWhole = range !== null && [range.min, range.max].every((end) => Number.isInteger(end) && end >= 0)
  return [
    {
      type: TYPES[fixed.kind],
      number: fixed.number,
      name: parameterName(parameter),
      min: isWhole ? range.min : null,
      max: isWhole ? range.max : null,
      values: choices.map((name, number) => ({ number, name })),
    },
  ]
}

function banksOf({ name, programs, countsFrom }: Destination): NamedBank[] {
  const banks = new Map<string, NamedProgram[]>()
  for (const program of programs) {
    const key = printBank(program.bank)
    banks.set(key, [...(banks.get(key) ?? []), program])
  }
  return [...banks].map(([key, own]) => ({
    name: key === '' ? name : `Bank ${key}`,
    select: own[0]?.bank ?? null,
    patches: own.map((program) => ({
      number: program.number,
      label: String(program.number + countsFrom),
      name: program.name,
    })),
  }))
}

/** What a destination's lists say, as a MIDI Name Document: its fixed numbers, note names and presets. */
export const namesOf = (destination: Destination): NameDocument => ({
  author: '',
  manufacturer: destination.name,
  model: destination.name,
  controls: destination.parameters.flatMap(controlOf),
  notes: destination.noteNames,
  banks: banksOf(destination),
})

/** Between the names of what sends the same. */
const AND = ' / '
const MOST_NAME = 120

/** Names by number; of what several send, all their names. */
function gathered<T extends { number: number; name: string }>(
  items: readonly T[],
  keyOf: (item: T) => string,
): T[] {
  const found = new Map<string, T>()
  for (const item of items) {
    const before = found.get(keyOf(item))
    const names = before?.name.split(AND) ?? []
    if (!before) found.set(keyOf(item), item)
    else if (!names.includes(item.name))
      found.set(keyOf(item), { ...before, name: [...names, item.name].join(AND).slice(0, MOST_NAME) })
  }
  return [...found.values()].toSorted((a, b) => a.number - b.number)
}

function sentControl(message: Message, name: string): NamedControl[] {
  if (!(message.kind in TYPES) || !('number' in message) || typeof message.number !== 'number') return []
  const type = TYPES[message.kind as keyof typeof TYPES]
  return [{ type, number: message.number, name, min: null, max: null, values: [] }]
}

const sentNote = (message: Message, name: string): NoteName[] =>
  message.kind === 'note' && message.keys.kind === 'one' && typeof message.keys.number === 'number'
    ? [{ number: message.keys.number, name }]
    : []

/** What a controller sends, as a MIDI Name Document: its controls by what they are called, and the notes of its pads and buttons. */
export function controllerNames(controller: Controller, model: Model): NameDocument {
  const controls = new Map(model.surface.controls.map((control) => [control.id, control]))
  const sent = [...assignmentsOf(controller)].flatMap(({ place, assignment: { messages } }) => {
    const { control: id, gesture } = splitGestureKey(place.gesture)
    const control = controls.get(id)
    return control ? messages.map((message) => ({ message, name: gestureName(control, gesture) })) : []
  })
  return {
    author: '',
    manufacturer: controller.name,
    model: model.name,
    controls: gathered(
      sent.flatMap(({ message, name }) => sentControl(message, name)),
      ({ type, number }) => `${type} ${number}`,
    ),
    notes: gathered(
      sent.flatMap(({ message, name }) => sentNote(message, name)),
      ({ number }) => String(number),
    ),
    banks: [],
  }
}

const HEADINGS = ['Control', 'Address', 'From', 'To'] as const

/** A MIDI Name Document as a table of what a controller sends (`assignmentsFrom`), with headings, on the home channel. */
export function namesRows({ controls, notes }: NameDocument): TableRow[] {
  const lines = [
    ...controls.map(({ type, number, name, min, max }) => [
      name,
      printTag({ scope: 'channel', channel: 'home', target: { kind: KINDS[type], number } }),
      String(min ?? ''),
      String(max ?? ''),
    ]),
    ...notes.map(({ number, name }) => [
      name,
      printTag({ scope: 'channel', channel: 'home', target: { kind: 'note', low: number, high: number } }),
      '',
      '',
    ]),
  ]
  return [[...HEADINGS], ...lines].map((cells, index) => ({ line: index + 1, cells }))
}

/** The parts of a destination that a MIDI Name Document can fill. */
export interface FromNames {
  parameters: readonly Parameter[]
  noteNames: readonly NoteName[]
  programs: readonly NamedProgram[]
  /** What cannot be kept, and why, in sentences. */
  left: readonly string[]
}

function parameterFrom(control: NamedControl, ids: Set<Id>, left: string[]): Parameter[] {
  const parts = control.name.split(SEPARATOR)
  const { min, max, values } = control
  const isList = values.length >= 2 && values.every(({ number }, index) => number === index)
  const parsed = ParameterSchema.safeParse({
    id: takeId(control.name, ids),
    name: parts.at(-1),
    path: parts.slice(0, -1),
    kind: isList ? 'choice' : 'continuous',
    choices: isList ? values.map(({ name }) => name) : [],
    range: !isList && min !== null && max !== null && min < max ? { min, max, unit: '' } : null,
    fixed: { kind: KINDS[control.type], number: control.number },
  })
  if (parsed.success) return [parsed.data]
  left.push(`“${control.name}” is left out: a parameter cannot listen at ${control.type} ${control.number}.`)
  return []
}

/** What a MIDI Name Document says, as parts of a destination; `taken` are the ids of parameters it has. */
export function fromNames({ controls, notes, banks }: NameDocument, taken: ReadonlySet<Id>): FromNames {
  const ids = new Set(taken)
  const left: string[] = []
  const parameters = controls.flatMap((control) => parameterFrom(control, ids, left))
  return {
    parameters,
    left,
    noteNames: [...new Map(notes.map((note) => [note.number, note])).values()],
    programs: banks.flatMap(({ select, patches }) =>
      patches.map(({ number, name }) => ({ number, name, bank: select })),
    ),
  }
}
