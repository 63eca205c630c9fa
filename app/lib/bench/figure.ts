import { inkedPaths, type InkedPath } from '#core/sheets/drawing'
import type { Control, GestureKey } from '#core/rig'

/** A control as it stands while it is played, in px. */
export interface Figure {
  body: readonly InkedPath[]
  /** How far it is moved, in the colour of its controller: an arc, a bar or a filled shape. */
  level: { d: string; isFilled: boolean } | null
  /** Where it stands: a pointer or a line. */
  pointer: string | null
}

const START_TURN = -0.375
const WHOLE_TURN = 0.75

const at = (cx: number, cy: number, r: number, turn: number): string =>
  `${(cx + r * Math.sin(turn * 2 * Math.PI)).toFixed(1)} ${(cy - r * Math.cos(turn * 2 * Math.PI)).toFixed(1)}`

/** The stretch from where a movement rests to where it stands, both 0–1. */
const stretch = (share: number, rest: number): [number, number] => [
  Math.min(rest, share),
  Math.max(rest, share),
]

function round(box: Box, share: number, body: readonly InkedPath[], rest: number): Figure {
  const [cx, cy, r] = [box.x + box.w / 2, box.y + box.h / 2, Math.min(box.w, box.h) / 2]
  const turn = START_TURN + share * WHOLE_TURN
  const [from, to] = stretch(share, rest).map((each) => START_TURN + each * WHOLE_TURN) as [number, number]
  const isLarge = to - from > 0.5 ? 1 : 0
  const outer = (r + 5).toFixed(1)
  return {
    body,
    level:
      to - from <= 0.001
        ? null
        : {
            d: `M${at(cx, cy, r + 5, from)}A${outer} ${outer} 0 ${isLarge} 1 ${at(cx, cy, r + 5, to)}`,
            isFilled: false,
          },
    pointer: `M${at(cx, cy, r * 0.35, turn)}L${at(cx, cy, r * 0.9, turn)}`,
  }
}

interface Box {
  x: number
  y: number
  w: number
  h: number
}

const box = ({ x, y, w, h }: Box): string => `M${x} ${y}h${w}v${h}h${-w}z`

function fader({ x, y, w, h }: Box, share: number, rest: number): Figure {
  const cap = Math.min(14, h / 4)
  const top = y + (1 - share) * (h - cap)
  const middle = x + w / 2
  /** Where the middle of the cap is at a share. */
  const capAt = (of: number): number => y + (1 - of) * (h - cap) + cap / 2
  const [low, high] = stretch(share, rest)
  const isRising = share >= rest
  const bar = {
    top: capAt(high) + (isRising ? cap / 2 : 0),
    bottom: rest === 0 ? y + h : capAt(low) - (isRising ? 0 : cap / 2),
  }
  return {
    body: [
      { ink: 'detail', d: box({ x: middle - 2, y, w: 4, h }) },
      { ink: 'body', d: box({ x, y: top, w, h: cap }) },
    ],
    level: {
      d: box({ x: middle - 1.5, y: bar.top, w: 3, h: Math.max(0, bar.bottom - bar.top) }),
      isFilled: true,
    },
    pointer: `M${x + w * 0.15} ${top + cap / 2}h${w * 0.7}`,
  }
}

/** A bar that fills from below, with a line where it stands. */
function upright(area: Box, share: number, body: readonly InkedPath[], rest: number): Figure {
  const y = area.y + (1 - share) * area.h
  const [low, high] = stretch(share, rest)
  const top = area.y + (1 - high) * area.h
  return {
    body,
    level: {
      d: box({
        x: area.x + 3,
        y: top,
        w: area.w - 6,
        h: Math.max(0, (high - low) * area.h - (rest === 0 ? 2 : 0)),
      }),
      isFilled: true,
    },
    pointer: `M${area.x + 2} ${y}h${area.w - 4}`,
  }
}

function level(area: Box, share: number, body: readonly InkedPath[]): Figure {
  const x = area.x + share * area.w
  return {
    body,
    level: {
      d: box({ x: area.x + 2, y: area.y + area.h - 5, w: Math.max(0, x - area.x - 2), h: 3 }),
      isFilled: true,
    },
    pointer: `M${x} ${area.y + 2}v${area.h - 4}`,
  }
}

/** The control with its movements at their places; `share` gives the place of each, 0–1. */
export function figureOf(
  control: Control,
  scale: number,
  share: (gesture: GestureKey) => number,
  isDown: boolean,
): Figure {
  const { x, y, w, h } = control.place
  const area: Box = { x: x * scale, y: y * scale, w: w * scale, h: h * scale }
  const all = inkedPaths(control, scale)
  const body = all.filter(({ ink }) => ink !== 'mark')
  const moved = control.gestures.find((gesture) => ['turn', 'slide', 'tilt', 'press'].includes(gesture))
  const to = moved ? share(`${control.id}.${moved}`) : 0
  const rest = control.restsInCentre ? 0.5 : 0
  switch (control.kind) {
    case 'knob':
    case 'encoder':
    case 'tilt':
      return round(area, to, body, rest)
    case 'fader':
      return fader(area, to, rest)
    case 'wheel':
    case 'pedal':
      return upright(area, to, body, rest)
    case 'ribbon':
      return level(area, to, body)
    case 'xy':
    case 'joystick': {
      const [px, py] = [
        area.x + share(`${control.id}.x`) * area.w,
        area.y + (1 - share(`${control.id}.y`)) * area.h,
      ]
      return {
        body,
        level: null,
        pointer: `M${px} ${area.y + 2}v${area.h - 4}M${area.x + 2} ${py}h${area.w - 4}`,
      }
    }
    case 'keybed':
      return { body: all, level: null, pointer: null }
    case 'button':
    case 'pad':
    case 'footswitch':
      return { body, level: isDown ? { d: body[0]?.d ?? '', isFilled: true } : null, pointer: null }
  }
}

/** The movement of a control that a hand moves first: what turns and slides before what is pressed. */
export const movedGesture = ({ id, gestures, kind }: Control): GestureKey | null => {
  const found = gestures.find((gesture) => ['turn', 'slide', 'tilt', 'x'].includes(gesture))
  const isPedal = kind === 'pedal' && gestures.includes('press')
  return found ? `${id}.${found}` : isPedal ? `${id}.press` : null
}
/** What is pressed of a control. */
export const pressedGesture = ({ id, gestures, kind }: Control): GestureKey | null => {
  const found =
    kind === 'pedal' ? undefined : gestures.find((gesture) => ['push', 'strike', 'press'].includes(gesture))
  return found ? `${id}.${found}` : null
}
