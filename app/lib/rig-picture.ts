import {
  claimWords,
  hearingWords,
  leadsIn,
  leadsOut,
  portKey,
  portsOf,
  type PortEnd,
  type Rig,
} from '#core/rig'

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
  /** Ports that are folded away: nothing is cabled to them. */
  folded: number
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

type Plain = Omit<Card, 'x' | 'y' | 'height' | 'ins' | 'outs' | 'folded'>

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

/** How the player has the picture: where cards were put, and whose ports are all shown. */
export interface Arrangement {
  moved: Readonly<Record<string, { x: number; y: number }>>
  unfolded: ReadonlySet<string>
}
const AS_DRAWN: Arrangement = { moved: {}, unfolded: new Set() }

/** Of a card with more ports than these only the cabled ones are shown, and the first of the others. */
const MANY_PORTS = 10
const FEW_PORTS = 4

/** The ports of each owner that are shown. */
function shownPorts(rig: Rig, { unfolded }: Arrangement): ReadonlyMap<string, readonly PortEnd[]> {
  const cabled = new Set(linesOf(rig).flatMap(({ from, to }) => [portKey(from), portKey(to)]))
  const byOwner = new Map<string, PortEnd[]>()
  for (const end of portsOf(rig)) byOwner.set(end.ref.owner, [...(byOwner.get(end.ref.owner) ?? []), end])
  for (const [owner, ends] of byOwner) {
    if (ends.length <= MANY_PORTS || unfolded.has(owner)) continue
    let free = 0
    byOwner.set(
      owner,
      ends.filter(({ ref }) => cabled.has(portKey(ref)) || free++ < FEW_PORTS),
    )
  }
  return byOwner
}

/**
 * The devices of a rig as cards, in columns from what sends to what sounds, each in the order of the rig; those that
 * were moved, where they were put.
 */
export function cardsOf(rig: Rig, arrangement = AS_DRAWN): Card[] {
  const shown = shownPorts(rig, arrangement)
  const all = portsOf(rig)
  const portCount = (owner: string): number => shown.get(owner)?.length ?? 0
  const computers = rig.computers.reduce((sum, { id }) => sum + heightOf(0, portCount(id)) + GAP, 0)
  const down = new Map<number, number>([[COLUMN.box, computers === 0 ? 0 : computers + BOX_DROP]])
  return plainCards(rig).map((card) => {
    const own = shown.get(card.id) ?? []
    const folded = all.filter(({ ref }) => ref.owner === card.id).length - own.length
    const ins = own.filter(({ direction }) => leadsIn(direction))
    const outs = own.filter(({ direction }) => leadsOut(direction))
    const column = COLUMN[card.kind]
    const y = down.get(column) ?? 0
    const isFolding = folded > 0 || own.length > MANY_PORTS
    const height = heightOf(card.lines.length, own.length + (isFolding ? 1 : 0))
    down.set(column, y + height + GAP)
    return { ...card, ins, outs, folded, x: column * COLUMN_STEP, y, height, ...arrangement.moved[card.id] }
  })
}

/** Where the cable of a port begins or ends, in px; null where the port is not shown. */
export function portPoint(
  cards: readonly Card[],
  { owner, port }: { owner: string; port: string },
  way: 'in' | 'out',
): { x: number; y: number } | null {
  const card = cards.find(({ id }) => id === owner)
  if (!card) return null
  const row = portRows(card).findIndex((each) => each.port === port)
  const y = card.y + HEAD + card.lines.length * LINE_HEIGHT + (row + 0.5) * PORT_HEIGHT
  return row < 0 ? null : { x: way === 'in' ? card.x : card.x + CARD_WIDTH, y }
}

/** The ports of a card, each once: one that goes both ways has both ends. */
export function portRows({ ins, outs }: Pick<Card, 'ins' | 'outs'>) {
  const ports = new Map<string, { port: string; name: string; isIn: boolean; isOut: boolean }>()
  for (const [ends, way] of [
    [ins, 'isIn'],
    [outs, 'isOut'],
  ] as const) {
    for (const { ref: at, name, direction } of ends) {
      const row = ports.get(at.port) ?? { port: at.port, name, isIn: false, isOut: false }
      row[way] = true
      ports.set(
        at.port,
        direction === 'thru' && !/thru/i.test(name) ? { ...row, name: `${name} (thru)` } : row,
      )
    }
  }
  return [...ports.values()]
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
