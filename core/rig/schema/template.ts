import * as z from 'zod/mini'
import { Message } from './message'
import { Channel, Colour, Id, LIMITS, list, Name, or, orNull, Seven, Text } from './primitives'
import { GestureKey, GestureRef } from './references'

/** Who sets a control's light, and what it says. */
export const AssignmentLight = z.strictObject({
  role: Id,
  setBy: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('press') }),
    z.strictObject({ kind: z.literal('feedback') }),
    z.strictObject({ kind: z.literal('one-of-many'), group: Name }),
    z.strictObject({ kind: z.literal('steady'), state: Name }),
  ]),
})

/** What one gesture sends in one layer, or in the base. */
export const Assignment = z.strictObject({
  messages: list(Message, LIMITS.messages, 1),
  pinned: or(z.boolean(), false),
  light: orNull(AssignmentLight),
  memo: Text,
})

const Assignments = z.record(GestureKey, Assignment)

export const Layer = z.strictObject({
  id: Id,
  name: Name,
  colour: orNull(Colour),
  assignments: or(Assignments, {}),
})

/** Gestures that change together, with the layers to choose among. */
export const Stack = z.strictObject({
  id: Id,
  name: Name,
  gestures: list(GestureKey, LIMITS.controls * 4),
  /** `replace`: one layer at a time. `lie-over`: gestures that the layer leaves unset show through. */
  mode: or(z.enum(['replace', 'lie-over']), 'replace'),
  layers: list(Layer, LIMITS.layersAStack, 1),
  /** The layer that shows at power-up, or null for none. */
  powerUp: orNull(Id),
})

export const Template = z.strictObject({
  id: Id,
  name: Name,
  /** What gestures in no stack send: always on. */
  base: or(Assignments, {}),
  stacks: or(list(Stack, 32), []),
})

/** An incoming message that chooses a layer or template. */
export const IncomingTrigger = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('program'), channel: Channel, number: Seven }),
  z.strictObject({ kind: z.literal('cc'), channel: Channel, number: Seven, value: Seven }),
  z.strictObject({ kind: z.literal('note'), channel: Channel, number: Seven }),
])

export const ChoiceTarget = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('layers'),
    controller: Id,
    template: Id,
    stack: Id,
    layers: list(Id, Infinity, 1),
  }),
  z.strictObject({ kind: z.literal('template'), controller: Id, template: Id }),
])

/** Who chooses a layer or template, and how. */
export const Choice = z.strictObject({
  id: Id,
  by: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('gesture'), gesture: GestureRef }),
    z.strictObject({ kind: z.literal('incoming'), controller: Id, trigger: IncomingTrigger }),
  ]),
  how: z.enum(['this-one', 'next', 'previous', 'while-held', 'toggle']),
  targets: list(ChoiceTarget, 32, 1),
})
