import { parseNoteName, parseTag, type Address, type MiddleC } from '../../midi'
import type { RigEdit } from '../edits'
import { GESTURE_WORD } from '../lookup'
import { freshMessage, isChannelMessage, topOf, withAddress } from '../messages'
import { assignmentsAt, type Place } from '../places'
import { KIND_FACTS, planSize, usualPlan } from '../surface'
import type {
  Assignment,
  Control,
  Controller,
  ControlKind,
  GestureKey,
  GestureKind,
  Message,
  Model,
  Template,
} from '../types'
import { guessedKind, KIND_WORDS } from './assignment-words'
import { readLines, type Field, type FromTable, type Matching } from './columns'
import { takeId } from './parameter-table'
import type { TableRow } from './table'

/** The columns of a table of what a controller sends. */
export const ASSIGNMENT_FIELDS = [
  { id: 'control', name: 'Control', means: ['control', 'name', 'label', 'knob', 'button', 'pad', 'fader'] },
  { id: 'layer', name: 'Layer', means: ['layer', 'page', 'scene', 'bank'] },
  { id: 'gesture', name: 'Movement', means: ['movement', 'gesture', 'action'] },
  { id: 'address', name: 'Address', means: ['address', 'tag', 'sends', 'midi'] },
  { id: 'kind', name: 'Message', means: ['message', 'type', 'kind', 'message type', 'midi type'] },
  { id: 'channel', name: 'Channel', means: ['channel', 'ch', 'ch.', 'midi channel', 'midi ch'] },
  { id: 'number', name: 'Number', means: ['number', 'cc', 'cc#', 'cc number', 'note', 'no', 'no.', 'nr'] },
  { id: 'low', name: 'From', means: ['from', 'min', 'minimum', 'low'] },
  { id: 'high', name: 'To', means: ['to', 'max', 'maximum', 'high'] },
  { id: 'behaviour', name: 'Behaviour', means: ['behaviour', 'behavior', 'mode', 'switch'] },
  { id: 'memo', name: 'Memo', means: ['memo', 'notes', 'comment', 'function', 'moves', 'purpose'] },
] as const satisfies ReadonlyArray<Field<string>>

export type AssignmentField = (typeof ASSIGNMENT_FIELDS)[number]['id']

/** A line of a table that can be written: what a gesture sends from now on. */
export interface ReadAssignment {
  place: Place
  /** The control as it is called, new where it is to be drawn. */
  label: string
  before: Assignment | null
  assignment: Assignment
}

/** What a table gives for a controller. */
export interface ReadAssignments extends FromTable<ReadAssignment> {
  /** Controls that are to be drawn because the surface has none of that name. */
  drawn: readonly Control[]
  /** Names that the surface does not have, where nothing is to be drawn. */
  missing: readonly string[]
}

const same = (text: string): string => text.trim().toLowerCase().replaceAll(/\s+/g, ' ')

const BEHAVIOURS: Readonly<Record<string, 'momentary' | 'toggle' | 'trigger' | 'absolute'>> = {
  momentary: 'momentary',
  held: 'momentary',
  hold: 'momentary',
  toggle: 'toggle',
  'on/off': 'toggle',
  latch: 'toggle',
  trigger: 'trigger',
  once: 'trigger',
  absolute: 'absolute',
}

/** Where a line sends to, by its address or by its kind, channel and number; a string says what is wrong. */
function addressIn(cell: (field: AssignmentField) => string, middleC: MiddleC): Address | string {
  const channel = cell('channel').toLowerCase()
  const on = channel === '' || channel === 'home' ? 'home' : channel.replace(/^ch(annel)?\.?\s*/, '')
  const written = cell('address')
  if (written !== '') {
    const text = /^\d+$/.test(written) ? `cc${written}` : written
    const parsed = parseTag(text.includes(':') ? text : `${on}:${text}`)
    return parsed.ok ? parsed.address : `“${written}” is no address: ${parsed.message}`
  }
  const number = cell('number')
  const word = same(cell('kind'))
  const kind = word === '' ? guessedKind(number) : KIND_WORDS[word]
  if (kind === undefined)
    return `“${cell('kind')}” is no kind of message: use ${Object.keys(KIND_WORDS).slice(0, 6).join(', ')}.`
  if (number === '' && kind !== 'bend' && kind !== 'pressure') return 'it has no number.'
  const digits = /^(?:cc|note|pc)?\s*#?\s*(\d+)$/i.exec(number)?.[1]
  const note = kind === 'note' && digits === undefined ? parseNoteName(number, middleC) : null
  const sent =
    kind === 'bend' || kind === 'pressure' ? '' : (digits ?? (note === null ? number : String(note)))
  const parsed = parseTag(`${on}:${kind}${sent}`)
  return parsed.ok
    ? parsed.address
    : `“${[cell('channel'), cell('kind'), number].filter(Boolean).join(' ')}” cannot be sent: ${parsed.message}`
}

/** A message as a line has it; a string says what is wrong. */
function messageIn(
  cell: (field: AssignmentField) => string,
  middleC: MiddleC,
  control: Pick<Control, 'kind'>,
  gesture: GestureKind,
): Message | string {
  const address = addressIn(cell, middleC)
  if (typeof address === 'string') return address
  const message = withAddress(freshMessage('off', control.kind, gesture), address, control.kind, gesture)
  const [low, high] = [cell('low'), cell('high')]
  const top = topOf(message)
  let ranged: Message = message
  if (low !== '' || high !== '') {
    if (top === null || !('range' in message)) return `this message has no range: leave From and To empty.`
    const ends = {
      low: low === '' ? message.range.low : Number(low),
      high: high === '' ? message.range.high : Number(high),
    }
    for (const end of [ends.low, ends.high])
      if (!Number.isInteger(end) || end < 0 || end > top)
        return `its values run from ${low} to ${high}: use 0 to ${top}.`
    ranged = { ...message, range: ends } as Message
  }
  const word = same(cell('behaviour'))
  if (word === '') return ranged
  const behaviour = BEHAVIOURS[word]
  if (behaviour === undefined)
    return `“${cell('behaviour')}” is no behaviour: use ${Object.keys(BEHAVIOURS).join(', ')}.`
  if (ranged.kind !== 'cc')
    return behaviour === 'absolute' || behaviour === 'momentary' ? ranged : `only CC can be ${word} here.`
  return {
    ...ranged,
    behaviour: behaviour === 'absolute' ? { kind: 'absolute', turns: null } : { kind: behaviour },
  }
}

/** In which layer of a template a gesture is written; a string says what is wrong. */
function layerIn(
  { stacks }: Template,
  gesture: GestureKey,
  name: string,
): Place['layer'] | { wrong: string } {
  const covering = stacks.filter(({ gestures }) => gestures.includes(gesture))
  const layers = covering.flatMap((stack) => stack.layers)
  if (name === '') {
    const replacing = covering.find(({ mode }) => mode === 'replace')
    const [only, more] = replacing?.layers ?? []
    if (!only) return null
    return more
      ? {
          wrong: `it changes with the layers: say in which, ${layers.map((layer) => layer.name).join(' or ')}.`,
        }
      : only.id
  }
  const found = layers.find((layer) => same(layer.name) === same(name))
  if (found) return found.id
  return {
    wrong:
      layers.length === 0
        ? `it is always on: leave the layer “${name}” out.`
        : `“${name}” is none of its layers: ${layers.map((layer) => layer.name).join(', ')}.`,
  }
}

const COLUMNS = 8
const GAP = 8

/** Controls of one kind below what the surface has, with these names. */
function drawnBelow({ surface }: Model, kind: ControlKind, labels: readonly string[]): Control[] {
  const taken = new Set(surface.controls.map(({ id }) => id))
  const plan = usualPlan(kind)
  const one = planSize({ ...plan, rows: 1, columns: 1 })
  return labels.map((label, index) => ({
    id: takeId(label, taken),
    kind,
    label,
    block: null,
    gestures: [...KIND_FACTS[kind].gestures],
    silent: false,
    restsInCentre: false,
    detentsPerTurn: null,
    lightNumber: null,
    place: {
      x: GAP + (index % COLUMNS) * (one.w + plan.gap.across),
      y: surface.height + Math.floor(index / COLUMNS) * (one.h + plan.gap.down),
      ...plan.size,
    },
  }))
}

/** For whom a table is read. */
export interface AssignmentsWanted {
  controller: Controller
  model: Model
  template: Template
  middleC: MiddleC
  /** What controls that the surface does not have are drawn as; null leaves their lines out. */
  draw: ControlKind | null
}

/** Assignments out of a table with columns matched to fields: what each line sends, and the lines that cannot be read. */
export function assignmentsFrom(
  rows: readonly TableRow[],
  matching: Matching<AssignmentField>,
  { controller, model, template, middleC, draw }: AssignmentsWanted,
): ReadAssignments {
  const byName = new Map<string, Control[]>()
  for (const control of model.surface.controls) {
    const key = same(control.label)
    if (key !== '') byName.set(key, [...(byName.get(key) ?? []), control])
  }
  const missing = new Map<string, string>()
  const names = readLines(ASSIGNMENT_FIELDS, rows, matching, (cell) => ({ name: cell('control') })).items
  for (const { name } of names)
    if (name !== '' && !byName.has(same(name))) missing.set(same(name), name.slice(0, 120))
  const drawn = draw === null ? [] : drawnBelow(model, draw, [...missing.values()])
  for (const control of drawn) byName.set(same(control.label), [control])

  const seen = new Set<string>()
  const read = readLines(ASSIGNMENT_FIELDS, rows, matching, (cell): ReadAssignment | string => {
    const name = cell('control')
    if (name === '') return 'it names no control.'
    const [control, other] = byName.get(same(name)) ?? []
    if (!control) return `the surface has no control “${name}”.`
    if (other) return `several controls are called “${name}”: give each a name of its own first.`
    if (control.silent) return `“${name}” is purely analog and sends nothing.`
    const word = same(cell('gesture'))
    const gesture =
      word === ''
        ? control.gestures[0]
        : control.gestures.find((each) => each === word || same(GESTURE_WORD[each]) === word)
    if (!gesture)
      return `“${name}” has no “${cell('gesture')}”: it has ${control.gestures.map((each) => GESTURE_WORD[each]).join(', ')}.`
    const key: GestureKey = `${control.id}.${gesture}`
    const layer = layerIn(template, key, cell('layer'))
    if (layer !== null && typeof layer === 'object') return layer.wrong
    const place: Place = { controller: controller.id, template: template.id, layer, gesture: key }
    const at = `${layer ?? ''} ${key}`
    if (seen.has(at)) return `a line before it says already what “${name}” sends.`
    const message = messageIn(cell, middleC, control, gesture)
    if (typeof message === 'string') return message
    if (isChannelMessage(message) && cell('memo').length > 4000)
      return 'its memo is longer than 4000 letters.'
    seen.add(at)
    const before = assignmentsAt(controller, place)?.[key] ?? null
    const memo = cell('memo') === '' ? (before?.memo ?? '') : cell('memo')
    return {
      place,
      label: control.label,
      before,
      assignment: {
        messages: [message],
        pinned: before?.pinned ?? false,
        light: before?.light ?? null,
        memo,
      },
    }
  })
  return { ...read, drawn, missing: draw === null ? [...missing.values()] : [] }
}

/** The edits that write what a table gave: controls first, on a surface that is large enough, then what each sends. */
export function assignmentEdits({ id, surface }: Model, { items, drawn }: ReadAssignments): RigEdit[] {
  const right = Math.max(surface.width, ...drawn.map(({ place }) => place.x + place.w + GAP))
  const bottom = Math.max(surface.height, ...drawn.map(({ place }) => place.y + place.h + GAP * 2))
  return [
    ...(drawn.length === 0
      ? []
      : ([
          { type: 'surface-set', model: id, width: right, height: bottom },
          { type: 'controls-add', model: id, controls: [...drawn], blocks: [] },
        ] satisfies RigEdit[])),
    ...items.map(({ place, assignment }): RigEdit => ({ type: 'assignment', at: place, assignment })),
  ]
}
