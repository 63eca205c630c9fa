import { parseTag } from '../../midi'
import { parameterProblem } from '../mapping-problem'
import { problemsOf } from '../problems'
import { Parameter as ParameterSchema } from '../schema'
import type { FixedAddress, Id, Parameter } from '../types'
import { readLines, type Field, type FromTable, type Matching } from './columns'
import type { TableRow } from './table'

/** The columns of a table of parameters. */
export const PARAMETER_FIELDS = [
  { id: 'name', name: 'Name', means: ['name', 'parameter', 'control'] },
  { id: 'group', name: 'Group', means: ['group', 'path', 'section', 'category', 'page', 'module'] },
  {
    id: 'address',
    name: 'Number',
    means: ['number', 'address', 'cc', 'controller', 'cc#', 'cc number', 'tag'],
  },
  { id: 'min', name: 'From', means: ['from', 'min', 'minimum', 'low'] },
  { id: 'max', name: 'To', means: ['to', 'max', 'maximum', 'high'] },
  { id: 'unit', name: 'Unit', means: ['unit', 'units'] },
  { id: 'steps', name: 'Values', means: ['values', 'steps', 'value count'] },
  { id: 'kind', name: 'Kind', means: ['kind', 'type'] },
  { id: 'choices', name: 'Choices', means: ['choices', 'names', 'options', 'value names'] },
] as const satisfies ReadonlyArray<Field<string>>

export type ParameterField = (typeof PARAMETER_FIELDS)[number]['id']

const KINDS: readonly Parameter['kind'][] = ['continuous', 'switch', 'choice', 'action', 'note', 'relative']

/** An id made of a name: small letters, digits and dashes. */
export const idFrom = (name: string): string =>
  name
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '-')
    .replaceAll(/^-+|-+$/g, '')
    .slice(0, 40)

/** Of each set of ids, and each name in it, the last number that was given: many may be called the same. */
const lastNumbers = new WeakMap<Set<Id>, Map<string, number>>()

/** An id that is not taken, made of a name; it is taken from now on. */
export function takeId(name: string, taken: Set<Id>): Id {
  const wanted = idFrom(name) || 'item'
  const last = lastNumbers.get(taken) ?? new Map<string, number>()
  lastNumbers.set(taken, last)
  let number = last.get(wanted) ?? 1
  let id = number === 1 ? wanted : `${wanted}-${number}`
  while (taken.has(id)) id = `${wanted}-${++number}`
  last.set(wanted, number)
  taken.add(id)
  return id
}

const numberIn = (text: string): number | null | string => {
  if (text === '') return null
  const number = Number(text.replace(',', '.'))
  return Number.isFinite(number) ? number : `“${text}” is no number.`
}

/** Where a parameter listens, as typed: a number alone is a controller number; else an address tag, with or without channel. A string says what is wrong. */
export function fixedAddressFrom(text: string): FixedAddress | null | string {
  if (text === '') return null
  const parsed = parseTag(/^\d+$/.test(text) ? `cc${text}` : text)
  if (!parsed.ok) return `“${text}” is no number or address: ${parsed.message}`
  if (parsed.address.scope !== 'channel') return `“${text}” has no channel: a parameter cannot listen there.`
  const { channel, target } = parsed.address
  const on = { channel: typeof channel === 'number' ? channel : null }
  switch (target.kind) {
    case 'cc':
    case 'cc14':
    case 'nrpn':
    case 'rpn':
      return { kind: target.kind, number: target.number, ...on }
    case 'note':
      return { kind: 'note', number: target.low, ...on }
    case 'program':
      return { kind: 'program', number: target.number, bank: target.bank, ...on }
    case 'pitchBend':
    case 'channelPressure':
      return { kind: target.kind, ...on }
    case 'polyPressure':
    case 'channelMode':
      return `“${text}” is nothing that a parameter can listen to.`
  }
}

const pathFrom = (text: string): string[] =>
  text
    .split(/(?<=\s)[·/](?=\s)|>/)
    .map((part) => part.trim())
    .filter(Boolean)

/** Parameters out of a table with columns matched to fields; `taken` are ids that are in use. */
export function parametersFrom(
  rows: readonly TableRow[],
  matching: Matching<ParameterField>,
  taken: ReadonlySet<Id>,
): FromTable<Parameter> {
  const ids = new Set(taken)
  return readLines(PARAMETER_FIELDS, rows, matching, (cell) => {
    const name = cell('name')
    if (name === '') return 'it has no name.'
    const [min, max, steps, fixed] = [
      numberIn(cell('min')),
      numberIn(cell('max')),
      numberIn(cell('steps')),
      fixedAddressFrom(cell('address')),
    ]
    for (const read of [min, max, steps, fixed]) if (typeof read === 'string') return read
    if ((min === null) !== (max === null)) return 'it has one end of its values only: give both, or none.'
    if (typeof min === 'number' && typeof max === 'number' && min >= max)
      return `its values run from ${min} to ${max}: the first must be below the second.`
    const choices = cell('choices')
      .split(/[|;]/)
      .map((choice) => choice.trim())
      .filter(Boolean)
    const word = cell('kind').toLowerCase()
    const kind = KINDS.find((each) => each === word) ?? (choices.length > 0 ? 'choice' : 'continuous')
    if (word !== '' && kind !== word) return `“${cell('kind')}” is no kind: use ${KINDS.join(', ')}.`
    const parsed = ParameterSchema.safeParse(
      {
        id: takeId([...pathFrom(cell('group')), name].join(' '), ids),
        name,
        path: pathFrom(cell('group')),
        kind,
        range: min === null ? null : { min, max, unit: cell('unit') },
        steps: choices.length > 0 ? null : steps,
        choices,
        fixed,
      },
      { reportInput: true },
    )
    if (!parsed.success) {
      const [wrong] = problemsOf(parsed.error)
      return `its ${wrong?.path ?? 'line'} ${wrong?.message ?? 'cannot be read'}.`
    }
    const problem = parameterProblem(parsed.data)
    return problem === null ? parsed.data : `it ${problem}.`
  })
}
