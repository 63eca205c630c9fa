import { apart, entriesFor, HARDLY_APART, shownAs, stateForValue, type Lit } from '../../../lights'
import { keepsState, topOf, travelOf } from '../../../midi'
import { assignmentsAt, modelOf, type Assignment, type Id, type LightRole } from '../../../rig'
import { mappedRange, positionOf } from '../../../values'
import { lightsNow, showingsOf } from '../../lights'
import type { BenchState } from '../../running'
import { standing } from '../../destination'
import type { Run } from '../run'
import { moverOf, type Check, type Told } from '../told'

const named = ({ states }: LightRole, name: string) =>
  states.find((state) => state.name.toLowerCase() === name)

const offOf = (role: LightRole): string => named(role, 'off')?.name ?? role.states[0]?.name ?? ''
const onOf = (role: LightRole): string => named(role, 'on')?.name ?? offOf(role)

/** The state that a light is to show after something was done: from what the light is for, not from how it is set. */
function wantedAfter(
  run: Run,
  role: LightRole,
  { setBy }: NonNullable<Assignment['light']>,
  index: number,
): string | null {
  const { spot, joined, after } = run
  const { then, state } = after[index] ?? { then: null, state: run.scene.state }
  switch (setBy.kind) {
    case 'steady':
      return setBy.state
    case 'one-of-many':
      return after.slice(0, index + 1).some((each) => each.then === 'down') ? onOf(role) : offOf(role)
    case 'press': {
      const isKept = spot.messages.some((message) => keepsState(travelOf(message, spot.control)))
      const presses = after.slice(0, index + 1).filter((each) => each.then === 'down').length
      // What steps through a list is on at every step but the first: only a plain toggle is told here.
      if (
        isKept &&
        spot.messages.some((message) => travelOf(message, spot.control).kind === 'points' && isList(message))
      )
        return null
      const isOn = isKept ? presses % 2 === 1 : then === 'down'
      return isOn ? onOf(role) : offOf(role)
    }
    case 'feedback': {
      const [source] = joined.filter(
        ({ parameter }) => parameter.kind !== 'action' && parameter.kind !== 'note',
      )
      if (!source) return null
      const { destination, parameter, mapping } = source
      const at = state.destinations[destination.id]
      if (!at || at.values[parameter.id] === undefined) return null
      const share = positionOf(mappedRange(mapping, parameter), standing(at, parameter))
      return stateForValue(role, Math.round(Math.min(1, Math.max(0, share)) * 127))
    }
    default:
      throw new Error(`No light is set by ${JSON.stringify(setBy satisfies never)}.`)
  }
}
const isList = (message: Run['spot']['messages'][number]): boolean =>
  'behaviour' in message && message.behaviour.kind === 'list' && topOf(message) !== null

/** Every light as it is now, or that of one control. */
const litNow = (
  { rig, spot: { controller } }: Run,
  { controllers }: BenchState,
  only: Id | null,
): Map<string, Lit> => {
  const state = controllers[controller.id]
  const all = state ? lightsNow(rig, controller, showingsOf(controllers), state, only) : []
  return new Map(all.map((lit) => [lit.control.id, lit]))
}

function toldOf(run: Run): Told[] {
  const { rig, spot, scene, after } = run
  const light = assignmentsAt(spot.controller, spot.place)?.[spot.place.gesture]?.light
  const role = light && rig.lightRoles.find(({ id }) => id === light.role)
  const entries = entriesFor(modelOf(rig, spot.controller).abilities.lights, spot.control.kind)
  if (!light || !role || entries.length === 0) return []
  const about = {
    weight: 'fault' as const,
    place: spot.place,
    mapping: null,
    concerns: 'all' as const,
    parameter: null,
  }
  const told: Told[] = []
  const shown = new Map<string, string>()
  // What else changes is the same in every scene: it is looked for once.
  const only = spot.control.id
  const before = run.isFirst ? litNow(run, scene.state, null) : new Map<string, Lit>()
  after.forEach(({ state }, index) => {
    const wanted = wantedAfter(run, role, light, index)
    const isLooked = run.isFirst && index === 0
    const lit = litNow(run, state, isLooked ? null : only)
    const own = lit.get(spot.control.id)
    const colour = role.states.find(({ name }) => name === wanted)
    const entry = colour && shownAs(colour.colour, role.states.indexOf(colour), entries)?.entry
    if (wanted !== null && own && entry) {
      shown.set(wanted, entry.colour)
      if (own.entry.index !== entry.index)
        told.push({
          ...about,
          text: `The light of ${moverOf(rig, spot)} shows ${own.entry.name} when it is to show ${entry.name} (${role.name}, ${wanted}).`,
          cure:
            light.setBy.kind === 'feedback'
              ? 'See that its destination sends back, and that its mapping takes part in it.'
              : 'Look at who sets its light, on the lights lens of the Desk.',
        })
    }
    for (const [id, each] of lit) {
      const was = before.get(id)
      if (id === spot.control.id || !was || was.entry.index === each.entry.index || isMeant(run, state, each))
        continue
      told.push({
        ...about,
        text: `${moverOf(rig, spot)} changes the light of ${each.control.label || each.control.kind} as well.`,
        cure: 'Look at who sets that light, on the lights lens of the Desk.',
      })
    }
  })
  const colours = [...shown]
  for (const [index, [state, colour]] of colours.entries())
    for (const [other, otherColour] of colours.slice(index + 1))
      if (apart(colour, otherColour) < HARDLY_APART)
        told.push({
          ...about,
          text: `The light of ${moverOf(rig, spot)} looks the same for ${state} and for ${other}.`,
          cure: `Choose other colours for ${role.name}, on the lights lens of the Desk.`,
        })
  return told
}

/** May the light of another control change with this one: another layer shows, or one of many is dark now? */
function isMeant({ rig, spot, joined, scene }: Run, state: BenchState, { place, control }: Lit): boolean {
  if (
    showingsOf(state.controllers)[spot.controller.id] !==
    showingsOf(scene.state.controllers)[spot.controller.id]
  )
    return true
  const light = place && assignmentsAt(spot.controller, place)?.[place.gesture]?.light
  const own = assignmentsAt(spot.controller, spot.place)?.[spot.place.gesture]?.light
  if (!light)
    return (
      state.controllers[spot.controller.id]?.showing !== scene.state.controllers[spot.controller.id]?.showing
    )
  if (light.setBy.kind === 'one-of-many')
    return own?.setBy.kind === 'one-of-many' && own.setBy.group === light.setBy.group
  // Two controls of one parameter are told alike.
  const parameters = new Set(joined.map(({ destination, parameter }) => `${destination.id}/${parameter.id}`))
  return rig.mappings.some(
    ({ gesture, destination, parameter }) =>
      gesture?.startsWith(`${spot.controller.id}/${control.id}.`) === true &&
      parameters.has(`${destination}/${parameter}`),
  )
}

/** Did the light come right, in each state? */
export const light: Check = { id: 'light', find: toldOf }
