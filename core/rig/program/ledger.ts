import Papa from 'papaparse'
import { isWhole, parseTag, printTag, sameAddress, type Address } from '../../midi'
import type { RigEdit } from '../edits'
import { gestureName, mappingsOf, modelOf, parameterName, parameterOf, rigIndex } from '../lookup'
import {
  addressOf,
  fitsNumber,
  freshMessage,
  isChannelMessage,
  MESSAGE_KIND_NAME,
  numberBounds,
  numberOf,
  sentAddress,
  topOf,
  withAddress,
  withChannel,
  withNumber,
} from '../messages'
import { placeKey, placeRef, type Place } from '../places'
import type { Assignment, Controller, GestureRef, Message, Rig, Template } from '../types'
import { changeAssignments, programmedAt, type Programmed } from './bulk'
import { placesOver } from './places'

/** The columns of the ledger, in order; those that say how can be written to. */
export const LEDGER_COLUMNS = [
  { id: 'controller', name: 'Controller' },
  { id: 'template', name: 'Template' },
  { id: 'layer', name: 'Layer' },
  { id: 'control', name: 'Control' },
  { id: 'address', name: 'Address', write: writeAddress },
  { id: 'kind', name: 'Kind' },
  { id: 'channel', name: 'Channel', write: writeChannel },
  { id: 'number', name: 'Number', write: writeNumber },
  { id: 'low', name: 'From', write: writeEnd('low') },
  { id: 'high', name: 'To', write: writeEnd('high') },
  { id: 'moves', name: 'Moves' },
  { id: 'memo', name: 'Memo', write: writeMemo },
] as const satisfies ReadonlyArray<{ id: string; name: string; write?: Write }>

export type LedgerColumnId = (typeof LEDGER_COLUMNS)[number]['id']
type Written = { ok: true; assignment: Assignment } | { ok: false; message: string }
type Write = (programmed: Programmed, text: string) => Written

/** One line of the ledger: a gesture in a layer (or the base), with the text of every column. */
export type LedgerRow = { key: string; place: Place } & Record<LedgerColumnId, string>

/** Can a column be written to? */
export const isWritable = (id: LedgerColumnId): boolean => writerOf(id) !== null

function writerOf(id: LedgerColumnId): Write | null {
  const column = LEDGER_COLUMNS.find((candidate) => candidate.id === id)
  return column && 'write' in column ? column.write : null
}

const layerName = (template: Template, layer: string | null): string =>
  layer === null
    ? ''
    : (template.stacks.flatMap(({ layers }) => layers).find(({ id }) => id === layer)?.name ?? '')

/**
 * What a line moves: the mappings of its gesture that are not yet taught, or were learned at what the line
 * sends. One that was learned at an address which no layer sends any more stays named, to be taught again.
 */
function movesWords(rig: Rig, place: Place, sent: Address | null, byGesture: readonly Address[]): string {
  const isAt = (learned: Address, address: Address | null): boolean =>
    address !== null && sameAddress(learned, address)
  return mappingsOf(rig, placeRef(place))
    .filter(
      ({ learnedAt }) =>
        learnedAt === null || isAt(learnedAt, sent) || !byGesture.some((address) => isAt(learnedAt, address)),
    )
    .flatMap(({ destination: id, parameter: wanted, learnedAt }) => {
      const destination = rigIndex(rig).destinations.get(id)
      const parameter = destination ? parameterOf(destination, wanted) : null
      if (!destination || !parameter) return []
      const again = learnedAt === null || isAt(learnedAt, sent) ? '' : ' (teach again)'
      return [`${destination.name} · ${parameterName(parameter)}${again}`]
    })
    .join('; ')
}

/** Every gesture of every controller in every layer, whether it sends or not, as lines in the order of the rig. */
export function ledgerRows(rig: Rig): LedgerRow[] {
  return rig.controllers.flatMap((controller) => {
    const gestures = modelOf(rig, controller).surface.controls.flatMap((control) =>
      control.silent ? [] : control.gestures.map((gesture) => `${control.id}.${gesture}`),
    )
    const lines = controller.templates.flatMap((template) =>
      placesOver(controller, template, gestures, 'all-layers').flatMap((place) => {
        const programmed = programmedAt(rig, place)
        return programmed ? [{ template, programmed, sent: sentBy(controller, programmed) }] : []
      }),
    )
    const byGesture = new Map<GestureRef, Address[]>()
    for (const { programmed, sent } of lines) {
      const ref = placeRef(programmed.place)
      if (sent) byGesture.set(ref, [...(byGesture.get(ref) ?? []), sent])
    }
    return lines.map(({ template, programmed, sent }) =>
      lineOf(
        controller,
        template,
        programmed,
        movesWords(rig, programmed.place, sent, byGesture.get(placeRef(programmed.place)) ?? []),
      ),
    )
  })
}

/** Where the first message of a place is sent, or null. */
function sentBy({ homeChannel }: Controller, { assignment: { messages } }: Programmed): Address | null {
  const [message] = messages
  return message ? sentAddress(message, homeChannel) : null
}

function lineOf(
  { name }: Controller,
  template: Template,
  { place, control, gesture, assignment }: Programmed,
  moves: string,
): LedgerRow {
  const [message = freshMessage('off', control.kind, gesture)] = assignment.messages
  const address = addressOf(message)
  const number = numberOf(message)
  const range = 'range' in message ? message.range : null
  return {
    key: placeKey(place),
    place,
    controller: name,
    template: template.name,
    layer: layerName(template, place.layer),
    control: gestureName(control, gesture),
    address: address ? printTag(address) : '',
    kind: MESSAGE_KIND_NAME[message.kind],
    channel: isChannelMessage(message) ? String(message.channel) : '',
    number: number === null ? '' : String(number),
    low: range ? String(range.low) : '',
    high: range ? String(range.high) : '',
    moves,
    memo: assignment.memo,
  }
}

const refuse = (message: string): Written => ({ ok: false, message })
const firstOf = ({ assignment, control, gesture }: Programmed): Message =>
  assignment.messages[0] ?? freshMessage('off', control.kind, gesture)
const withFirst = ({ assignment }: Programmed, message: Message): Written => ({
  ok: true,
  assignment: { ...assignment, messages: [message, ...assignment.messages.slice(1)] },
})

function writeAddress(programmed: Programmed, text: string): Written {
  const { control, gesture } = programmed
  if (text.trim() === '') return withFirst(programmed, freshMessage('off', control.kind, gesture))
  const parsed = parseTag(text)
  if (!parsed.ok) return refuse(parsed.message)
  return withFirst(programmed, withAddress(firstOf(programmed), parsed.address, control.kind, gesture))
}

function writeChannel(programmed: Programmed, text: string): Written {
  const message = firstOf(programmed)
  const clean = text.trim().toLowerCase()
  if (!isChannelMessage(message))
    return clean === '' ? withFirst(programmed, message) : refuse('sends nothing on a channel')
  if (clean === 'home') return withFirst(programmed, withChannel(message, 'home'))
  const channel = Number(clean)
  return clean !== '' && isWhole(channel, 1, 16)
    ? withFirst(programmed, withChannel(message, channel))
    : refuse(`“${text}” is no channel: use 1 to 16, or home`)
}

function writeNumber(programmed: Programmed, text: string): Written {
  const message = firstOf(programmed)
  const bounds = numberBounds(message.kind)
  const clean = text.trim()
  if (bounds === null)
    return clean === ''
      ? withFirst(programmed, message)
      : refuse(`${MESSAGE_KIND_NAME[message.kind]} carries no number`)
  const number = Number(clean)
  return clean !== '' && fitsNumber(message.kind, number)
    ? withFirst(programmed, withNumber(message, number))
    : refuse(
        `“${text}” is no number for ${MESSAGE_KIND_NAME[message.kind]}: use ${bounds.low} to ${bounds.high}`,
      )
}

function writeEnd(end: 'low' | 'high'): Write {
  return (programmed, text) => {
    const message = firstOf(programmed)
    const clean = text.trim()
    if (!('range' in message)) return clean === '' ? withFirst(programmed, message) : refuse('has no range')
    const top = topOf(message) ?? 0
    const value = Number(clean)
    return clean !== '' && isWhole(value, 0, top)
      ? withFirst(programmed, { ...message, range: { ...message.range, [end]: value } } as Message)
      : refuse(`“${text}” is out of range: use 0 to ${top}`)
  }
}

function writeMemo({ assignment }: Programmed, text: string): Written {
  return text.length > 4000 ? refuse('is too long') : { ok: true, assignment: { ...assignment, memo: text } }
}

/** A cell that cannot take what was to be written: which line and column, and why. */
export interface BadCell {
  row: number
  column: LedgerColumnId
  message: string
}
export type LedgerWrite = { ok: true; edits: RigEdit[]; cells: number } | { ok: false; bad: BadCell[] }

/**
 * Write a block of texts into lines of the ledger, its left top corner at (`row`, `column`) among the
 * columns shown. All cells are written, or none: every bad one is named. What sticks out is left out.
 */
export function writeBlock(
  rig: Rig,
  lines: readonly LedgerRow[],
  columns: readonly LedgerColumnId[],
  at: { row: number; column: number },
  block: ReadonlyArray<readonly string[]>,
): LedgerWrite {
  const bad: BadCell[] = []
  const next = new Map<string, Assignment>()
  const places: Place[] = []
  let cells = 0
  block.forEach((texts, down) => {
    const line = lines[at.row + down]
    const programmed = line ? programmedAt(rig, line.place) : null
    if (!line || !programmed) return
    let current = programmed
    texts.forEach((text, across) => {
      const column = columns[at.column + across]
      if (column === undefined || text === line[column]) return
      const write = writerOf(column)
      const written = write ? write(current, text) : refuse('is worked out, not written')
      if (written.ok) {
        current = { ...current, assignment: written.assignment }
        cells++
      } else bad.push({ row: at.row + down, column, message: written.message })
    })
    if (current === programmed) return
    next.set(line.key, current.assignment)
    places.push(line.place)
  })
  if (bad.length > 0) return { ok: false, bad }
  return {
    ok: true,
    cells,
    edits: changeAssignments(rig, places, ({ place, assignment }) => next.get(placeKey(place)) ?? assignment),
  }
}

/** A block of cells as tab-separated text, as spreadsheets take it. */
export const blockToText = (block: ReadonlyArray<readonly string[]>): string =>
  Papa.unparse(block as string[][], { delimiter: '\t', newline: '\n' })

/** Tab-separated text, as spreadsheets give it, as a block of cells. */
export const textToBlock = (text: string): string[][] =>
  Papa.parse<string[]>(text.replace(/\r?\n$/, ''), { delimiter: '\t' }).data
