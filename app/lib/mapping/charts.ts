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

/** What a control that rests in its centre sends there, and what the parameter is then; null for one that is swept by nothing. */
export function atRest({ travel, range }: MappingFacts): { sent: number; becomes: number } | null {
  if (travel.kind !== 'sweep') return null
  const sent = travel.at(Math.round((travel.count - 1) / 2))
  return { sent, becomes: valueFrom(range, sent, travel.top) }
}

/**
 * Control in, parameter out: sent values against what the parameter becomes, and where a control that rests in its centre does.
 * Empty where there is no value.
 */
export function inAndOut(facts: MappingFacts, restsInCentre = false): ChartLine[] {
  const { travel, range, click, clicks } = facts
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
  const becomes = {
    label: 'becomes',
    points,
    isStepped: range.span.count !== null && range.span.count < 64,
  }
  const rest = restsInCentre ? atRest(facts) : null
  if (!rest) return [becomes]
  const across = [range.min, range.max].map((y) => ({ x: rest.sent, y }))
  return [becomes, { label: 'rests here', points: across, isStepped: false }]
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
