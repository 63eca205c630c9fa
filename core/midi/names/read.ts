import { FOURTEEN_MAX, SEVEN_MAX } from '../ranges'
import {
  CONTROL_TYPES,
  type NameDocument,
  type NamedBank,
  type NamedControl,
  type NamedValue,
} from './document'
import { readXml, type Element } from './xml'

export type NamesRead =
  | {
      ok: true
      names: NameDocument
      /** What was left out, and why, in sentences. */ left: readonly string[]
    }
  | { ok: false; message: string }

const inside = (element: Element | undefined, name: string): Element[] =>
  element?.children.filter((child) => child.name === name) ?? []
const first = (element: Element | undefined, name: string): Element | undefined => inside(element, name)[0]

/** A whole number from 0 to `most` in an attribute, or null. */
function numberIn({ attributes }: Element, attribute: string, most: number): number | null {
  const written = attributes[attribute] ?? ''
  const number = Number(written)
  return /^\d+$/.test(written) && number <= most ? number : null
}

const knownLists = new WeakMap<Element, ReadonlyMap<string, Element>>()

/** The lists of a device by kind and name; of two that are called the same, the first. */
function listsOf(device: Element): ReadonlyMap<string, Element> {
  const known = knownLists.get(device)
  if (known) return known
  const lists = new Map<string, Element>()
  for (const child of device.children) {
    const key = `${child.name} ${child.attributes.Name ?? ''}`
    if (!lists.has(key)) lists.set(key, child)
  }
  knownLists.set(device, lists)
  return lists
}

/** Lists may stand where they are used, or beside it under a name. */
function listFor(device: Element, set: Element, list: string): Element | undefined {
  const own = first(set, list)
  if (own) return own
  const name = first(set, `Uses${list}`)?.attributes.Name
  return name === undefined ? undefined : listsOf(device).get(`${list} ${name}`)
}

const notesIn = (list: Element | undefined, left: string[]): NamedValue[] =>
  (list?.children ?? []).flatMap((child): NamedValue[] => {
    if (child.name === 'NoteGroup') return notesIn(child, left)
    if (child.name !== 'Note') return []
    const number = numberIn(child, 'Number', SEVEN_MAX)
    const name = child.attributes.Name ?? ''
    if (number === null || name === '') {
      left.push(
        `The note “${name}” is left out: its number “${child.attributes.Number ?? ''}” is not 0 to 127.`,
      )
      return []
    }
    return [{ number, name }]
  })

const MOST_NUMBER: Readonly<Record<NamedControl['type'], number>> = {
  '7bit': SEVEN_MAX,
  '14bit': 31,
  RPN: FOURTEEN_MAX,
  NRPN: FOURTEEN_MAX,
}

function controlsIn(device: Element, list: Element | undefined, left: string[]): NamedControl[] {
  return inside(list, 'Control').flatMap((control): NamedControl[] => {
    const type = CONTROL_TYPES.find((each) => each === (control.attributes.Type ?? '7bit'))
    const number = type ? numberIn(control, 'Number', MOST_NUMBER[type]) : null
    const name = control.attributes.Name ?? ''
    if (type === undefined || number === null || name === '') {
      left.push(
        `The control “${name}” is left out: there is no ${type ?? control.attributes.Type} number “${control.attributes.Number ?? ''}”.`,
      )
      return []
    }
    const values = first(control, 'Values')
    const names = values && listFor(device, values, 'ValueNameList')
    return [
      {
        type,
        number,
        name,
        min: values ? numberIn(values, 'Min', FOURTEEN_MAX) : null,
        max: values ? numberIn(values, 'Max', FOURTEEN_MAX) : null,
        values: inside(names, 'Value').flatMap((value): NamedValue[] => {
          const at = numberIn(value, 'Number', FOURTEEN_MAX)
          const own = value.attributes.Name ?? ''
          return at === null || own === '' ? [] : [{ number: at, name: own }]
        }),
      },
    ]
  })
}

function bankIn(device: Element, bank: Element, left: string[]): NamedBank {
  const changes = inside(first(bank, 'MIDICommands'), 'ControlChange')
  const valueOf = (control: string): number | null => {
    const change = changes.find(({ attributes }) => attributes.Control === control)
    return change ? numberIn(change, 'Value', SEVEN_MAX) : null
  }
  const [msb, lsb] = [valueOf('0'), valueOf('32')]
  const name = bank.attributes.Name ?? ''
  return {
    name,
    select: msb === null && lsb === null ? null : { msb: msb ?? 0, lsb: lsb ?? 0 },
    patches: inside(listFor(device, bank, 'PatchNameList'), 'Patch').flatMap((patch, index) => {
      const label = patch.attributes.Number ?? ''
      const said = patch.attributes.ProgramChange
      const number = said === undefined ? index : numberIn(patch, 'ProgramChange', SEVEN_MAX)
      const own = patch.attributes.Name ?? ''
      if (number === null || number > SEVEN_MAX || own === '') {
        left.push(`“${own}” in ${name} is left out: there is no program “${said ?? index}”.`)
        return []
      }
      return [{ number, label, name: own }]
    }),
  }
}

const KNOWN = new Set([
  'Manufacturer',
  'Model',
  'CustomDeviceMode',
  'ChannelNameSet',
  'NoteNameList',
  'ControlNameList',
  'ValueNameList',
  'PatchNameList',
])

/**
 * Read a MIDI Name Document: the first device in it, with the first name set that has each sort of list. What
 * is there and not read is reported, never a failure by itself; a broken document is refused with its line.
 */
export function readNames(text: string): NamesRead {
  const read = readXml(text)
  if (!read.ok)
    return { ok: false, message: `This is no MIDI Name Document that can be read. ${read.message}` }
  const { root } = read
  if (root.name !== 'MIDINameDocument')
    return {
      ok: false,
      message: `This is another kind of document: it begins with “${root.name}”, not with MIDINameDocument.`,
    }
  const devices = root.children.filter(
    ({ name }) => name === 'MasterDeviceNames' || name === 'ExtendingDeviceNames',
  )
  const [device] = devices
  if (!device) return { ok: false, message: 'This document names no device: there is nothing to read in it.' }
  const left: string[] = []
  if (devices.length > 1)
    left.push(`${devices.length - 1} more devices in the document are left out: only the first is read.`)
  const sets = inside(device, 'ChannelNameSet')
  const listIn = (list: string): Element | undefined =>
    sets.flatMap((set) => listFor(device, set, list) ?? [])[0] ?? first(device, list)
  const banks = sets.find((set) => inside(set, 'PatchBank').length > 0)
  if (sets.length > 1) left.push('Of its name sets the first with each sort of list is read.')
  const strange = new Set(device.children.map(({ name }) => name).filter((name) => !KNOWN.has(name)))
  for (const name of strange) left.push(`“${name}” is not read.`)
  return {
    ok: true,
    left,
    names: {
      author: first(root, 'Author')?.text ?? '',
      manufacturer: first(device, 'Manufacturer')?.text ?? '',
      model: first(device, 'Model')?.text ?? '',
      controls: controlsIn(device, listIn('ControlNameList'), left),
      notes: notesIn(listIn('NoteNameList'), left),
      banks: inside(banks, 'PatchBank').map((bank) => bankIn(device, bank, left)),
    },
  }
}
