import { mappingName } from '../../mappings'
import { findGesture, type Id, type Mapping, type Place, type Rig } from '../../rig'
import { lightInit, lightInitBytes, lightPicture } from '../../lights'
import { comeInAt, startRunning } from '../running'
import { lightsNow, showingsOf } from '../lights'
import { traceGesture } from '../trace'
import type { Scene } from './scenes'
import type { Told } from './told'

/** A mapping that nothing moved in whatever layer, scope or passage; with where it stops. */
export function unreached(rig: Rig, mapping: Mapping, place: Place | null): Told {
  const [trace] =
    mapping.gesture === null
      ? []
      : traceGesture(rig, mapping.gesture).filter((each) => each.mapping === mapping.id)
  const isTaught = mapping.learnedAt !== null
  return {
    weight: 'fault',
    text: `Nothing moves ${mappingName(rig, mapping)}. ${trace?.broken?.why ?? (isTaught ? 'What its control sends does not arrive where it listens.' : 'It was never taught.')}`,
    cure: trace?.broken?.cure ?? 'Teach it again.',
    place,
    mapping: mapping.id,
    concerns: 'one',
    parameter: { destination: mapping.destination, id: mapping.parameter },
  }
}

/** Why a mapping is not rehearsed, as a sentence; null where it is. */
export function leftOut(rig: Rig, { gesture }: Mapping): string | null {
  const found = gesture === null ? null : findGesture(rig, gesture)
  if (!found) return 'Its control is gone.'
  return found.controller.inUse ? null : `${found.controller.name} is put away.`
}

/** Lights that the wake sequence does not set as they are wanted, in a scene. */
export function wakeFaults(rig: Rig, { state }: Scene, controllerId: Id): Told[] {
  const controller = rig.controllers.find(({ id }) => id === controllerId)
  if (!controller) return []
  const showings = showingsOf(state.controllers)
  const running = startRunning(rig, state)
  for (const message of lightInit(rig, [controller], showings).messages)
    comeInAt(running, controller, lightInitBytes(message), 0)
  const after = running.state.controllers[controllerId]
  if (!after) return []
  const wanted = new Map(lightPicture(rig, controller, showings).map((lit) => [lit.control.id, lit]))
  const shown = lightsNow(rig, controller, showings, after)
  return shown.flatMap((lit): Told[] => {
    const meant = wanted.get(lit.control.id)
    if (!meant || meant.entry.index === lit.entry.index || !after.lights[lit.control.id]) return []
    return [
      {
        weight: 'fault',
        text: `After the wake sequence ${lit.control.label || lit.control.kind} (${controller.name}) shows ${lit.entry.name} in place of ${meant.entry.name}: another light has the same number.`,
        cure: 'Give each light a number of its own.',
        place: meant.place,
        mapping: null,
        concerns: 'one',
        parameter: null,
      },
    ]
  })
}
