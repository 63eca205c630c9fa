import { claimWords, hearingWords, leadsIn, leadsOut, portsOf, type PortEnd, type Rig } from '#core/rig'

/** What can be selected in the picture of the rig. */
export type RigThing =
  | { kind: 'controller'; id: string }
  | { kind: 'box'; id: string }
  | { kind: 'computer'; id: string }
  | { kind: 'destination'; id: string }
  | { kind: 'cable'; id: string }

export type DeviceKind = Exclude<RigThing['kind'], 'cable'>

/** A device of the rig as a card: where it stands (px), its ports, and what is to be said of it. */
export interface Card {
  id: string
  kind: DeviceKind
  name: string
  lines: readonly string[]
  ins: readonly PortEnd[]
  outs: readonly PortEnd[]
  hue: number | null
  letter: string
  isQuiet: boolean
  x: number
  y: number
  height: number
}

/** A cable, or that software opens a port of a computer. */
export interface Line {
  id: string
  from: { owner: string; port: string }
  to: { owner: string; port: string }
  kind: 'cable' | 'opens'
  hue: number | null
  note: string
}

const COLUMN: Readonly<Record<DeviceKind, number>> = { controller: 0, box: 1, computer: 2, destination: 3 }
export const CARD_WIDTH = 196
const COLUMN_STEP = 262
const GAP = 22
const HEAD = 34
const LINE_HEIGHT = 17
const PORT_HEIGHT = 22
const FOOT = 10

/** Boxes stand lower than the computers beside them, so that straight cables pass above. */
const BOX_DROP = 90

const heightOf = (lines: number, ports: number): number =>
  HEAD + lines * LINE_HEIGHT + ports * PORT_HEIGHT + FOOT

type Plain = Omit<Card, 'x' | 'y' | 'height' | 'ins' | 'outs'>

function plainCards(rig: Rig): Plain[] {
  const quiet = { hue: null, letter: '', isQuiet: false }
  return [
    ...rig.controllers.map((controller): Plain => ({
      id: controller.id,
      kind: 'controller',
      name: controller.name,
      lines: [controller.inUse ? `home channel ${controller.homeChannel}` : 'put away'],
      hue: controller.hue,
      letter: controller.letter,
      isQuiet: !controller.inUse,
    })),
    ...rig.boxes.map(({ id, name, kind }): Plain => ({ ...quiet, id, kind: 'box', name, lines: [kind] })),
    ...rig.computers.map(({ id, name }): Plain => ({ ...quiet, id, kind: 'computer', name, lines: [] })),
    ...rig.destinations.map((destination): Plain => {
      const host = rig.destinations.find(({ id }) => id === destination.inside)
      return {
        ...quiet,
        id: destination.id,
        kind: 'destination',
        name: destination.name,
        lines: [
          ...(host ? [`inside ${host.name}`] : []),
          hearingWords(destination.hears.playing, destination.ports.length),
          ...destination.claims.map(claimWords),
        ],
      }
    }),
  ]
}

/** The devices of a rig as cards, in columns from what sends to what sounds, each in the order of the rig. */
export function cardsOf(rig: Rig): Card[] {
  const ends = portsOf(rig)
  const portCount = (owner: string): number =>
    new Set(ends.filter(({ ref }) => ref.owner === owner).map(({ ref }) => ref.port)).size
  const computers = rig.computers.reduce((sum, { id }) => sum + heightOf(0, portCount(id)) + GAP, 0)
  const down = new Map<number, number>([[COLUMN.box, computers === 0 ? 0 : computers + BOX_DROP]])
  return plainCards(rig).map((card) => {
    const own = ends.filter(({ ref }) => ref.owner === card.id)
    const ins = own.filter(({ direction }) => leadsIn(direction))
    const outs = own.filter(({ direction }) => leadsOut(direction))
    const column = COLUMN[card.kind]
    const y = down.get(column) ?? 0
    const height = heightOf(card.lines.length, portCount(card.id))
    down.set(column, y + height + GAP)
    return { ...card, ins, outs, x: column * COLUMN_STEP, y, height }
  })
}

/** The cables of a rig, and which computer ports its software opens, as lines between cards. */
export function linesOf(rig: Rig): Line[] {
  const hues = new Map(rig.controllers.map(({ id, hue }) => [id, hue]))
  const cables = rig.cables.map(({ id, from, to, rules, otherwise }): Line => ({
    id,
    from,
    to,
    kind: 'cable',
    hue: hues.get(from.owner) ?? null,
    note:
      rules.length > 0
        ? `${rules.length} ${rules.length === 1 ? 'rule' : 'rules'}`
        : otherwise === 'stop'
          ? 'stops all'
          : '',
  }))
  const opened = rig.destinations.flatMap(({ id: owner, ports }) =>
    ports.flatMap(({ id: port, opens }): Line[] =>
      opens
        ? [
            {
              id: `opens-${owner}-${port}`,
              from: { owner: opens.computer, port: opens.port },
              to: { owner, port },
              kind: 'opens',
              hue: null,
              note: '',
            },
          ]
        : [],
    ),
  )
  return [...cables, ...opened]
}
