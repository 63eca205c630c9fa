import { occupancyOf, type Occupancy, type Sender } from '../addresses'
import { noteName, printTag, type Address } from '../midi'
import {
  findGesture,
  gestureName,
  modelOf,
  placeName,
  rigIndex,
  type Destination,
  type GestureKind,
  type Id,
  type Mapping,
  type Parameter,
  type Rig,
  type RigEdit,
} from '../rig'
import { hitsOn, resolveMappings, type ResolvedMapping } from './resolved'
import { teachable } from './teachable'

/** One thing to do at a destination, so that it listens to what the controls send. */
export interface RelearnLine {
  mapping: Mapping
  parameter: Parameter
  kind: 'clear' | 'teach' | 'teach-again'
  /** What the destination listens at now. */
  was: Address | null
  /** What it has to learn; null for one to clear. */
  to: Address | null
  /** What to do, as a sentence. */
  text: string
  /** Why it cannot be done as it is, or null. */
  hindrance: string | null
  /** The edit that says it is done. */
  done: RigEdit
}

/** What has to be done at one destination, in the order in which a player would do it. */
export interface RelearnGroup {
  destination: Destination
  lines: readonly RelearnLine[]
}

const MOVES: Readonly<Record<GestureKind, (name: string) => string>> = {
  turn: (name) => `turn ${name}`,
  push: (name) => `push ${name}`,
  touch: (name) => `touch ${name}`,
  strike: (name) => `strike ${name}`,
  pressure: (name) => `press hard on ${name}`,
  slide: (name) => `move ${name}`,
  x: (name) => `move ${name}`,
  y: (name) => `move ${name}`,
  press: (name) => `press ${name}`,
  tilt: (name) => `tilt ${name}`,
}

/** What a hand does with a control, and where: "turn Width in Overture (Syzra 24)". */
function movement(rig: Rig, sender: Sender, key: number | null = null): { text: string; control: string } {
  const found = findGesture(rig, sender.gesture)
  const { controller, layer } = placeName(rig, sender.place)
  if (!found) return { text: 'move its control', control: controller }
  const where = `${layer === null ? '' : ` in ${layer}`} (${controller})`
  const name = `${key === null ? '' : `${noteName(key, rig.middleC)} of `}${gestureName(found.control, found.gesture)}`
  return { text: `${MOVES[found.gesture](name)}${where}`, control: `${name}${where}` }
}

/** Is a mapping left over from a control that is gone, or put away? */
const isOld = (rig: Rig, { gesture }: Mapping): boolean =>
  gesture === null || findGesture(rig, gesture)?.controller.inUse !== true

const capital = (text: string): string => text.slice(0, 1).toUpperCase() + text.slice(1)

function hindranceOf({ destination }: ResolvedMapping, address: Address): string | null {
  const { kind } = address.target
  if (destination.learns.length === 0 || destination.learns.some((each) => each === kind)) return null
  return `${destination.name} cannot learn ${printTag(address)}: let the control send something else first.`
}

function lineOf(rig: Rig, occupancy: Occupancy, resolved: ResolvedMapping): RelearnLine | null {
  const { mapping, parameter, listening, meeting } = resolved
  const was = listening?.address ?? null
  if (isOld(rig, mapping)) {
    const strangers = hitsOn(occupancy, resolved).filter(({ sender }) => sender.gesture !== mapping.gesture)
    if (was === null || strangers.length === 0) return null
    const [first] = strangers
    const by = first ? movement(rig, first.sender).control : ''
    return {
      mapping,
      parameter,
      kind: 'clear',
      was,
      to: null,
      text: `Clear ${printTag(was)}: ${by} sets it off now.`,
      hindrance: null,
      done: { type: 'mapping-remove', mapping: mapping.id },
    }
  }
  if (listening?.by === 'chart' || meeting.length > 0) return null
  // What never arrives cannot be taught: the findings say where it stops.
  const found = teachable(rig, resolved)
  if (!found) return null
  const { text } = movement(rig, found.sender, mapping.key)
  return {
    mapping,
    parameter,
    kind: was === null ? 'teach' : 'teach-again',
    was,
    to: found.address,
    text: was === null ? `${capital(text)}.` : `Clear ${printTag(was)}, then ${text}.`,
    hindrance: hindranceOf(resolved, found.address),
    done: { type: 'mapping-set', mapping: mapping.id, set: { learnedAt: found.address } },
  }
}

/** Where a line stands in the sitting: old mappings first, then scope by scope, layer by layer, control by control. */
function turnsOf(rig: Rig, resolved: ResolvedMapping, { kind }: RelearnLine): readonly number[] {
  const scope = resolved.destination.scopes.findIndex(({ id }) => id === resolved.mapping.scope)
  const [sender] = resolved.senders
  const owner = sender && rigIndex(rig).controllers.get(sender.place.controller)
  const controller = owner ? rig.controllers.indexOf(owner) : -1
  const found = sender ? findGesture(rig, sender.gesture) : null
  const control = owner && found ? modelOf(rig, owner).surface.controls.indexOf(found.control) : -1
  const template = owner?.templates.find(({ id }) => id === sender?.place.template)
  const layers = template?.stacks.flatMap(({ layers }) => layers.map(({ id }) => id)) ?? []
  const layer = layers.indexOf(sender?.place.layer ?? '')
  return [kind === 'clear' ? 0 : 1, scope, controller, layer, control]
}

const byTurns = (a: readonly number[], b: readonly number[]): number => {
  const at = a.findIndex((value, index) => value !== b[index])
  return at < 0 ? 0 : (a[at] ?? 0) - (b[at] ?? 0)
}

/**
 * What must be taught again, by destination: mappings whose control sends another address than was learned, or
 * that were never taught, and old mappings that another control sets off. What listens by a chart of its own
 * cannot be taught and is not here. Empty when every destination hears what it should.
 */
export function relearnList(rig: Rig, occupancy: Occupancy = occupancyOf(rig)): RelearnGroup[] {
  const groups = new Map<Id, Array<{ line: RelearnLine; turns: readonly number[] }>>()
  for (const resolved of resolveMappings(rig)) {
    const line = lineOf(rig, occupancy, resolved)
    if (!line) continue
    const list = groups.get(resolved.destination.id) ?? []
    groups.set(resolved.destination.id, list)
    list.push({ line, turns: turnsOf(rig, resolved, line) })
  }
  return rig.destinations.flatMap((destination) => {
    const lines = groups.get(destination.id)?.sort((a, b) => byTurns(a.turns, b.turns)) ?? []
    return lines.length === 0 ? [] : [{ destination, lines: lines.map(({ line }) => line) }]
  })
}
