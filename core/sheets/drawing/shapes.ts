import { isBlackKey } from '../../midi'
import type { Control, ControlKind } from '../../rig'

/** How a part of the drawing is inked: the body, a mark on it, or a light detail. */
export type Ink = 'body' | 'mark' | 'detail' | 'dark'

/** A part of the line drawing of a control, in mm on the surface. */
export type ShapePart =
  | { shape: 'rect'; ink: Ink; x: number; y: number; w: number; h: number; radius: number }
  | { shape: 'circle'; ink: Ink; cx: number; cy: number; r: number }
  | { shape: 'line'; ink: Ink; x1: number; y1: number; x2: number; y2: number }

interface Box {
  x: number
  y: number
  w: number
  h: number
}

type Draw = (box: Box) => ShapePart[]

const rect = (ink: Ink, x: number, y: number, w: number, h: number, radius = 1): ShapePart => ({
  shape: 'rect',
  ink,
  x,
  y,
  w,
  h,
  radius,
})
const circle = (ink: Ink, cx: number, cy: number, r: number): ShapePart => ({
  shape: 'circle',
  ink,
  cx,
  cy,
  r,
})
const line = (ink: Ink, x1: number, y1: number, x2: number, y2: number): ShapePart => ({
  shape: 'line',
  ink,
  x1,
  y1,
  x2,
  y2,
})

const round = ({ x, y, w, h }: Box) => ({ cx: x + w / 2, cy: y + h / 2, r: Math.min(w, h) / 2 })

/** A point on a circle; `turn` 0 is straight up, 0.25 to the right. */
const around = (cx: number, cy: number, r: number, turn: number) => ({
  x: cx + r * Math.sin(turn * 2 * Math.PI),
  y: cy - r * Math.cos(turn * 2 * Math.PI),
})

const knob: Draw = (box) => {
  const { cx, cy, r } = round(box)
  const outer = around(cx, cy, r * 0.92, 0.06)
  const inner = around(cx, cy, r * 0.35, 0.06)
  return [circle('body', cx, cy, r), line('mark', inner.x, inner.y, outer.x, outer.y)]
}

const encoder: Draw = (box) => {
  const { cx, cy, r } = round(box)
  const ticks = Array.from({ length: 16 }, (_, index) => {
    const from = around(cx, cy, r * 1.1, index / 16)
    const to = around(cx, cy, r * 1.22, index / 16)
    return line('detail', from.x, from.y, to.x, to.y)
  })
  return [circle('body', cx, cy, r), circle('detail', cx, cy, r * 0.78), ...ticks]
}

const fader: Draw = ({ x, y, w, h }) => {
  const capHeight = Math.min(5, h / 5)
  const capY = y + h * 0.32
  return [
    rect('detail', x + w / 2 - 1, y, 2, h, 1),
    rect('body', x, capY, w, capHeight, 1.2),
    line('mark', x + w * 0.15, capY + capHeight / 2, x + w * 0.85, capY + capHeight / 2),
  ]
}

const button: Draw = ({ x, y, w, h }) => [rect('body', x, y, w, h, Math.min(1.8, h / 3))]
const pad: Draw = ({ x, y, w, h }) => [rect('body', x, y, w, h, 2.4)]

const keybed: Draw = ({ x, y, w, h }) => {
  const first = 36
  const notes = Array.from({ length: 49 }, (_, index) => first + index)
  const whites = notes.filter((note) => !isBlackKey(note))
  const width = w / whites.length
  const lines = whites
    .slice(1)
    .map((_, index) => line('detail', x + (index + 1) * width, y, x + (index + 1) * width, y + h))
  const blacks = notes.filter(isBlackKey).map((note) => {
    const before = whites.filter((white) => white < note).length
    return rect('dark', x + before * width - width * 0.3, y, width * 0.6, h * 0.58, 0.6)
  })
  return [rect('body', x, y, w, h, 1.5), ...lines, ...blacks]
}

const wheel: Draw = ({ x, y, w, h }) => [
  rect('body', x, y, w, h, w / 2.4),
  ...[0.3, 0.4, 0.5, 0.6, 0.7].map((at) =>
    line(at === 0.5 ? 'mark' : 'detail', x + w * 0.2, y + h * at, x + w * 0.8, y + h * at),
  ),
]

const ribbon: Draw = ({ x, y, w, h }) => [
  rect('body', x, y, w, h, h / 3),
  line('detail', x + w / 2, y + h * 0.2, x + w / 2, y + h * 0.8),
]

const xy: Draw = ({ x, y, w, h }) => [
  rect('body', x, y, w, h, 2),
  line('detail', x + w / 2, y + 2, x + w / 2, y + h - 2),
  line('detail', x + 2, y + h / 2, x + w - 2, y + h / 2),
]

const pedal: Draw = ({ x, y, w, h }) => [
  rect('body', x, y, w, h, 5),
  rect('detail', x + w * 0.14, y + h * 0.08, w * 0.72, h * 0.84, 3),
]

const footswitch: Draw = (box) => {
  const { cx, cy, r } = round(box)
  return [circle('body', cx, cy, r), circle('detail', cx, cy, r * 0.62)]
}

const tilt: Draw = (box) => {
  const { cx, cy, r } = round(box)
  return [
    circle('body', cx, cy, r),
    line('mark', cx - r * 0.6, cy + r * 0.22, cx + r * 0.6, cy - r * 0.22),
    line('detail', cx, cy - r * 0.7, cx, cy + r * 0.7),
  ]
}

const joystick: Draw = (box) => {
  const { cx, cy, r } = round(box)
  return [circle('body', cx, cy, r), circle('mark', cx, cy, r * 0.4)]
}

const DRAWINGS: Readonly<Record<ControlKind, Draw>> = {
  knob,
  encoder,
  fader,
  button,
  pad,
  keybed,
  wheel,
  ribbon,
  xy,
  pedal,
  footswitch,
  tilt,
  joystick,
}

/** The line drawing of a control, to scale: parts in mm, the first of each kind's parts its body. */
export const drawingOf = (control: Control): ShapePart[] => DRAWINGS[control.kind](control.place)
