import { produce } from 'immer'
import { dropGestures, dropPorts, dropShowings } from '../edits/cascade'
import { freeDeviceName } from '../fresh'
import { freeId } from '../ids'
import { assignmentsOf, gestureRef, splitGestureKey, splitGestureRef } from '../places'
import { EditError } from '../edits'
import { mappingProblem } from '../mapping-problem'
import type { Control, Controller, Destination, Id, LightRole, Model, Port, Rig } from '../types'
import type { Part } from './cut'
import { takeIn, type TakenIn } from './take-in'

const isCalled = (name: string, other: string): boolean =>
  name.trim().toLowerCase() === other.trim().toLowerCase()

/**
 * The ids that items of a part take in the rig, so that what is joined to the old ones stays joined: those of old items of the same name,
 * else ids that are not taken; those are taken from then on.
 */
function idsByName<T extends { id: Id; name: string }>(
  own: readonly T[],
  old: readonly T[],
  taken: { id: Id }[] = [...old],
): Map<Id, Id> {
  const left = [...old]
  const ids = new Map<Id, Id>()
  for (const { id, name } of own) {
    const index = left.findIndex((each) => isCalled(each.name, name))
    const [found] = index < 0 ? [] : left.splice(index, 1)
    const next = found?.id ?? freeId(id, taken)
    if (!found) taken.push({ id: next })
    ids.set(id, next)
  }
  return ids
}

/** Ports are the same where they are called the same, else where they are the only ones of their direction. */
function portIds<T extends Pick<Port, 'id' | 'name' | 'direction'>>(
  own: readonly T[],
  old: readonly T[],
): Map<Id, Id> {
  const ids = new Map<Id, Id>()
  const taken: { id: Id }[] = [...old]
  for (const direction of ['in', 'out', 'thru'] as const) {
    const [mine, theirs] = [own, old].map((ports) => ports.filter((port) => port.direction === direction))
    const [[only], [other]] = [mine ?? [], theirs ?? []]
    const isOnly = mine?.length === 1 && theirs?.length === 1
    if (isOnly && only && other) ids.set(only.id, other.id)
    else for (const [id, next] of idsByName(mine ?? [], theirs ?? [], taken)) ids.set(id, next)
  }
  return ids
}

const at = (ids: ReadonlyMap<Id, Id>, id: Id): Id => ids.get(id) ?? id

const controlIn = ({ surface }: Model, id: Id): Control | undefined =>
  surface.controls.find((each) => each.id === id)

function controllerInPlace(rig: Rig, part: Part, old: Controller): TakenIn {
  const { id } = old
  const isOld = (ref: string): boolean => splitGestureRef(ref).controller === id
  // What speaks of the old one alone gives way to what comes with the part.
  const cleared: Rig = {
    ...rig,
    choices: rig.choices.filter(
      ({ by, targets }) =>
        !(by.kind === 'gesture' ? isOld(by.gesture) : by.controller === id) ||
        targets.some((target) => target.controller !== id),
    ),
    accords: rig.accords.filter(({ gestures }) => !gestures.every(isOld)),
    houseRules: rig.houseRules.filter((rule) => rule.controller !== id),
  }
  const { rig: beside, renamed, shared } = takeIn(cleared, part)
  const added = beside.controllers.at(-1)
  const [own] = part.rig.controllers
  const model = part.rig.models.find(({ id }) => id === own?.model)
  const oldModel = rig.models.find(({ id }) => id === old.model)
  if (!added || !own || !model || !oldModel)
    throw new Error('A controller’s part holds one controller and its surface.')

  const others = { ...rig, controllers: rig.controllers.filter((each) => each !== old) }
  const name = freeDeviceName(others, own.name)
  const ports = portIds(added.ports, old.ports)
  /** A knob where a fader was is another control, whatever its id. */
  const stays = (gesture: string): boolean => {
    const { control, gesture: movement } = splitGestureKey(gesture)
    const now = controlIn(model, control)
    return now?.kind === controlIn(oldModel, control)?.kind && now?.gestures.includes(movement) === true
  }
  const here = (owner: Id): Id => (owner === added.id ? id : owner)
  const hereRef = (ref: string): string => {
    const { controller, gesture } = splitGestureRef(ref)
    return gestureRef(here(controller), gesture)
  }

  const next = produce(beside, (draft) => {
    dropGestures(draft, (controller, gesture) => controller === id && !stays(gesture))
    draft.controllers = draft.controllers.filter((each) => each.id !== added.id)
    draft.controllers[draft.controllers.findIndex((each) => each.id === id)] = {
      ...added,
      id,
      name,
      letter: old.letter,
      hue: old.hue,
      inUse: old.inUse,
      deviceNumber: old.deviceNumber,
      ports: added.ports.map((port) => ({ ...port, id: at(ports, port.id) })),
    }
    for (const choice of draft.choices) {
      if (choice.by.kind === 'gesture') choice.by.gesture = hereRef(choice.by.gesture)
      else choice.by.controller = here(choice.by.controller)
      for (const target of choice.targets) target.controller = here(target.controller)
    }
    for (const accord of draft.accords) accord.gestures = accord.gestures.map(hereRef)
    for (const rule of draft.houseRules) rule.controller = rule.controller && here(rule.controller)
    dropShowings(draft)
    const kept = new Set(ports.values())
    dropPorts(draft, ({ owner, port }) => owner === id && !kept.has(port))
    if (draft.controllers.every((each) => each.model !== old.model)) {
      draft.models = draft.models.filter((each) => each.id !== old.model)
      for (const recipe of draft.recipes) if (recipe.model === old.model) recipe.model = null
    }
  })
  return {
    rig: next,
    renamed: [
      ...renamed.filter(({ what }) => what !== 'controller'),
      ...(name === own.name ? [] : [{ what: 'controller', from: own.name, to: name }]),
    ],
    shared,
  }
}

function destinationInPlace(rig: Rig, part: Part, old: Destination): TakenIn {
  const [own] = part.rig.destinations
  if (!own) throw new Error('A destination’s part holds one destination.')
  const { id } = old
  const others = { ...rig, destinations: rig.destinations.filter((each) => each !== old) }
  const name = freeDeviceName(others, own.name)
  const ports = portIds(own.ports, old.ports)
  const scopes = idsByName(own.scopes, old.scopes)
  const parameters = idsByName(own.parameters, old.parameters)
  const opens = new Map(old.ports.map((port) => [port.id, port.opens]))
  const inPlace: Destination = {
    ...own,
    id,
    name,
    inside: old.inside,
    unit: old.unit,
    ports: own.ports.map((port) => {
      const next = at(ports, port.id)
      return { ...port, id: next, opens: opens.get(next) ?? null }
    }),
    scopes: own.scopes.map((scope) => ({ ...scope, id: at(scopes, scope.id) })),
    parameters: own.parameters.map((parameter) => ({
      ...parameter,
      id: at(parameters, parameter.id),
      switchesTo: parameter.switchesTo && at(scopes, parameter.switchesTo),
    })),
    claims: own.claims.map((claim) => ({
      ...claim,
      serves: claim.serves.map((each) => at(parameters, each)),
    })),
  }
  const known = new Map(inPlace.parameters.map((parameter) => [parameter.id, parameter]))
  const hasScope = (scope: Id | null): boolean =>
    scope === null || inPlace.scopes.some((each) => each.id === scope)
  const next = produce(rig, (draft) => {
    draft.destinations[draft.destinations.findIndex((each) => each.id === id)] = inPlace
    draft.mappings = draft.mappings.filter((mapping) => {
      if (mapping.destination !== id) return true
      const parameter = known.get(mapping.parameter)
      return parameter && hasScope(mapping.scope) && mappingProblem(mapping, parameter) === null
    })
    for (const passage of draft.passages)
      passage.scopes = passage.scopes.filter(
        ({ destination, scope }) => destination !== id || hasScope(scope),
      )
    const kept = new Set(ports.values())
    dropPorts(draft, ({ owner, port }) => owner === id && !kept.has(port))
  })
  return {
    rig: next,
    renamed: name === own.name ? [] : [{ what: 'destination', from: own.name, to: name }],
    shared: [],
  }
}

const MOST_STATES = 16

/** Roles of the same name are replaced; a state that a control shows steadily stays. */
function rolesInPlace(rig: Rig, part: Part): TakenIn {
  const ids = idsByName(part.rig.lightRoles, rig.lightRoles)
  const shown = new Set(
    rig.controllers.flatMap((controller) =>
      [...assignmentsOf(controller)].flatMap(({ assignment: { light } }) =>
        light?.setBy.kind === 'steady' ? [`${light.role}/${light.setBy.state}`] : [],
      ),
    ),
  )
  const came = new Map<Id, LightRole>()
  for (const role of part.rig.lightRoles) {
    const id = at(ids, role.id)
    const old = rig.lightRoles.find((each) => each.id === id)
    const stays = (old?.states ?? []).filter(
      ({ name }) => shown.has(`${id}/${name}`) && !role.states.some((state) => state.name === name),
    )
    const states = [...role.states, ...stays]
    if (states.length > MOST_STATES)
      throw new EditError(
        `The light role “${role.name}” would have ${states.length} states with those that controls show now; ${MOST_STATES} is the most. Change what they show first.`,
      )
    came.set(id, { ...role, id, states })
  }
  const kept = rig.lightRoles.map((role) => came.get(role.id) ?? role)
  const added = [...came.values()].filter(({ id }) => !rig.lightRoles.some((role) => role.id === id))
  return { rig: { ...rig, lightRoles: [...kept, ...added] }, renamed: [], shared: [] }
}

/** The rules for the whole rig are those of the part; rules of single controllers stay. */
const rulesInPlace = (rig: Rig, part: Part): TakenIn =>
  takeIn({ ...rig, houseRules: rig.houseRules.filter(({ controller }) => controller !== null) }, part)

const found = <T extends { id: Id }>(items: readonly T[], id: Id | null): T => {
  const item = items.find((each) => each.id === id)
  if (!item) throw new EditError('What it should come in place of is no longer in the rig. Choose again.')
  return item
}

/**
 * Put a part into a rig in place of what is there. A controller or destination keeps its place: its letter, its cables at ports that both
 * have, and the mappings of controls and parameters that both have. Controls are the same by id and kind, parameters, scopes and roles by
 * name. What only the old one had goes as when it is removed: what was learned from its controls stays as old mappings.
 *
 * @param id The controller or destination; null for roles and rules, which come in place of those that are there.
 * @throws EditError where it is no longer there, or the two cannot be joined.
 */
export function takeInPlaceOf(rig: Rig, part: Part, id: Id | null): TakenIn {
  switch (part.kind) {
    case 'controller':
      return controllerInPlace(rig, part, found(rig.controllers, id))
    case 'destination':
      return destinationInPlace(rig, part, found(rig.destinations, id))
    case 'light-roles':
      return rolesInPlace(rig, part)
    case 'house-rules':
      return rulesInPlace(rig, part)
  }
}
