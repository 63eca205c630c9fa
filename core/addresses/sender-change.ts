import type { Controller, Id, Layer, Rig, Stack, Template } from '../rig'
import { sendersIn, type Sender } from './emission'

/** What an edit of assignments changes: in which controllers, who no longer sends, and who sends now. */
export interface SenderChange {
  controllers: ReadonlySet<Id>
  gone: readonly Sender[]
  come: readonly Sender[]
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
  sameBut(a, b, 'templates') && allPairs(a.templates, b.templates, sameTemplate)

function lacking(all: readonly Sender[], other: readonly Sender[]): Sender[] {
  const known = new Set(other)
  return all.filter((sender) => !known.has(sender))
}

/**
 * What differs between the senders of two rigs, where assignments are all that differs between the rigs;
 * null where anything else does.
 */
export function senderChange(before: Rig, after: Rig): SenderChange | null {
  if (!sameBut(before, after, 'controllers')) return null
  if (!allPairs(before.controllers, after.controllers, sameController)) return null
  const controllers = new Set<Id>()
  const gone: Sender[] = []
  const come: Sender[] = []
  after.controllers.forEach((controller, position) => {
    const was = before.controllers[position]
    if (!was || was === controller) return
    controllers.add(controller.id)
    if (!controller.inUse) return
    const old = sendersIn(was, position)
    const now = sendersIn(controller, position, old)
    gone.push(...lacking(old, now))
    come.push(...lacking(now, old))
  })
  return { controllers, gone, come }
}
