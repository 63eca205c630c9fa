import {
  modelOf,
  placeRef,
  programmedAt,
  shownPlace,
  type Assignment,
  type Control,
  type Controller,
  type GestureRef,
  type Id,
  type LightRole,
  type PaletteEntry,
  type Place,
  type Rig,
  type Showing,
} from '../rig'
import { entriesFor } from './palette'
import { nearestEntry, shownAs } from './resolve'

/** What of the lights is looked at: as they are at the start, all in one state, or with some gestures active. */
export type LightLook =
  | { kind: 'start' }
  | { kind: 'state'; state: string }
  | { kind: 'active'; gestures: ReadonlySet<GestureRef> }
  /** A value that destinations send back to the lights that they set. */
  | { kind: 'value'; value: number }
  /** As it is played: with gestures active, and what destinations sent back, by control. */
  | { kind: 'played'; active: ReadonlySet<GestureRef>; values: ReadonlyMap<Id, number> }

/** One light of a controller, with what it shows. */
export interface Lit {
  control: Control
  /** Null where the light is dark because nothing says what it is for. */
  role: LightRole | null
  state: string | null
  /** The colour that is wanted; what the light makes of it is its entry. */
  wanted: string | null
  entry: PaletteEntry
  place: Place | null
}

const OFF = 'off'
const ON = 'on'

const stateNamed = ({ states }: LightRole, name: string): LightRole['states'][number] | undefined =>
  states.find((state) => state.name.toLowerCase() === name.toLowerCase())

/** The state that a light starts in: the one it always has, else off, else the first of its role. */
function startState(role: LightRole, light: NonNullable<Assignment['light']>): string {
  if (light.setBy.kind === 'steady') return light.setBy.state
  return stateNamed(role, OFF)?.name ?? role.states[0]?.name ?? OFF
}

/**
 * The state of a role that a value (0–127) sent back by a destination means: of the states with a least value
 * the last that it reaches; where none has one, the values are shared out evenly in the order of the states.
 */
export function stateForValue({ states }: LightRole, value: number): string {
  const marked = states.filter(({ from }) => from !== null).sort((a, b) => (a.from ?? 0) - (b.from ?? 0))
  const found =
    marked.length > 0
      ? (marked.findLast(({ from }) => value >= (from ?? 0)) ?? states.find(({ from }) => from === null))
      : states[Math.min(states.length - 1, Math.floor((value / 128) * states.length))]
  return (found ?? states[0])?.name ?? OFF
}

/** In which state a light is, in a way of looking. */
function stateIn(
  look: LightLook,
  ref: GestureRef,
  control: Id,
  role: LightRole,
  light: NonNullable<Assignment['light']>,
): string {
  const start = startState(role, light)
  if (light.setBy.kind === 'steady') return start
  switch (look.kind) {
    case 'start':
      return start
    case 'state':
      return stateNamed(role, look.state)?.name ?? start
    case 'value':
      return light.setBy.kind === 'feedback' ? stateForValue(role, look.value) : start
    case 'active':
      return look.gestures.has(ref) ? (stateNamed(role, ON)?.name ?? start) : start
    case 'played': {
      const value = light.setBy.kind === 'feedback' ? look.values.get(control) : undefined
      if (value !== undefined) return stateForValue(role, value)
      const isActive = light.setBy.kind !== 'feedback' && look.active.has(ref)
      return isActive ? (stateNamed(role, ON)?.name ?? start) : start
    }
  }
}

/** What a control is lit by in what is shown: the first of its gestures whose assignment has a light. */
function lightOf(rig: Rig, controller: Controller, showing: Showing, control: Control) {
  for (const gesture of control.gestures) {
    const place = shownPlace(controller, showing, `${control.id}.${gesture}`)
    const assignment = place && programmedAt(rig, place)?.assignment
    const role = assignment?.light && rig.lightRoles.find(({ id }) => id === assignment.light?.role)
    if (place && assignment?.light && role) return { place, light: assignment.light, role }
  }
  return null
}

/** A layer that a control of a controller chooses by itself, and whether it shows now. */
function chosenLayer(
  rig: Rig,
  controller: Controller,
  showing: Readonly<Record<Id, Showing>>,
  control: Control,
): { colour: string; isShown: boolean } | null {
  const own = new Set(control.gestures.map((gesture) => `${controller.id}/${control.id}.${gesture}`))
  for (const { by, how, targets } of rig.choices) {
    if (by.kind !== 'gesture' || !own.has(by.gesture) || how !== 'this-one') continue
    for (const target of targets) {
      if (target.kind !== 'layers') continue
      const layers = rig.controllers
        .find(({ id }) => id === target.controller)
        ?.templates.find(({ id }) => id === target.template)
        ?.stacks.find(({ id }) => id === target.stack)?.layers
      const layer = layers?.find(({ id }) => id === target.layers[0])
      if (layer?.colour)
        return {
          colour: layer.colour,
          isShown: showing[target.controller]?.layers[target.stack] === layer.id,
        }
    }
  }
  return null
}

/** A colour at a third of its light: how what is not active shows. */
const dimmed = (colour: string): string =>
  `#${[1, 3, 5]
    .map((at) =>
      Math.round(parseInt(colour.slice(at, at + 2), 16) / 3)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`

/**
 * Every light of a controller in what is shown, or that of one control only. A control whose kind has no light is left out.
 */
export function lightPicture(
  rig: Rig,
  controller: Controller,
  showing: Readonly<Record<Id, Showing>>,
  look: LightLook = { kind: 'start' },
  only: Id | null = null,
): Lit[] {
  const { surface, abilities } = modelOf(rig, controller)
  const own = showing[controller.id]
  if (!abilities.lights || !own) return []
  return surface.controls.flatMap((control): Lit[] => {
    if (only !== null && control.id !== only) return []
    const entries = entriesFor(abilities.lights, control.kind)
    const [dark] = entries
    if (!dark) return []
    const lit = lightOf(rig, controller, own, control)
    if (lit) {
      const state = stateIn(look, placeRef(lit.place), control.id, lit.role, lit.light)
      const found = stateNamed(lit.role, state)
      const wanted = found?.colour ?? null
      const shown = found ? shownAs(found.colour, lit.role.states.indexOf(found), entries) : null
      const entry = shown?.entry ?? dark
      return [{ control, role: lit.role, state, wanted, entry, place: lit.place }]
    }
    const layer = chosenLayer(rig, controller, showing, control)
    if (layer) {
      const wanted = layer.isShown ? layer.colour : dimmed(layer.colour)
      return [
        {
          control,
          role: null,
          state: null,
          wanted,
          entry: shownAs(wanted, layer.isShown ? 1 : 0, entries)?.entry ?? dark,
          place: null,
        },
      ]
    }
    return [{ control, role: null, state: null, wanted: null, entry: darkOf(entries) ?? dark, place: null }]
  })
}

/** The entry that is dark: black, else the first. */
export const darkOf = (entries: readonly PaletteEntry[]): PaletteEntry | undefined =>
  nearestEntry('#000000', entries)?.entry
