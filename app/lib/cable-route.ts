/** A point in the picture of the rig, in px. */
export interface Point {
  x: number
  y: number
}
/** What a cable must not pass behind, in px. */
export interface Obstacle {
  x: number
  y: number
  width: number
  height: number
}

/** A cable leaves to the right and arrives from the left, by so much at least. */
const STUB = 16
/** So far from a card a cable goes round it; cables beside one another have lanes of their own. */
const MARGIN = 9
const LANE = 4
const LANES = 5
/** A bend counts as so much more way. */
const BEND_COST = 60
/** Of more cards than these only the nearest are gone round: the picture has to follow the hand. */
const MOST_OBSTACLES = 48
/** A curve keeps so far from cards, but for its own ends. */
const CLEAR = 3
const NEAR = 6
/** Looked at every so many px at most: with that and what it keeps clear, no corner fits between. */
const SAMPLE_PX = 4
const CORNER = 8

const isInside = ({ x, y }: Point, card: Obstacle, by: number): boolean =>
  x > card.x - by && x < card.x + card.width + by && y > card.y - by && y < card.y + card.height + by

/** Does a straight piece, level or upright, touch a card? */
function isBlocked(a: Point, b: Point, cards: readonly Obstacle[]): boolean {
  const [left, right] = [Math.min(a.x, b.x), Math.max(a.x, b.x)]
  const [top, bottom] = [Math.min(a.y, b.y), Math.max(a.y, b.y)]
  return cards.some(
    ({ x, y, width, height }) =>
      right > x - 2 && left < x + width + 2 && bottom > y - 2 && top < y + height + 2,
  )
}

/** The usual curve between two ports. */
function curve(from: Point, to: Point): { path: string; at: (t: number) => Point; samples: number } {
  const pull = Math.max(30, Math.abs(to.x - from.x) / 2)
  const [c, d] = [
    { x: from.x + pull, y: from.y },
    { x: to.x - pull, y: to.y },
  ]
  // A curve is nowhere faster than three times its longest leg.
  const fastest = 3 * Math.max(pull, Math.hypot(d.x - c.x, d.y - c.y))
  return {
    samples: Math.ceil(fastest / SAMPLE_PX),
    path: `M${from.x} ${from.y}C${c.x} ${c.y} ${d.x} ${d.y} ${to.x} ${to.y}`,
    at: (t) => {
      const u = 1 - t
      const mix = (a: number, b: number, e: number, f: number): number =>
        u * u * u * a + 3 * u * u * t * b + 3 * u * t * t * e + t * t * t * f
      return { x: mix(from.x, c.x, d.x, to.x), y: mix(from.y, c.y, d.y, to.y) }
    },
  }
}

const sorted = (values: readonly number[]): number[] => [...new Set(values)].sort((a, b) => a - b)

/** The shortest way of level and upright pieces that touches no card (Dijkstra over the lines beside cards); null if none. */
function corners(from: Point, to: Point, cards: readonly Obstacle[], margin: number): Point[] | null {
  const start = { x: from.x + STUB, y: from.y }
  const goal = { x: to.x - STUB, y: to.y }
  const xs = sorted([start.x, goal.x, ...cards.flatMap(({ x, width }) => [x - margin, x + width + margin])])
  const ys = sorted([start.y, goal.y, ...cards.flatMap(({ y, height }) => [y - margin, y + height + margin])])
  // A node is a crossing with the direction in which it was reached: 0 level, 1 upright.
  const id = (column: number, row: number, way: number): number => (row * xs.length + column) * 2 + way
  const cost = new Map<number, number>()
  const before = new Map<number, number>()
  const queue: Array<{ node: number; total: number }> = []
  const push = (node: number, total: number, source: number | null): void => {
    if (total >= (cost.get(node) ?? Infinity)) return
    cost.set(node, total)
    if (source !== null) before.set(node, source)
    let place = queue.length
    queue.push({ node, total })
    while (place > 0 && (queue[place - 1]?.total ?? 0) < total) {
      queue[place] = queue[place - 1]!
      place--
    }
    queue[place] = { node, total }
  }
  const pointOf = (node: number): Point => {
    const crossing = node >> 1
    return { x: xs[crossing % xs.length] ?? 0, y: ys[Math.floor(crossing / xs.length)] ?? 0 }
  }
  push(id(xs.indexOf(start.x), ys.indexOf(start.y), 0), 0, null)
  const goals = [0, 1].map((way) => id(xs.indexOf(goal.x), ys.indexOf(goal.y), way))
  while (queue.length > 0) {
    const { node, total } = queue.pop()!
    if (total > (cost.get(node) ?? Infinity)) continue
    if (goals.includes(node)) {
      const way: Point[] = [to]
      for (let at: number | undefined = node; at !== undefined; at = before.get(at)) way.unshift(pointOf(at))
      return [from, ...way]
    }
    const here = pointOf(node)
    const [column, row] = [xs.indexOf(here.x), ys.indexOf(here.y)]
    const steps = [
      [column - 1, row, 0],
      [column + 1, row, 0],
      [column, row - 1, 1],
      [column, row + 1, 1],
    ] as const
    for (const [nextColumn, nextRow, way] of steps) {
      const [x, y] = [xs[nextColumn], ys[nextRow]]
      if (x === undefined || y === undefined || isBlocked(here, { x, y }, cards)) continue
      const bend = way === node % 2 ? 0 : BEND_COST
      push(id(nextColumn, nextRow, way), total + Math.abs(x - here.x) + Math.abs(y - here.y) + bend, node)
    }
  }
  return null
}

/** Straight pieces as an SVG path with rounded corners. */
function rounded(points: readonly Point[]): string {
  const [first, ...rest] = points
  if (!first) return ''
  let path = `M${first.x} ${first.y}`
  rest.forEach((point, index) => {
    const before = points[index] ?? point
    const after = rest[index + 1]
    if (!after) {
      path += `L${point.x} ${point.y}`
      return
    }
    const towards = (other: Point): Point => {
      const length = Math.hypot(other.x - point.x, other.y - point.y)
      const by = length === 0 ? 0 : Math.min(CORNER, length / 2) / length
      return { x: point.x + (other.x - point.x) * by, y: point.y + (other.y - point.y) * by }
    }
    const [a, b] = [towards(before), towards(after)]
    path += `L${a.x} ${a.y}Q${point.x} ${point.y} ${b.x} ${b.y}`
  })
  return path
}

export interface CableRoute {
  /** An SVG path. */
  path: string
  /** Where words about the cable stand. */
  middle: Point
  /** What the cable goes through, for whoever wants to know: corners, or points along the curve. */
  points: readonly Point[]
}

/**
 * The way of a cable from an out to an in, both in px: a curve where nothing lies in its way, else round the cards. Where
 * there is no way round, the curve.
 *
 * @param lane Which of several cables it is, so that they do not lie on one another.
 */
export function cableRoute(from: Point, to: Point, cards: readonly Obstacle[], lane = 0): CableRoute {
  const plain = curve(from, to)
  const samples = Array.from({ length: plain.samples + 1 }, (_, index) => plain.at(index / plain.samples))
  const isBetween = (point: Point): boolean =>
    Math.hypot(point.x - from.x, point.y - from.y) > NEAR && Math.hypot(point.x - to.x, point.y - to.y) > NEAR
  const inner = samples.filter(isBetween)
  const asCurve: CableRoute = { path: plain.path, middle: plain.at(0.5), points: samples }
  if (!inner.some((point) => cards.some((card) => isInside(point, card, CLEAR)))) return asCurve
  const centre = { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 }
  const far = ({ x, y, width, height }: Obstacle): number =>
    Math.hypot(x + width / 2 - centre.x, y + height / 2 - centre.y)
  const near =
    cards.length <= MOST_OBSTACLES
      ? cards
      : cards.toSorted((a, b) => far(a) - far(b)).slice(0, MOST_OBSTACLES)
  const points = corners(from, to, near, MARGIN + (lane % LANES) * LANE)
  if (!points) return asCurve
  const longest = points
    .slice(1)
    .map((point, index) => ({ a: points[index] ?? point, b: point }))
    .reduce((best, each) =>
      Math.hypot(each.b.x - each.a.x, each.b.y - each.a.y) >
      Math.hypot(best.b.x - best.a.x, best.b.y - best.a.y)
        ? each
        : best,
    )
  const middle = { x: (longest.a.x + longest.b.x) / 2, y: (longest.a.y + longest.b.y) / 2 }
  return { path: rounded(points), middle, points }
}
