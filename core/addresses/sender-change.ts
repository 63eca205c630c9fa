import {
  splitGestureRef,
  type Control,
  type Controller,
  type Id,
  type Layer,
  type Mapping,
  type Model,
  type Rig,
  type Stack,
  type Template,
} from '../rig'
import { sendersIn, type Sender } from './emission'

/**
 * What an edit of assignments and mappings changes: in which controllers, who no longer sends, and who sends now.
 * Whose mappings are others is among both.
 */
export interface SenderChange {
  controllers: ReadonlySet<Id>
  removed: readonly Sender[]
  added: readonly Sender[]
  /** Mappings as they were and as they are. */
  mappings: readonly Mapping[]
}

/** Are two things the same but for one of their fields? Fields are compared as objects: edits share what they leave alone. */
function sameBut<T extends object>(a: T, b: T, ...fields: ReadonlyArray<keyof T>): boolean {
  const keys = new Set([...Object.keys(a), ...Object.keys(b)] as Array<keyof T>)
  return [...keys].every((key) => a[key] === b[key] || fields.includes(key))
}

const allPairs = <T>(a: readonly T[], b: readonly T[], same: (a: T, b: T) => boolean): boolean =>
  a === b ||
  (a.length === b.length &&
    a.every((item, index) => {
      const other = b[index]
      return other !== undefined && (item === other || same(item, other))
    }))

const sameLayer = (a: Layer, b: Layer): boolean => sameBut(a, b, 'assignments')
const sameStack = (a: Stack, b: Stack): boolean =>
  sameBut(a, b, 'layers') && allPairs(a.layers, b.layers, sameLayer)
const sameTemplate = (a: Template, b: Template): boolean =>
  sameBut(a, b, 'base', 'stacks') && allPairs(a.stacks, b.stacks, sameStack)
const sameController = (a: Controller, b: Controller): boolean =>
  sameBut(a, b, 'templates', 'hue', 'slots') && allPairs(a.templates, b.templates, sameTemplate)

// Where controls lie, and how large they are, is a matter of the picture alone.
const unplaced = (control: Control): string => JSON.stringify({ ...control, place: null })
const sameControl = (a: Control, b: Control): boolean => unplaced(a) === unplaced(b)
const sameModel = (a: Model, b: Model): boolean =>
  sameBut(a, b, 'surface') &&
  sameBut(a.surface, b.surface, 'controls', 'width', 'height') &&
  allPairs(a.surface.controls, b.surface.controls, sameControl)

/** What nobody reads who asks what is sent and heard. */
const UNREAD = [
  'name',
  'notes',
  'middleC',
  'programsFrom',
  'houseRules',
  'setAside',
] as const satisfies ReadonlyArray<keyof Rig>

function lacking<T>(all: readonly T[], other: readonly T[]): T[] {
  if (all === other) return []
  const known = new Set(other)
  return all.filter((item) => !known.has(item))
}

/**
 * What differs between two rigs for those who send, where assignments, mappings and what has no part in it (where
 * controls lie, hues, names of the rig, what was set aside) are all that differs; null where anything else does.
 */
export function senderChange(before: Rig, after: Rig): SenderChange | null {
  if (!sameBut(before, after, 'controllers', 'mappings', 'models', ...UNREAD)) return null
  if (!allPairs(before.models, after.models, sameModel)) return null
  if (!allPairs(before.controllers, after.controllers, sameController)) return null
  const controllers = new Set<Id>()
  const removed: Sender[] = []
  const added: Sender[] = []
  after.controllers.forEach((controller, position) => {
    const was = before.controllers[position]
    if (!was || was === controller) return
    controllers.add(controller.id)
    if (!controller.inUse) return
    const old = sendersIn(before, was, position)
    const now = sendersIn(after, controller, position, old)
    removed.push(...lacking(old, now))
    added.push(...lacking(now, old))
  })
  const mappings = [...lacking(before.mappings, after.mappings), ...lacking(after.mappings, before.mappings)]
  const joined = new Set(mappings.flatMap(({ gesture }) => gesture ?? []))
  const owners = new Set([...joined].map((gesture) => splitGestureRef(gesture).controller))
  after.controllers.forEach((controller, position) => {
    if (!owners.has(controller.id)) return
    controllers.add(controller.id)
    if (!controller.inUse) return
    const known = new Set(added)
    const own = sendersIn(after, controller, position).filter(
      (sender) => joined.has(sender.gesture) && !known.has(sender),
    )
    removed.push(...own)
    added.push(...own)
  })
  return { controllers, removed, added, mappings }
}
