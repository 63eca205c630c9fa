import { mappingsOf, type Id, type Mapping, type Rig } from '../rig'

/** The mappings of the same control that are in force instead of one that counts everywhere, each in its own scope. */
export function outrankedBy(rig: Rig, mapping: Mapping): readonly Mapping[] {
  if (mapping.scope !== null || mapping.gesture === null) return []
  return mappingsOf(rig, mapping.gesture).filter(
    ({ destination, scope }) => destination === mapping.destination && scope !== null,
  )
}

/** Is a mapping in force while its destination is in a scope (null: in none)? A named scope wins over everywhere. */
export function isInForce(rig: Rig, mapping: Mapping, scope: Id | null): boolean {
  if (mapping.scope !== null) return mapping.scope === scope
  return scope === null || !outrankedBy(rig, mapping).some((other) => other.scope === scope)
}

/** Can two mappings of one destination be in force at the same time? */
export function inForceTogether(rig: Rig, a: Mapping, b: Mapping): boolean {
  if (a.scope === b.scope) return true
  if (a.scope !== null && b.scope !== null) return false
  return isInForce(rig, a, b.scope ?? a.scope) && isInForce(rig, b, b.scope ?? a.scope)
}
