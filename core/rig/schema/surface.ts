import { z } from 'zod'
import { Id, LIMITS, Millimetres, Name, Seven } from './primitives'

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
  x: Millimetres,
  y: Millimetres,
  w: Millimetres.min(1),
  h: Millimetres.min(1),
})

export const Control = z.strictObject({
  id: Id,
  kind: ControlKind,
  place: Place,
  label: z.string().trim().max(LIMITS.name),
  block: Id.nullable().default(null),
  gestures: z.array(GestureKind).max(GESTURE_KINDS.length),
  /** A purely analog control: it sends nothing. */
  silent: z.boolean().default(false),
  /** Clicks of an encoder in one turn. */
  detentsPerTurn: z.int().min(1).max(1000).nullable().default(null),
  /** The number by which the hardware names this control's light, where it is not the sent number. */
  lightNumber: Seven.nullable().default(null),
})

/** A row or grid of like controls laid out and named together. */
export const Block = z.strictObject({
  id: Id,
  label: Name,
  rows: z.int().min(1).max(64),
  columns: z.int().min(1).max(128),
})

export const Surface = z.strictObject({
  width: Millimetres.min(10),
  height: Millimetres.min(10),
  blocks: z.array(Block).max(LIMITS.controls).default([]),
  controls: z.array(Control).max(LIMITS.controls),
})
