import type { Channel } from '../midi'
import type { Id, Rig } from '../rig'
import { PAPERS } from './card/pages'
import { channelChart, type GridChannel } from './channel-chart'
import { checklist } from './checklist'
import { controllerMap } from './controller-map'
import { destinationMap } from './destination-map'
import type { SheetDocument } from './document'
import { implementationChart } from './implementation-chart'
import { lightKey } from './light-key'
import { lineCheckSheet } from './line-check-sheet'
import { nameLists } from './name-lists'
import { option, type Chosen, type OptionOf, type SheetOption } from './option'
import { passageSheet } from './passage-sheet'
import { plainSheet } from './plain'
import { rehearsalSheet } from './rehearsal-sheet'
import { relearnSheet } from './relearn-sheet'
import { surfaceCard } from './surface-card'
import { wakeSheet } from './wake-sheet'

/** A sheet as the list of sheets offers it. */
export interface OfferedSheet {
  /** The same as long as what it is about is there. */
  id: string
  kind: string
  /** What it is about: a controller or a destination; null for the whole rig. */
  about: Id | null
  /** What it is called in the list. */
  name: string
  /** What its file is called, before the extension. */
  fileName: string
  options: readonly SheetOption[]
  make: (chosen?: Chosen) => SheetDocument
}

/** A kind of sheet: which of its sheets a rig has. */
interface SheetKind {
  id: string
  /** The heading that its sheets stand under. */
  heading: string
  of: (rig: Rig) => OfferedSheet[]
}

const WHOLE = 'Of the whole rig'

type Make = (rig: Rig, chosen: Chosen) => SheetDocument
type MakeOf = (rig: Rig, about: Id, chosen: Chosen) => SheetDocument

/** A sheet of the whole rig. */
const ofWhole = (id: string, name: string, make: Make, options: readonly SheetOption[] = []): SheetKind => ({
  id,
  heading: WHOLE,
  of: (rig) => [
    {
      id,
      kind: id,
      about: null,
      name,
      fileName: name,
      options,
      make: (chosen = {}) => plainSheet(make(rig, chosen)),
    },
  ],
})

/** A sheet for each of some things of a rig, called by their names. */
const ofEach = (
  id: string,
  heading: string,
  word: string,
  things: (rig: Rig) => ReadonlyArray<{ id: Id; name: string }>,
  make: MakeOf,
  options: readonly SheetOption[] = [],
): SheetKind => ({
  id,
  heading,
  of: (rig) =>
    things(rig).map(({ id: about, name }) => ({
      id: `${id} ${about}`,
      kind: id,
      about,
      name,
      fileName: `${name} ${word}`,
      options,
      make: (chosen = {}) => plainSheet(make(rig, about, chosen)),
    })),
})

const controllers = ({ controllers: all }: Rig) => all
const destinations = ({ destinations: all }: Rig) => all

const paper = option('paper', 'Paper', {
  a4: PAPERS.a4.name,
  a3: PAPERS.a3.name,
  letter: PAPERS.letter.name,
  own: 'As large as the hardware',
})
const layers = option('layers', 'Layers', { apart: 'A card for each', together: 'All on one card' })
const order = option('order', 'Order', {
  parameter: 'By parameter',
  controller: 'By controller',
  scope: 'By where it counts',
})
const lines = option('lines', 'Lines', { all: 'Every control', changes: 'What changes' })
const CHANNELS = Array.from({ length: 16 }, (_, index) => String(index + 1))
const grid: OptionOf<string> = option('grid', 'Numbers as a grid', {
  busiest: 'Of the fullest channel',
  none: 'None',
  ...Object.fromEntries(CHANNELS.map((channel) => [`ch${channel}`, `Of channel ${channel}`])),
})
const gridOf = (chosen: Chosen): GridChannel => {
  const value = grid.of(chosen)
  return value === 'busiest' || value === 'none' ? value : (Number(value.slice(2)) as Channel)
}

/** Every kind of sheet, in the order in which they are offered. To add one: write its file, and a line here. */
export const SHEET_KINDS: readonly SheetKind[] = [
  ofEach(
    'card',
    'Surface cards',
    'card',
    controllers,
    (rig, id, chosen) => surfaceCard(rig, id, layers.of(chosen), paper.of(chosen)),
    [layers, paper],
  ),
  ofEach('controller', 'Controller maps', 'controller map', controllers, controllerMap),
  ofEach(
    'map',
    'Destination maps',
    'map',
    destinations,
    (rig, id, chosen) => destinationMap(rig, id, order.of(chosen)),
    [order],
  ),
  ofEach(
    'channels',
    'Channel charts',
    'channels',
    destinations,
    (rig, id, chosen) => channelChart(rig, id, gridOf(chosen)),
    [grid],
  ),
  ofEach(
    'implementation',
    'Implementation charts',
    'implementation chart',
    (rig) => [
      ...rig.controllers,
      ...rig.destinations.filter(({ kind }) => kind === 'synth' || kind === 'drum-machine'),
    ],
    implementationChart,
  ),
  ofWhole('checklist', 'Set-up checklist', checklist),
  ofWhole('passages', 'Passages', (rig, chosen) => passageSheet(rig, lines.of(chosen)), [lines]),
  ofWhole('names', 'Programs and notes', nameLists),
  ofWhole('teach', 'Teach again', relearnSheet),
  ofWhole('rehearsal', 'Rehearsal', rehearsalSheet),
  ofEach(
    'line-check',
    'Line checks',
    'line check',
    (rig) => rig.controllers.filter(({ lineCheck }) => lineCheck !== null),
    lineCheckSheet,
  ),
  ofWhole('lights', 'Light key', lightKey),
  ofWhole('wake', 'Wake sequence', wakeSheet),
]

/** The sheets that a rig has, under their headings; headings without a sheet are left out. */
export function sheetsOf(rig: Rig): Array<{ heading: string; sheets: OfferedSheet[] }> {
  const groups = new Map<string, OfferedSheet[]>()
  for (const { heading, of } of SHEET_KINDS) {
    const sheets = of(rig)
    if (sheets.length > 0) groups.set(heading, [...(groups.get(heading) ?? []), ...sheets])
  }
  return [...groups].map(([heading, sheets]) => ({ heading, sheets }))
}
