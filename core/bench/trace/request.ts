import * as z from 'zod/mini'
import { findGesture, parameterOf, rigIndex, type Rig } from '../../rig'
import { Id, or, orNull } from '../../rig/schema/primitives'
import { GestureRef } from '../../rig/schema/references'
import { selectionsOf } from '../selection'
import { traceGesture, traceParameter, type Trace, type TraceFrom } from '.'

/** Six names of a path and what is between them. */
const MOST_GROUP_LETTERS = 1024

const from = {
  /** The template and layers that controllers show, where that is not what they show at power-up. */
  showing: or(z.record(Id, z.strictObject({ template: Id, layers: z.record(Id, z.nullable(Id)) })), {}),
  /** The scopes that destinations are in. */
  scopes: or(z.record(Id, orNull(Id)), {}),
  /** What is selected in destinations, a track as a rule: one of the groups of their parameters, joined by " / ". */
  selected: or(z.record(Id, orNull(z.string().check(z.maxLength(MOST_GROUP_LETTERS)))), {}),
}

/** What is asked of a trace: what a gesture leads to, or what leads to a parameter. */
export const TraceRequest = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('gesture'), gesture: GestureRef, ...from }),
  z.strictObject({ kind: z.literal('parameter'), destination: Id, parameter: Id, ...from }),
])
export type TraceRequest = z.infer<typeof TraceRequest>

/** What of a request is not in the rig, with its path; empty where it can be answered. */
export function traceProblems(rig: Rig, request: TraceRequest): Array<{ path: string; message: string }> {
  const problems: Array<{ path: string; message: string }> = []
  const missing = (path: string, id: string): void => {
    problems.push({ path: `request.${path}`, message: `“${id}” is not in the rig.` })
  }
  const { controllers, destinations } = rigIndex(rig)
  for (const [id, { template }] of Object.entries(request.showing)) {
    const owner = controllers.get(id)
    if (!owner) missing(`showing.${id}`, id)
    else if (!owner.templates.some((each) => each.id === template))
      missing(`showing.${id}.template`, template)
  }
  for (const id of Object.keys(request.scopes)) if (!destinations.has(id)) missing(`scopes.${id}`, id)
  for (const [id, selected] of Object.entries(request.selected)) {
    const owner = destinations.get(id)
    if (!owner) missing(`selected.${id}`, id)
    else if (selected !== null && !selectionsOf(owner).includes(selected)) missing(`selected.${id}`, selected)
  }
  if (request.kind === 'gesture') {
    if (!findGesture(rig, request.gesture)) missing('gesture', request.gesture)
    return problems
  }
  const owner = destinations.get(request.destination)
  if (!owner) missing('destination', request.destination)
  else if (!parameterOf(owner, request.parameter)) missing('parameter', request.parameter)
  return problems
}

/** The traces that a request asks for. */
export function traced(rig: Rig, request: TraceRequest): Trace[] {
  const at: TraceFrom = {
    showing: request.showing,
    scopes: request.scopes,
    selected: request.selected,
  }
  return request.kind === 'gesture'
    ? traceGesture(rig, request.gesture, at)
    : traceParameter(rig, request.destination, request.parameter, at)
}
