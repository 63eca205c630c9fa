import type * as z from 'zod/mini'
import type { Assignment, Control, Destination, Model, Parameter, RigSchema } from '../core/rig/schema'

type In<T extends z.ZodMiniType> = z.input<T>

export type ControlInput = In<typeof Control>
export type ModelInput = In<typeof Model>
export type AssignmentInput = In<typeof Assignment>
export type MessageInput = AssignmentInput['messages'][number]
export type DestinationInput = In<typeof Destination>
export type ParameterInput = In<typeof Parameter>
export type DemoInput = In<typeof RigSchema>
export type Assignments = Record<string, AssignmentInput>
export type ControllerInput = NonNullable<DemoInput['controllers']>[number]
export type MappingInput = NonNullable<DemoInput['mappings']>[number]

/** The demo rig comes as a newcomer would find it, and as it was on the night of the show. */
export type DemoState = 'as-found' | 'as-performed'

/** `count` whole numbers from `first` up. */
export const run = (first: number, count: number): number[] =>
  Array.from({ length: count }, (_, index) => first + index)

interface Grid {
  id: string
  kind: ControlInput['kind']
  gestures: ControlInput['gestures']
  block: string | null
  /** Left and top of the first control, in mm. */
  x: number
  y: number
  columns: number
  /** Distance from one control to the next, in mm. */
  pitch: { x: number; y: number }
  size: { w: number; h: number }
  labels: readonly string[]
  detentsPerTurn?: number
  firstLight?: number
}

/** A block of like controls in reading order, one for each label: `id-1`, `id-2` and so on. */
export const grid = (given: Grid): ControlInput[] =>
  given.labels.map((label, index) => ({
    id: `${given.id}-${index + 1}`,
    kind: given.kind,
    label,
    block: given.block,
    gestures: given.gestures,
    place: {
      x: given.x + (index % given.columns) * given.pitch.x,
      y: given.y + Math.floor(index / given.columns) * given.pitch.y,
      ...given.size,
    },
    ...(given.detentsPerTurn === undefined ? {} : { detentsPerTurn: given.detentsPerTurn }),
    ...(given.firstLight === undefined ? {} : { lightNumber: given.firstLight + index }),
  }))

/** One message as an assignment. */
export const sends = (message: MessageInput, more: Partial<AssignmentInput> = {}): AssignmentInput => ({
  messages: [message],
  ...more,
})

/** Assignments for `id-1.gesture`, `id-2.gesture`…, one for each message. */
export const across = (id: string, gesture: string, messages: readonly MessageInput[]): Assignments =>
  Object.fromEntries(messages.map((message, index) => [`${id}-${index + 1}.${gesture}`, sends(message)]))

/** Small letters and dashes from a name, for ids. */
export const slug = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')

/** The gestures of a table. */
export const keysOf = (assignments: Assignments | undefined): string[] => Object.keys(assignments ?? {})

export const cc = (number: number, more: object = {}): MessageInput => ({ kind: 'cc', number, ...more })
export const pressed = (number: number, more: object = {}): MessageInput =>
  cc(number, { behaviour: { kind: 'momentary' }, ...more })
export const note = (number: number, more: object = {}): MessageInput => ({
  kind: 'note',
  keys: { kind: 'one', number },
  ...more,
})

export type Light = NonNullable<Assignments[string]['light']>

/** The same assignments, those of some gestures with a light. */
export const lit = (assignments: Assignments, from: string, light: Light): Assignments =>
  Object.fromEntries(
    Object.entries(assignments).map(([key, assignment]) => [
      key,
      key.startsWith(from) ? { ...assignment, light } : assignment,
    ]),
  )
