import { readingOrder, type Control } from '#core/rig'

export type Direction = 'left' | 'right' | 'up' | 'down'

const centre = ({ place }: Control) => ({ x: place.x + place.w / 2, y: place.y + place.h / 2 })

/** The nearest control that way: what lies straight ahead counts for more than what lies aside. Null at the edge. */
export function nearestTo(controls: readonly Control[], from: Control, direction: Direction): Control | null {
  const start = centre(from)
  let best: { control: Control; cost: number } | null = null
  for (const control of controls) {
    if (control === from) continue
    const { x, y } = centre(control)
    const [ahead, aside] =
      direction === 'left' || direction === 'right'
        ? [direction === 'right' ? x - start.x : start.x - x, Math.abs(y - start.y)]
        : [direction === 'down' ? y - start.y : start.y - y, Math.abs(x - start.x)]
    if (ahead <= 0.5 || aside > ahead * 2.5) continue
    const cost = ahead + aside * 3
    if (!best || cost < best.cost) best = { control, cost }
  }
  return best?.control ?? null
}

/** The first or last control of the block that a control belongs to, in reading order. */
export function blockEnd(controls: readonly Control[], from: Control, end: 'first' | 'last'): Control {
  if (from.block === null) return from
  const row = readingOrder(controls.filter(({ block }) => block === from.block))
  return (end === 'first' ? row[0] : row.at(-1)) ?? from
}
