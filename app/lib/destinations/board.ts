import { chartedAt, printListening, type JoinTarget } from '#core/mappings'
import { noteName, printBank } from '#core/midi'
import type { Destination } from '#core/rig'
import { shownProgram } from '#core/values'

/** What the lists of a destination are, on the board where controls are joined to them. */
export type BoardList = 'parameters' | 'sounds' | 'presets'

/** One thing of a destination that a control can be joined to. */
export interface BoardItem {
  key: string
  target: JoinTarget
  name: string
  group: string
  /** Where it listens by the destination's own chart, in writing; empty where it learns. */
  address: string
}

const bankWords = (bank: { msb: number; lsb: number } | null): string =>
  bank === null ? 'Presets' : `Bank ${printBank(bank)}`

/** Everything in a list of a destination, in its own order. */
export function boardItems(destination: Destination, list: BoardList): BoardItem[] {
  switch (list) {
    case 'parameters':
      return destination.parameters.map((parameter) => {
        const charted = chartedAt(parameter)
        return {
          key: parameter.id,
          target: { kind: 'parameter', parameter: parameter.id },
          name: parameter.name,
          group: parameter.path.join(' · '),
          address: charted ? printListening(charted) : '',
        }
      })
    case 'sounds':
      return [...destination.noteNames]
        .sort((a, b) => a.number - b.number)
        .map(({ number, name }) => ({
          key: `note-${number}`,
          target: { kind: 'note', number },
          name,
          group: 'Sounds',
          address: `${noteName(number, destination.middleC)} ${number}`,
        }))
    case 'presets':
      return destination.programs.map(({ number, bank, name }) => ({
        key: `program-${printBank(bank)}-${number}`,
        target: { kind: 'program', number, bank },
        name,
        group: bankWords(bank),
        address: String(shownProgram(number, destination.countsFrom)),
      }))
  }
}

/** The lists that a destination has something in; its parameters always. */
export const listsOf = ({ noteNames, programs }: Destination): BoardList[] => [
  'parameters',
  ...(noteNames.length > 0 ? (['sounds'] as const) : []),
  ...(programs.length > 0 ? (['presets'] as const) : []),
]

/** Those in whose name or group every word of a search is found. */
export function searched(items: readonly BoardItem[], query: string): readonly BoardItem[] {
  const words = query.toLowerCase().split(/\s+/).filter(Boolean)
  if (words.length === 0) return items
  return items.filter(({ name, group, address }) => {
    const text = `${group} ${name} ${address}`.toLowerCase()
    return words.every((word) => text.includes(word))
  })
}

/** A line of the board: a heading, or items side by side. */
export type BoardLine =
  | { kind: 'heading'; key: string; text: string }
  | {
      kind: 'items'
      key: string
      items: readonly BoardItem[]
      /** Number of the first among all items. */ from: number
    }

/** Items in columns, each group under its heading. */
export function boardLines(items: readonly BoardItem[], columns: number): BoardLine[] {
  const lines: BoardLine[] = []
  let group: string | null = null
  let row: BoardItem[] = []
  let from = 0
  const close = (): void => {
    const [first] = row
    if (first) lines.push({ kind: 'items', key: first.key, items: row, from })
    from += row.length
    row = []
  }
  for (const item of items) {
    if (item.group !== group || row.length === columns) close()
    if (item.group !== group && item.group !== '')
      lines.push({ kind: 'heading', key: `heading ${lines.length}`, text: item.group })
    group = item.group
    row.push(item)
  }
  close()
  return lines
}

/** The full name of an item, with its group where that tells it apart. */
export const itemName = ({ group, name, target }: BoardItem): string =>
  target.kind === 'parameter' && group !== '' ? `${group} · ${name}` : name
