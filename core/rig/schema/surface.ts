import * as z from 'zod/mini'
import { apart, Id, Label, LIMITS, list, millimetres, Name, or, orNull, Seven, whole } from './primitives'

export const CONTROL_KINDS = [
  'knob',
  'encoder',
  'fader',
  'button',
  'pad',
  'keybed',
  'wheel',
  'ribbon',
  'xy',
  'pedal',
  'footswitch',
  'tilt',
  'joystick',
] as const

export const GESTURE_KINDS = [
  'turn',
  'push',
  'touch',
  'strike',
  'pressure',
  'slide',
  'x',
  'y',
  'press',
  'tilt',
] as const

export const ControlKind = z.enum(CONTROL_KINDS)
export const GestureKind = z.enum(GESTURE_KINDS)

/** Where a control lies on its surface: left edge, top edge, width and height in mm. */
export const Place = z.strictObject({
  x: millimetres(),
  y: millimetres(),
  w: millimetres(1),
  h: millimetres(1),
})

export const Control = z.strictObject({
  id: Id,
  kind: ControlKind,
  place: Place,
  label: Label,
  block: orNull(Id),
  gestures: list(GestureKind, GESTURE_KINDS.length).check(
    apart(
      (gesture) => gesture,
      () => 'A control senses each movement once.',
    ),
  ),
  /** A purely analog control: it sends nothing. */
  silent: or(z.boolean(), false),
  /** Goes back to its centre when it is let go, or has one to be felt: sprung wheels and sticks, bipolar faders. */
  restsInCentre: or(z.boolean(), false),
  /** Clicks of an encoder in one turn. */
  detentsPerTurn: orNull(whole(1, 1000)),
  /** The number by which the hardware names this control's light, where it is not the sent number. */
  lightNumber: orNull(Seven),
})

/** A row or grid of like controls laid out and named together. */
export const Block = z.strictObject({
  id: Id,
  label: Name,
  rows: whole(1, 64),
  columns: whole(1, 128),
})

export const Surface = z.strictObject({
  width: millimetres(10),
  height: millimetres(10),
  blocks: or(list(Block, LIMITS.controls), []),
  controls: list(Control, LIMITS.controls),
})
