import type { MappingFacts } from '#core/mappings'
import { followed, upThenDown, valueAt, valueFrom, type Takeover, type TakeoverPoint } from '#core/values'

/** A line of a chart: what is drawn across and up. */
export interface ChartLine {
  label: string
  points: ReadonlyArray<{ x: number; y: number }>
  /** Drawn as steps where the parameter jumps from value to value. */
  isStepped: boolean
}

const MOST_POINTS = 257

/** Control in, parameter out: sent values against what the parameter becomes. Empty where there is no value. */
export function inAndOut({ travel, range, click, clicks }: MappingFacts): ChartLine[] {
  if (travel.kind === 'clicks') {
    if (click === null || clicks === null) return []
    const every = Math.max(1, Math.ceil(clicks / MOST_POINTS))
    const points: Array<{ x: number; y: number }> = []
    for (let at = 0; at <= clicks; at += every)
      points.push({ x: at, y: Math.min(range.max, range.min + at * click) })
    return [{ label: 'after so many clicks', points, isStepped: true }]
  }
  if (travel.kind !== 'sweep') return []
  const number = Math.min(travel.count, MOST_POINTS)
  const points = Array.from({ length: number }, (_, index) => {
    const sent = travel.at(Math.round((index * (travel.count - 1)) / Math.max(1, number - 1)))
    return { x: sent, y: valueFrom(range, sent, travel.top) }
  })
  return [{ label: 'becomes', points, isStepped: range.span.count !== null && range.span.count < 64 }]
}

/** Where control and parameter stand while the control goes up and then down, in the parameter's own values. */
export function takeoverLines({ range }: MappingFacts, kind: Takeover, start: TakeoverPoint): ChartLine[] {
  const points = followed(kind, start, upThenDown(start.control))
  const line = (label: string, of: (point: TakeoverPoint) => number): ChartLine => ({
    label,
    points: points.map((point, x) => ({ x, y: valueAt({ ...range, inverted: false }, of(point)) })),
    isStepped: false,
  })
  return [line('parameter', ({ parameter }) => parameter), line('control', ({ control }) => control)]
}
