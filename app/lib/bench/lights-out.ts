import { lightsNow, showingsOf, type BenchState } from '#core/bench'
import { lightAddress, lightInitBytes } from '#core/lights'
import { portKey, type Id, type Rig } from '#core/rig'

/** What the lights of one controller are to be told, light by light. */
export interface LightsOut {
  controller: Id
  /** The in of the controller, by its key. */
  port: string
  messages: ReadonlyArray<{ control: Id; bytes: readonly number[] }>
}

/** The messages that set the lights of controllers, whose ins are among some ports, to what they show on the Bench. */
export function lightsFor(rig: Rig, state: BenchState, ports: ReadonlySet<string>): LightsOut[] {
  const showings = showingsOf(state.controllers)
  return rig.controllers.flatMap((controller) => {
    const own = state.controllers[controller.id]
    const port = controller.ports
      .filter(({ direction }) => direction === 'in')
      .map(({ id }) => portKey({ owner: controller.id, port: id }))
      .find((key) => ports.has(key))
    if (!own || !port) return []
    const messages = lightsNow(rig, controller, showings, own).flatMap(({ control, state: shows, entry }) => {
      const address = lightAddress(rig, controller, own.showing, control, shows)
      if (!address) return []
      const message = {
        controller: controller.id,
        control: control.id,
        address,
        value: entry.index,
        text: '',
      }
      return [{ control: control.id, bytes: lightInitBytes(message) }]
    })
    return [{ controller: controller.id, port, messages }]
  })
}
