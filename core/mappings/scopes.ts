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

/** Can all of these mappings of one destination be in force at the same time, whatever scope that is? */
export function inForceTogether(rig: Rig, ...mappings: readonly Mapping[]): boolean {
  const scopes = [...new Set(mappings.flatMap(({ scope }) => scope ?? []))]
  if (scopes.length > 1) return false
  const [scope = null] = scopes
  return mappings.every((mapping) => isInForce(rig, mapping, scope))
}

/**
 * The passages, by their places in the rig, in which all of these mappings of one destination are in force; what a
 * passage leaves unsaid can be anything. Null where no passages are declared.
 */
export function passagesInForce(rig: Rig, ...mappings: readonly Mapping[]): ReadonlySet<number> | null {
  if (rig.passages.length === 0) return null
  const destination = mappings[0]?.destination
  return new Set(
    rig.passages.flatMap(({ scopes }, index) => {
      const said = scopes.find((each) => each.destination === destination)
      const isSo = said
        ? mappings.every((mapping) => isInForce(rig, mapping, said.scope))
        : inForceTogether(rig, ...mappings)
      return isSo ? [index] : []
    }),
  )
}
